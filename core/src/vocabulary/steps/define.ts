import {
  Literal,
  Object as Obj,
  Optional,
  type Static,
  type TLiteral,
  type TObject,
  type TOptional,
  type TProperties,
  type TSchema,
} from '@sinclair/typebox';
import { namesIn } from '../../expression/ast.ts';
import { slot, type Form, type Part } from '../../fields/forms.ts';
import { strict, type Timing } from '../../fields/step-fields.ts';
import type { Acting } from '../acting.ts';
import { notDone, type Stepped } from '../stepped.ts';
import type { Target } from '../target.ts';
import type { Transition } from '../transitions/all.ts';

/** What a step is: its form in documents, its words, how it is written, and what it does. */
export interface StepKind<S extends TSchema = TSchema> {
  readonly do: string;
  readonly label: string;
  readonly meaning: string;
  readonly schema: S;
  readonly fresh: Static<S>;
  /** How it is written; the first that fits is printed. */
  readonly forms: readonly Form[];
  /** How it is said on screen, where that differs from how it is written. */
  readonly words?: (step: Static<S>, named: Naming) => string;
  readonly run: (acting: Acting, step: Static<S>) => Stepped;
  /** The frame it brings onto the screen, or the place. */
  readonly leadsTo?: (step: Static<S>) => Target;
  /** What it is for is to bring something else before the eyes: a frame, a page, a moment. */
  readonly isLeading?: true;
  /** It changes nothing in the piece but where the person is. */
  readonly changesNothing?: true;
  /** Doing it twice comes to the same as doing it once. */
  readonly isRepeatable?: (step: Static<S>) => boolean;
  /** What it does to a timeline, where that is what it is for. */
  readonly inTime?: 'sets going' | 'changes';
  /** The label that it brings a timeline to; null for none. */
  readonly labelOf?: (step: Static<S>) => string | null;
}

/** Names of what a step speaks of, for sentences. */
export interface Naming {
  readonly target: (target: Target) => string;
  readonly transition: (transition: Transition) => string;
}

type Common = { with: TOptional<TLiteral<true>>; lasting: TOptional<TLiteral<true>> };

/** Every step can start together with the one before (`with`), and can go on when its scene is left (`lasting`). */
export const stepSchema = <const T extends string, P extends TProperties>(type: T, properties: P) =>
  Obj({ do: Literal(type), ...properties, with: Optional(Literal(true)), lasting: Optional(Literal(true)) }, strict) as unknown as TObject<
    { do: TLiteral<T> } & P & Common
  >;

export const defineStep = <S extends TSchema>(kind: StepKind<S>): StepKind<S> => kind;

/** A way to write a step; fields that it stands for by itself, and its parts. */
export const stepForm = (type: string, sets: Record<string, unknown>, ...parts: Part[]): Form => ({ sets: { do: type, ...sets }, parts });

export const transitionSlot = slot('transition', 'transition');
export const timingSlot = slot('timing', 'timing');
export const playableSlot = slot('of', 'playable');

export const CUT = { type: 'cut' } as const;

/** How long a transition takes, its delay included, in ms. */
export const timeOf = (transition: Transition): number => (transition.type === 'cut' ? 0 : transition.ms + (transition.delay ?? 0));

/** The same for a tween. */
export const lasts = (timing: Timing | undefined): number => (timing ? timing.ms + (timing.delay ?? 0) : 0);

export const labelMissing = (): Stepped => notDone('missing-target', 'The thread does not say which label yet.');

export const noTimeline = (): Stepped => notDone('no-timeline', 'This scene has no timeline.');

/** Whether an expression gives the same whatever else is so. */
export const isConstant = (expression: string): boolean => namesIn(expression).length === 0;
