import { Literal, Object as Obj, type Static, type TSchema } from '@sinclair/typebox';
import { strict } from '../../fields/step-fields.ts';
import type { Form, Part, SlotKind } from '../../fields/forms.ts';
import type { OccasionOf, OccasionType, PlainOccasion, Tried } from '../occasions.ts';

/** What a thread belongs to. */
export type OwnerKind = 'layer' | 'scene' | 'piece';

/** What a cue is: its form in documents, its words, how it is written, and what it waits for. */
export interface CueKind<S extends TSchema = TSchema, T extends OccasionType = OccasionType> {
  readonly type: string;
  /** In menus. */
  readonly label: string;
  readonly meaning: string;
  readonly owners: readonly OwnerKind[];
  readonly schema: S;
  /** What a new cue of this type starts as. */
  readonly fresh: Static<S>;
  /** How it is written; the first that fits is printed. */
  readonly forms: readonly Form[];
  /** The beginning of the sentence on screen. `named` prints what a field names. */
  readonly when: (cue: Static<S>, named: (path: string, kind: SlotKind) => string) => string;
  /** The kind of occasion that it waits for. */
  readonly hears: T;
  /** Which of them; any if not given. */
  readonly fits?: (cue: Static<S>, occasion: OccasionOf<T>) => boolean;
  /** It comes from a pointer, by pressing or otherwise: a layer with a thread for it catches the pointer. */
  readonly pointer?: 'pressing' | 'moving';
  /** What has to be tried for it, where its type alone does not say that. */
  readonly tries?: (cue: Static<S>) => readonly Tried[];
  /** For those that wait for a time: how long, in ms. */
  readonly waits?: (cue: Static<S>) => number;
}

export const defineCue = <S extends TSchema, T extends OccasionType>(kind: CueKind<S, T>): CueKind<S, T> => kind;

/** A way to write a cue; fields that it stands for by itself, and its parts. */
export const cueForm = (type: string, sets: Record<string, unknown>, ...parts: Part[]): Form => ({ sets: { type, ...sets }, parts });

export const cueSchema = <const T extends string>(type: T) => Obj({ type: Literal(type) }, strict);

/** The longest time that a cue can wait for, in ms: a day. */
export const LONGEST = 86_400_000;

export const ANYWHERE: readonly OwnerKind[] = ['layer', 'scene', 'piece'];
export const ON_LAYERS: readonly OwnerKind[] = ['layer'];
export const IN_SCENES: readonly OwnerKind[] = ['layer', 'scene'];

/** A cue that says nothing but its type. */
export const definePlainCue = <const T extends PlainOccasion>(
  type: T,
  kind: {
    readonly label: string;
    readonly meaning: string;
    readonly when: string;
    readonly owners?: readonly OwnerKind[];
    readonly pointer?: 'pressing' | 'moving';
  }
) =>
  defineCue({
    owners: ANYWHERE,
    ...kind,
    type,
    schema: cueSchema(type),
    fresh: { type } as never,
    forms: [cueForm(type, {}, type)],
    when: () => kind.when,
    hears: type,
  });
