import {
  Array as ArrayOf,
  Boolean as Bool,
  Integer,
  Literal,
  Null,
  Number as Num,
  Object as Obj,
  Optional,
  String as Str,
  Union,
  type Static,
} from '@sinclair/typebox';
import { id, layerPath, name, oneOf, PATH_PATTERN } from '../fields/scalars.ts';

/** What is kept with a piece for walking it: walks that have to go on leading where they led, and loose ends that are set aside. */

const strict = { additionalProperties: false } as const;
const place = () => Num({ minimum: -1e7, maximum: 1e7 });
const value = () => Union([Bool(), Num(), Str({ maxLength: 2000 })]);
const layerOrNone = () => Union([layerPath(), Null()]);
const on = { layer: layerOrNone(), scene: Optional(id('frame')) };

/** What a person does, or time brings, as the engine takes it. Layers are named by their paths. */
export const KeptEventSchema = Union([
  ...(['click', 'hold', 'double-click', 'long-press'] as const).map((type) => Obj({ type: Literal(type), ...on }, strict)),
  Obj({ type: Literal('swipe'), ...on, direction: oneOf(['left', 'right', 'up', 'down'] as const) }, strict),
  Obj({ type: Literal('let-go'), where: oneOf(['there', 'elsewhere'] as const) }, strict),
  Obj({ type: Literal('beside') }, strict),
  Obj({ type: Literal('leave') }, strict),
  Obj({ type: Literal('hover'), layer: layerPath() }, strict),
  Obj({ type: Literal('drag'), layer: layerPath(), dx: place(), dy: place() }, strict),
  Obj({ type: Literal('scroll'), layer: layerOrNone(), x: place(), y: place() }, strict),
  Obj({ type: Literal('key'), key: Str({ minLength: 1, maxLength: 40 }) }, strict),
  Obj({ type: Literal('focus'), layer: layerOrNone() }, strict),
  Obj({ type: Literal('value'), layer: layerPath(), value: value() }, strict),
  Obj({ type: Literal('media'), layer: layerPath(), what: oneOf(['started', 'ended'] as const) }, strict),
  Obj({ type: Literal('pad'), button: Integer({ minimum: 0, maximum: 99 }) }, strict),
  Obj({ type: Literal('signal'), signal: Str({ minLength: 1, maxLength: 120 }) }, strict),
  Obj({ type: Literal('set'), variable: id('variable'), value: value() }, strict),
  Obj({ type: Literal('wait'), ms: Num({ minimum: 0, maximum: 86_400_000 }) }, strict),
]);

/** One thing done, and where the piece has to be when it has come to rest. */
export const KeptStepSchema = Obj(
  {
    event: KeptEventSchema,
    frame: id('frame'),
    laid: Optional(ArrayOf(id('frame'), { maxItems: 20, description: 'frames laid over, the topmost last' })),
    state: Optional(id('state')),
    values: Optional(
      ArrayOf(Obj({ variable: id('variable'), value: value() }, strict), {
        maxItems: 200,
        description: 'variables that it made another, as they are then',
      })
    ),
  },
  strict
);

export const MOST_STEPS_KEPT = 500;

export const KeptWalkSchema = Obj(
  {
    name: name(),
    order: Str({ pattern: '^[0-9A-Za-z]{1,200}$' }),
    from: id('frame'),
    steps: ArrayOf(KeptStepSchema, { minItems: 1, maxItems: MOST_STEPS_KEPT }),
  },
  strict
);

/** Why a loose end is no matter, and what its place was like then: it comes back when that is another. */
export const AsideSchema = Obj({ reason: Str({ minLength: 1, maxLength: 500 }), mark: Str({ pattern: '^[0-9a-z]{1,16}$' }) }, strict);

export const MOST_ASKED = 500;

/** What somebody has said that is to be mended, and about what; that may be gone by now. */
export const AskedSchema = Obj(
  {
    words: Str({ minLength: 1, maxLength: 500 }),
    by: name(),
    scene: id(),
    layer: Optional(Str({ pattern: PATH_PATTERN })),
    thread: Optional(id()),
  },
  strict
);

export type KeptEvent = Static<typeof KeptEventSchema>;
export type KeptStep = Static<typeof KeptStepSchema>;
export type KeptWalk = Static<typeof KeptWalkSchema>;
export type Aside = Static<typeof AsideSchema>;
export type Asked = Static<typeof AskedSchema>;
