import type { LayerType } from '../layers/all.ts';
import type { TOptional, TSchema } from '@sinclair/typebox';

/** How values between two of them come about: a colour by its light, a path point by point, a share within 0 and 1. */
export type Mixing = 'number' | 'length' | 'share' | 'colour' | 'path';

/** A layer, as far as what can have keys depends on it. */
export interface Suited {
  readonly type: LayerType;
  readonly text?: string | undefined;
}

/** What of a layer can have keys: where a layer keeps it, how it is on its way, and for which layers it is. */
export interface PropertyKind<N extends string = string, G extends string = string, S extends TSchema | undefined = TSchema | undefined> {
  readonly name: N;
  /** In rows and menus. */
  readonly words: string;
  /** Where a layer keeps it: in its pose, its style, its letters, or right away. */
  readonly group: G;
  /** What it is of in there, where it has that with others: a line has a colour and a width. */
  readonly of?: { readonly field: string; readonly inner: string; readonly fresh: object };
  /** The field that it is, where it is one of style or letters by itself. */
  readonly schema?: S;
  /** What a layer has that says nothing. */
  readonly neutral: number | string;
  /** Whether that is the same as having none of it. */
  readonly isNothing?: true;
  /** A layer can be without it altogether: then nothing of it is seen, rather than what is neutral. */
  readonly canMiss?: true;
  readonly mixing: Mixing;
  /** It moves or reshapes the layer, rather than fading or colouring it. */
  readonly moves?: true;
  /** It is where the layer is and how large. */
  readonly places?: true;
  /** Words look another way by it, so they are not judged while it changes. */
  readonly isRead?: true;
  /** For which layers; all if not given. */
  readonly suits?: (layer: Suited) => boolean;
  /** Where it is a style declaration by itself, as which one (CSS); `''` takes it away. */
  readonly css?: { readonly name: string; readonly text: (value: never) => string; /** Canvases know it besides. */ readonly isPainted?: true };
}

/** A field of its own: optional in the schema. */
export type OwnField = TOptional<TSchema>;

export const defineProperty = <
  const N extends string,
  const G extends 'pose' | 'style' | 'letters' | 'layer',
  S extends OwnField | undefined = undefined,
>(
  kind: PropertyKind<N, G, S>
): PropertyKind<N, G, S> => kind;

export const hasWords = ({ text }: Suited): boolean => text !== undefined;
