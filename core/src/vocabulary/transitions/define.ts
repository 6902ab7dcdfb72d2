import { Literal, Object as Obj, type Static, type TSchema } from '@sinclair/typebox';
import { oneOf } from '../../fields/scalars.ts';
import { strict, timingFields, type Timing } from '../../fields/step-fields.ts';
import { DIRECTIONS, type Direction } from '../directions.ts';
import type { Change, Placed, Size, Way } from './moving.ts';

/** What a transition is: its form in documents, its words, and how it moves whole frames. */
export interface TransitionKind<S extends TSchema = TSchema> {
  readonly type: string;
  readonly label: string;
  readonly meaning: string;
  readonly schema: S;
  readonly fresh: Static<S>;
  /** It comes from or goes to a side. */
  readonly hasDirection?: true;
  /** Frames stand still and the layers that both have go from pose to pose. */
  readonly movesLayers?: true;
  /** Nothing changes its place, so it stays where movement is turned off. */
  readonly isStill?: true;
  /** An easing that goes too far goes no further than the end: between two frames side by side it would bare the ground. */
  readonly isBounded?: true;
  /** The ways of all frames; later ones are in front. None is given by what moves no whole frames. */
  readonly ways?: (onScreen: readonly Placed[], change: Change) => Way[];
  /** It says itself how a frame that is on screen already comes back; else what is in front of it goes back where it came from. */
  readonly bringsBack?: true;
  /** Where a frame that was laid over ends when it is lifted; moved out to the side if not given. */
  readonly lifted?: (placed: Placed, direction: Direction, size: Size) => Placed;
}

export const defineTransition = <S extends TSchema>(kind: TransitionKind<S> & { readonly fresh: Static<S> }): TransitionKind<S> => kind;

export const timedSchema = <const T extends string>(type: T) => Obj({ type: Literal(type), ...timingFields }, strict);

export const directedSchema = <const T extends string>(type: T) =>
  Obj({ type: Literal(type), direction: oneOf(DIRECTIONS), ...timingFields }, strict);

/** What a transition starts as. */
export const USUAL: Timing = { ms: 300, easing: 'ease-out' };

export const FROM_THE_LEFT = { direction: 'left', ...USUAL } as const;
