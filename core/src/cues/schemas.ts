import { Integer, Literal, Null, Number as Num, Object as Obj, Optional, String as Str, Union, type Static } from '@sinclair/typebox';
import { ANY, id, layerPath, oneOf, type Refers } from '../piece/scalars.ts';
import { DIRECTIONS } from '../transitions/directions.ts';

/** The document form of each cue; `cues/kinds.ts` holds what they mean in words and lines. */

const strict = { additionalProperties: false } as const;
const milliseconds = () => Num({ minimum: 1, maximum: 86_400_000 });
const plain = <const T extends string>(type: T) => Obj({ type: Literal(type) }, strict);
const chosen = (refers: Refers) => Union([id(refers), Null()]);

export const cueSchemas = [
  plain('click'),
  plain('double click'),
  plain('press'),
  plain('release'),
  plain('hover'),
  plain('leave'),
  Obj({ type: Literal('long press'), ms: milliseconds() }, strict),
  plain('drag start'),
  plain('drag'),
  /** `on`: only when let go over that layer. */
  Obj({ type: Literal('drop'), on: Optional(Union([layerPath(), Null()])) }, strict),
  Obj({ type: Literal('swipe'), direction: oneOf(DIRECTIONS) }, strict),
  /** `by` CSS pixels further than where the direction last turned. */
  Obj({ type: Literal('scroll'), direction: oneOf(['down', 'up'] as const), by: Num({ minimum: 0, maximum: 100_000 }) }, strict),
  plain('in view'),
  /** `key` is a KeyboardEvent.key value, with Ctrl+, Alt+ or Shift+ in front. */
  Obj({ type: Literal('key'), key: Str({ minLength: 1, maxLength: 40 }) }, strict),
  plain('focus'),
  plain('blur'),
  plain('change'),
  Obj({ type: Literal('selected'), what: oneOf(['on', 'off'] as const) }, strict),
  Obj({ type: Literal('enabled'), what: oneOf(['on', 'off'] as const) }, strict),
  /** Of the scene, or of a placement's part; `state` null is any. */
  Obj({ type: Literal('state'), change: oneOf(['entered', 'left'] as const), state: Union([Str({ ...id('state'), [ANY]: true }), Null()]) }, strict),
  Obj({ type: Literal('variable'), variable: chosen('variable') }, strict),
  /** `ms` milliseconds after the scene was entered, or the state where one is named. */
  Obj({ type: Literal('after'), ms: milliseconds(), state: Optional(chosen('state')) }, strict),
  Obj({ type: Literal('label'), label: chosen('label') }, strict),
  Obj({ type: Literal('media'), what: oneOf(['started', 'ended'] as const) }, strict),
  Obj({ type: Literal('pad'), button: Integer({ minimum: 0, maximum: 99 }) }, strict),
  Obj({ type: Literal('signal'), signal: Str({ minLength: 1, maxLength: 120 }) }, strict),
];

export type Cue = Static<(typeof cueSchemas)[number]>;
export type CueType = Cue['type'];
export type CueOf<T extends CueType> = Extract<Cue, { type: T }>;
