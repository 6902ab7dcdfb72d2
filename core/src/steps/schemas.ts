import { Literal, Null, Number as Num, Object as Obj, String as Str, Union, type Static } from '@sinclair/typebox';
import { id, oneOf } from '../piece/scalars.ts';
import { DIRECTIONS } from '../transitions/directions.ts';

/** The document form of each step; `steps/index.ts` holds what they do. */

const strict = { additionalProperties: false } as const;
const milliseconds = () => Num({ minimum: 0, maximum: 60_000 });
const easing = () => Str({ minLength: 1, maxLength: 200, description: 'a CSS easing function' });

export const TransitionSchema = Union([
  Obj({ type: Literal('cut') }, strict),
  Obj({ type: Literal('dissolve'), ms: milliseconds(), easing: easing() }, strict),
  Obj({ type: Literal('push'), direction: oneOf(DIRECTIONS), ms: milliseconds(), easing: easing() }, strict),
]);

export const PLACES = ['next', 'previous', 'first', 'last', 'back', 'start'] as const;

/** A frame by id (null while none is chosen), or a place relative to where the person is. */
export const TargetSchema = Union([
  Obj({ to: Literal('frame'), frame: Union([id(), Null()]) }, strict),
  ...PLACES.map((place) => Obj({ to: Literal(place) }, strict)),
]);

export const GoToStep = Obj({ do: Literal('go'), target: TargetSchema, transition: TransitionSchema }, strict);

export const OpenStep = Obj({ do: Literal('open'), address: Str({ maxLength: 2000 }), tab: oneOf(['same', 'new'] as const) }, strict);

export const stepSchemas = [GoToStep, OpenStep];

export type Transition = Static<typeof TransitionSchema>;
export type Place = (typeof PLACES)[number];
export type Target = { to: 'frame'; frame: string | null } | { to: Place };
export type GoToStep = { do: 'go'; target: Target; transition: Transition };
export type OpenStep = Static<typeof OpenStep>;
export type Step = GoToStep | OpenStep;
export type StepType = Step['do'];
