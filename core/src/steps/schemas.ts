import { Literal, Null, Number as Num, Object as Obj, Optional, String as Str, Union, type Static, type TProperties } from '@sinclair/typebox';
import { expression, id, layerPath, oneOf, type Refers } from '../piece/scalars.ts';
import { DIRECTIONS } from '../transitions/directions.ts';

/** The document form of each step; `steps/kinds.ts` holds their words, `run/steps/` what they do. */

const strict = { additionalProperties: false } as const;
const milliseconds = () => Num({ minimum: 0, maximum: 600_000 });
const easing = () => Str({ minLength: 1, maxLength: 200, description: 'a CSS easing function, spring() or overshoot()' });
const chosen = (refers: Refers) => Union([id(refers), Null()]);
const layer = () => Union([layerPath(), Null()]);
const what = () => oneOf(['on', 'off', 'toggle'] as const);

/** Every step can start together with the one before (`with`), and can go on when its scene is left (`lasting`). */
const step = <P extends TProperties>(properties: P) =>
  Obj({ ...properties, with: Optional(Literal(true)), lasting: Optional(Literal(true)) }, strict);

const timing = {
  ms: milliseconds(),
  easing: easing(),
  delay: Optional(milliseconds()),
  stagger: Optional(Obj({ by: oneOf(['order', 'distance'] as const), ms: milliseconds() }, strict)),
};

export const TimingSchema = Obj(timing, strict);

export const TransitionSchema = Union([
  Obj({ type: Literal('cut') }, strict),
  ...(['dissolve', 'tween'] as const).map((type) => Obj({ type: Literal(type), ...timing }, strict)),
  ...(['push', 'cover', 'uncover', 'wipe'] as const).map((type) => Obj({ type: Literal(type), direction: oneOf(DIRECTIONS), ...timing }, strict)),
]);

export const PLACES = ['next', 'previous', 'first', 'last', 'back', 'start'] as const;

/** A frame by id (null while none is chosen), or a place relative to where the person is. */
export const TargetSchema = Union([
  Obj({ to: Literal('frame'), frame: chosen('frame') }, strict),
  ...PLACES.map((place) => Obj({ to: Literal(place) }, strict)),
]);

export const LAY_PLACES = ['center', 'top', 'bottom', 'left', 'right'] as const;

/** Numbers that a step can tween. */
export const TWEENABLE = ['x', 'y', 'width', 'height', 'rotation', 'scale', 'opacity'] as const;

export const stepSchemas = [
  step({ do: Literal('go'), target: TargetSchema, transition: TransitionSchema, replace: Optional(Literal(true)) }),
  step({
    do: Literal('lay'),
    frame: chosen('frame'),
    at: oneOf(LAY_PLACES),
    scrim: Optional(Num({ minimum: 0, maximum: 1, description: 'opacity of the darkened ground; it keeps presses off what lies below' })),
    closes: Optional(Literal(true)),
    transition: TransitionSchema,
  }),
  step({ do: Literal('lift'), transition: TransitionSchema }),
  step({
    do: Literal('state'),
    of: Optional(layerPath('subject')),
    to: Union([
      Obj({ state: chosen('state') }, strict),
      Obj({ move: oneOf(['next', 'previous'] as const), wrap: Optional(Literal(true)) }, strict),
      Obj({ toggle: chosen('state') }, strict),
    ]),
    transition: TransitionSchema,
  }),
  step({ do: Literal('select'), layer: layer(), what: what() }),
  step({ do: Literal('enable'), layer: layer(), what: what() }),
  step({ do: Literal('show'), layer: layer(), what: what(), transition: TransitionSchema }),
  step({
    do: Literal('move'),
    layer: layer(),
    how: oneOf(['by', 'to'] as const),
    x: expression('number'),
    y: expression('number'),
    timing: Optional(TimingSchema),
  }),
  step({ do: Literal('tween'), layer: layer(), property: oneOf(TWEENABLE), value: expression('number'), timing: Optional(TimingSchema) }),
  step({ do: Literal('set'), variable: chosen('variable'), value: expression('variable') }),
  step({
    do: Literal('scroll'),
    to: Union([Obj({ layer: layerPath() }, strict), Obj({ edge: oneOf(['top', 'bottom'] as const) }, strict)]),
    timing: Optional(TimingSchema),
  }),
  step({ do: Literal('play'), of: Optional(layerPath('subject')), from: Optional(chosen('label')) }),
  step({ do: Literal('show label'), label: chosen('label'), of: Optional(layerPath('subject')) }),
  step({ do: Literal('section'), to: oneOf(['next', 'previous'] as const), of: Optional(layerPath('subject')) }),
  step({ do: Literal('pause'), of: Optional(layerPath('subject')) }),
  step({ do: Literal('start over'), of: Optional(layerPath('subject')) }),
  step({ do: Literal('wait'), ms: milliseconds() }),
  step({
    do: Literal('open'),
    address: Str({ maxLength: 2000 }),
    tab: oneOf(['same', 'new'] as const),
    measure: Optional(Str({ minLength: 1, maxLength: 120 })),
  }),
  step({ do: Literal('send'), signal: Str({ minLength: 1, maxLength: 120 }) }),
];

export type Timing = Static<typeof TimingSchema>;
export type Transition = Static<typeof TransitionSchema>;
export type TimedTransition = Exclude<Transition, { type: 'cut' }>;
export type Place = (typeof PLACES)[number];
export type Target = { to: 'frame'; frame: string | null } | { to: Place };
export type Step = Static<(typeof stepSchemas)[number]>;
export type StepType = Step['do'];
export type StepOf<T extends StepType> = Extract<Step, { do: T }>;
export type GoToStep = StepOf<'go'>;
export type OpenStep = StepOf<'open'>;
export type Tweenable = (typeof TWEENABLE)[number];
