import {
  Array as ArrayOf,
  Boolean as Bool,
  Integer,
  Literal,
  Null,
  Number as Num,
  Object as Obj,
  Optional,
  Record as RecordOf,
  String as Str,
  Union,
  type Static,
  type TLiteral,
  type TOptional,
  type TSchema,
  type TString,
} from '@sinclair/typebox';
import { MOST_NOTE } from '../text.ts';
import { cueSchemas } from '../vocabulary/cues/schema.ts';
import { layerKinds, type LayerType } from '../vocabulary/layers/all.ts';
import { propertyKinds, type Tracked } from '../vocabulary/properties/all.ts';
import { fieldsOf } from '../vocabulary/properties/schema.ts';
import { stepSchemas } from '../vocabulary/steps/schema.ts';
import { BINDABLE } from './bindable.ts';
import { color, expression, id, layerPath, name, oneOf, paint, READS, REFERS, type Gives } from '../fields/scalars.ts';
import { FAMILIES } from './faces.ts';
import { AsideSchema, AskedSchema, KeptWalkSchema, MOST_ASKED } from './walks.ts';

/** The contract of a piece document. `docs/piece.schema.json` is printed from here. */

const strict = { additionalProperties: false } as const;
const coordinate = () => Num({ minimum: -100_000, maximum: 100_000 });
const extent = () => Num({ minimum: 1, maximum: 100_000 });
const order = () => Str({ pattern: '^[0-9A-Za-z]{1,200}$', description: 'fractional key; plain string order' });

export const FORMAT = 'zany-thread/3';

/** Entities by id inside another one, so that an edit of one is small. */
const byId = <T extends TSchema>(schema: T, most: number, least?: number) =>
  RecordOf(id(), schema, { ...(least !== undefined && { minProperties: least }), maxProperties: most, ...strict });
const byPath = <T extends TSchema>(schema: T, most: number) => RecordOf(layerPath(), schema, { maxProperties: most, ...strict, [REFERS]: 'layer' });
/** A whole table; its keys are told from its entities' own ids. */
const table = <T extends TSchema>(schema: T, key: TString, most: number) => RecordOf(key, schema, { maxProperties: most, ...strict });

const poseFields = { x: coordinate(), y: coordinate(), width: extent(), height: extent() };
const turnFields = {
  rotation: Optional(Num({ minimum: -36_000, maximum: 36_000, description: 'degrees, clockwise' })),
  scale: Optional(Num({ minimum: 0, maximum: 100 })),
  anchor: Optional(
    Obj(
      { x: Num({ minimum: -10, maximum: 10 }), y: Num({ minimum: -10, maximum: 10 }) },
      { ...strict, description: 'shares of the box; the middle if not given' }
    )
  ),
};

/** CSS pixels, in the space of the parent group or of the scene. */
export const PoseSchema = Obj({ ...poseFields, ...turnFields }, strict);

export const StyleSchema = Obj(
  {
    ...fieldsOf('style'),
    line: Optional(Obj({ color: paint(), width: Num({ minimum: 0, maximum: 200 }) }, strict)),
    shadow: Optional(Obj({ x: coordinate(), y: coordinate(), blur: Num({ minimum: 0, maximum: 1000 }), color: paint() }, strict)),
  },
  strict
);

const { size: sizeField, ...lettersAsKeyed } = fieldsOf('letters');

const letterFields = {
  family: Optional(oneOf(FAMILIES)),
  size: sizeField,
  weight: Optional(Integer({ minimum: 100, maximum: 900 })),
  align: Optional(oneOf(['left', 'center', 'right'] as const)),
  place: Optional(oneOf(['top', 'middle', 'bottom'] as const)),
  leading: Optional(Num({ minimum: 0.5, maximum: 5, description: 'line height as a multiple of the size' })),
};

export const LettersSchema = Obj(
  {
    ...letterFields,
    style: Optional(Str({ ...id(), description: 'a type style; what else is said differs from it' })),
    ...lettersAsKeyed,
  },
  strict
);

const text = () => Str({ maxLength: 5000, description: '{expression} stands for its value, \\\\{ for a brace', [READS]: 'text' });
const asset = () => Str({ pattern: '^[0-9a-f]{64}$' });
const pathData = () => Str({ pattern: '^[Mm][MLHVCSQTAZmlhvcsqtaz0-9 ,.eE+-]{0,20000}$', description: 'SVG path data in a box of 100 by 100' });

/** What a state or a look changes of a layer: only what differs. */
export const DeltaSchema = Obj(
  {
    pose: Optional(
      Obj({ x: Optional(coordinate()), y: Optional(coordinate()), width: Optional(extent()), height: Optional(extent()), ...turnFields }, strict)
    ),
    style: Optional(StyleSchema),
    letters: Optional(LettersSchema),
    text: Optional(text()),
    asset: Optional(asset()),
    path: Optional(pathData()),
    hidden: Optional(Bool()),
    state: Optional(id('state')),
  },
  strict
);

export const LOOKS = ['hover', 'press', 'focus', 'selected', 'selectedHover', 'disabled'] as const;

/** A look may change any layer inside a group or placement, and has its own short transition. */
export const LookSchema = Obj(
  {
    ...DeltaSchema.properties,
    inside: Optional(byPath(DeltaSchema, 500)),
    ms: Optional(Num({ minimum: 0, maximum: 10_000, description: 'how long it takes to appear; 120 if not given' })),
    easing: Optional(Str({ minLength: 1, maxLength: 200 })),
  },
  strict
);

export const FIELD_KINDS = ['text', 'number', 'checkbox', 'switch', 'choice', 'slider'] as const;

export const FieldSchema = Obj(
  {
    kind: oneOf(FIELD_KINDS),
    value: Optional(Union([Str({ maxLength: 2000 }), Num(), Bool()])),
    min: Optional(Num()),
    max: Optional(Num()),
    step: Optional(Num({ exclusiveMinimum: 0 })),
    options: Optional(ArrayOf(Str({ minLength: 1, maxLength: 120 }), { maxItems: 200 })),
    placeholder: Optional(Str({ maxLength: 200 })),
    variable: Optional(id('variable')),
  },
  strict
);

export const DragSchema = Obj(
  {
    axis: oneOf(['x', 'y', 'both'] as const),
    bounds: Optional(
      Obj(
        { left: coordinate(), right: coordinate(), top: coordinate(), bottom: coordinate() },
        { ...strict, description: 'how far from its own place, CSS px' }
      )
    ),
    snap: Optional(ArrayOf(Obj({ x: coordinate(), y: coordinate() }, strict), { maxItems: 100, description: 'offsets it comes to rest at' })),
    inertia: Optional(Bool()),
  },
  strict
);

/** What each binding has to give. */
const GIVEN: Readonly<Record<(typeof BINDABLE)[number], Gives>> = {
  x: 'number',
  y: 'number',
  width: 'number',
  height: 'number',
  rotation: 'number',
  scale: 'number',
  opacity: 'number',
  shown: 'yes/no',
  enabled: 'yes/no',
  selected: 'yes/no',
  state: 'text',
};

export const BindingsSchema = Obj(
  Object.fromEntries(BINDABLE.map((name) => [name, Optional(expression(GIVEN[name]))])) as Record<(typeof BINDABLE)[number], TOptional<TString>>,
  strict
);

export const EDGES = ['top', 'bottom', 'left', 'right'] as const;

export const LayerSchema = Obj(
  {
    id: id(),
    scene: id(),
    parent: Union([id(), Null()]),
    order: order(),
    name: name(),
    type: oneOf(Object.keys(layerKinds) as LayerType[]),
    pose: PoseSchema,
    style: StyleSchema,
    letters: Optional(LettersSchema),
    text: Optional(text()),
    asset: Optional(asset()),
    fit: Optional(oneOf(['fill', 'contain', 'cover'] as const)),
    crop: Optional(
      Obj(
        { x: Num({ minimum: 0, maximum: 1 }), y: Num({ minimum: 0, maximum: 1 }) },
        { ...strict, description: 'what is kept of a picture that is cut to its box: 0 its left or top, 0.5 its middle, 1 its right or bottom' }
      )
    ),
    path: Optional(pathData()),
    field: Optional(FieldSchema),
    media: Optional(
      Obj(
        {
          autoplay: Optional(Bool()),
          loop: Optional(Bool()),
          muted: Optional(Bool()),
          from: Optional(Num({ minimum: 0, maximum: 86_400_000, description: 'what is before is left out, ms' })),
          to: Optional(Num({ minimum: 1, maximum: 86_400_000, description: 'what is after is left out, ms' })),
        },
        strict
      )
    ),
    part: Optional(id('part')),
    fills: Optional(byPath(Obj({ text: Optional(text()), asset: Optional(asset()) }, strict), 500)),
    state: Optional(id('state')),
    reentry: Optional(oneOf(['start over', 'go on', 'once'] as const)),
    looks: Optional(
      Obj(
        Object.fromEntries(LOOKS.map((look) => [look, Optional(LookSchema)])) as Record<(typeof LOOKS)[number], TOptional<typeof LookSchema>>,
        strict
      )
    ),
    pin: Optional(ArrayOf(oneOf(EDGES), { minItems: 1, maxItems: 4, description: 'edges kept while the scene scrolls' })),
    clip: Optional(Bool()),
    scroll: Optional(oneOf(['x', 'y', 'both'] as const)),
    drag: Optional(DragSchema),
    choice: Optional(id()),
    choiceValue: Optional(Str({ minLength: 1, maxLength: 120 })),
    hidden: Optional(Bool()),
    selected: Optional(Bool()),
    disabled: Optional(Bool()),
    bindings: Optional(BindingsSchema),
    hit: Optional(
      Obj(
        {
          how: oneOf(['own', 'none', 'block'] as const),
          grow: Optional(Num({ minimum: -1000, maximum: 1000 })),
          shape: Optional(oneOf(['box', 'oval'] as const)),
        },
        strict
      )
    ),
    role: Optional(oneOf(['button', 'link', 'heading', 'image', 'text', 'none'] as const)),
    label: Optional(Str({ minLength: 1, maxLength: 200, description: 'accessible name' })),
    locked: Optional(Bool()),
    turnsAlong: Optional(Bool({ description: 'turned the way that keyframes move it' })),
    copyOf: Optional(id()),
  },
  strict
);

export const StateSchema = Obj({ name: name(), order: order(), deltas: byPath(DeltaSchema, 5000), done: Optional(Bool()) }, strict);

/** Times on a timeline are whole timeline frames from 0; people see them counted from 1. */
const frameTime = () => Integer({ minimum: 0, maximum: 1_000_000 });

export const EndingSchema = Union([
  Obj({ do: oneOf(['hold', 'go on'] as const) }, strict),
  Obj({ do: Literal('loop'), times: Optional(Integer({ minimum: 2, maximum: 1000, description: 'then it holds; for ever if not given' })) }, strict),
  Obj({ do: Literal('go to'), label: Union([id('label'), Null()]) }, strict),
]);

export const TimelineSchema = Obj(
  {
    length: Integer({ minimum: 1, maximum: 1_000_000, description: 'timeline frames' }),
    loop: Optional(Bool()),
    autoplay: Optional(Bool({ description: 'true if not given' })),
    labels: Optional(byId(Obj({ time: frameTime(), name: name(), ending: EndingSchema }, strict), 1000)),
    tracks: Optional(
      byId(
        Obj(
          {
            layer: layerPath(),
            property: oneOf(Object.keys(propertyKinds) as Tracked[]),
            keys: byId(
              Obj(
                { time: frameTime(), value: Union([Num(), Str({ maxLength: 20_000 })]), easing: Optional(Str({ minLength: 1, maxLength: 200 })) },
                strict
              ),
              5000,
              1
            ),
          },
          strict
        ),
        5000
      )
    ),
    spans: Optional(
      byId(
        Obj(
          { layer: id('layer'), from: frameTime(), to: frameTime() },
          { ...strict, description: 'present from one timeline frame up to and with another' }
        ),
        5000
      )
    ),
    cues: Optional(byId(Obj({ time: frameTime(), layer: id('layer'), do: oneOf(['play', 'pause', 'start over'] as const) }, strict), 2000)),
  },
  strict
);

export const SceneSchema = Obj(
  {
    id: id(),
    use: oneOf(['frame', 'part', 'sheet'] as const),
    name: name(),
    order: order(),
    width: Num({ minimum: 1, maximum: 20_000 }),
    height: Num({ minimum: 1, maximum: 20_000 }),
    contentHeight: Optional(Num({ minimum: 1, maximum: 100_000, description: 'it scrolls when this is more than the height' })),
    background: paint(),
    bundle: Optional(id()),
    kind: Optional(id()),
    onMap: Optional(
      Obj({ x: coordinate(), y: coordinate() }, { ...strict, description: 'where it stands on the map, when it was put there by hand' })
    ),
    states: Optional(byId(StateSchema, 200)),
    initial: Optional(id()),
    stateIs: Optional(expression('text', 'name of the state it is always in')),
    carries: Optional(ArrayOf(Obj({ sheet: id('sheet'), place: oneOf(['over', 'under'] as const) }, strict), { maxItems: 20 })),
    timeline: Optional(TimelineSchema),
    choices: Optional(byId(Obj({ name: name(), variable: Optional(id('variable')) }, strict), 200)),
    onReturn: Optional(oneOf(['start over', 'remember'] as const)),
    draft: Optional(Bool({ description: 'still to be drawn' })),
    ending: Optional(Bool({ description: 'nothing has to lead on from here' })),
    note: Optional(Str({ minLength: 1, maxLength: MOST_NOTE, description: 'for whoever builds it; nobody who uses the piece sees it' })),
  },
  strict
);

export const BranchSchema = Obj({ if: Optional(expression('yes/no')), steps: ArrayOf(Union(stepSchemas), { maxItems: 50 }) }, strict);

export const ThreadSchema = Obj(
  {
    id: id(),
    on: oneOf(['layer', 'scene', 'piece'] as const),
    owner: id(),
    order: order(),
    cue: Union(cueSchemas),
    branches: ArrayOf(BranchSchema, { minItems: 1, maxItems: 20 }),
    enabled: Bool(),
    note: Optional(Str({ maxLength: 2000 })),
  },
  strict
);

export const VARIABLE_TYPES = ['yes/no', 'number', 'text', 'choice'] as const;

export const VariableSchema = Obj(
  {
    id: id(),
    scene: Union([id(), Null()], { description: 'the scene it belongs to, or null for the whole piece' }),
    order: order(),
    name: name(),
    type: oneOf(VARIABLE_TYPES),
    initial: Union([Bool(), Num(), Str({ maxLength: 2000 })]),
    min: Optional(Num()),
    max: Optional(Num()),
    step: Optional(Num({ exclusiveMinimum: 0 })),
    options: Optional(ArrayOf(Str({ minLength: 1, maxLength: 120 }), { minItems: 1, maxItems: 200 })),
  },
  strict
);

export const MEDIA_TYPES = [
  'image/png',
  'image/jpeg',
  'image/webp',
  'image/svg+xml',
  'video/webm',
  'video/mp4',
  'audio/webm',
  'audio/ogg',
  'audio/mpeg',
  'audio/wav',
] as const;

export const AssetSchema = Obj(
  {
    id: Str({ pattern: '^[0-9a-f]{64}$', description: 'SHA-256 of the bytes' }),
    name: name(),
    mediaType: oneOf(MEDIA_TYPES),
    size: Integer({ minimum: 1, maximum: 200_000_000, description: 'bytes' }),
    width: Num({ minimum: 1, maximum: 100_000 }),
    height: Num({ minimum: 1, maximum: 100_000 }),
    ms: Optional(Num({ minimum: 0, maximum: 86_400_000, description: 'how long it plays' })),
  },
  strict
);

const headFields = {
  id: id(),
  name: name(),
  width: Num({ minimum: 1, maximum: 20_000 }),
  height: Num({ minimum: 1, maximum: 20_000 }),
  start: ArrayOf(id(), { maxItems: 50 }),
  fps: Optional(Integer({ minimum: 1, maximum: 120, description: 'timeline frames a second; 24 if not given' })),
  kinds: Optional(byId(Obj({ name: name(), color: color(), mark: Str({ minLength: 1, maxLength: 4 }) }, strict), 100)),
  bundles: Optional(byId(Obj({ name: name(), order: order() }, strict), 500)),
  swatches: Optional(byId(Obj({ name: name(), order: order(), color: color() }, strict), 500)),
  easings: Optional(byId(Obj({ name: name(), order: order(), easing: Str({ minLength: 1, maxLength: 200 }) }, strict), 200)),
  walks: Optional(byId(KeptWalkSchema, 200)),
  aside: Optional(RecordOf(layerPath(), AsideSchema, { maxProperties: 2000, ...strict, description: 'by what the loose end is called' })),
  asked: Optional(byId(AskedSchema, MOST_ASKED)),
  typeStyles: Optional(byId(Obj({ name: name(), order: order(), letters: Obj(letterFields, strict) }, strict), 200)),
};

/** The piece without its tables. `width` and `height` are what new frames get. */
export const HeadSchema = Obj(headFields, strict);

/** How many entities a document may hold in each table. */
export const LIMITS = { scenes: 5_000, layers: 200_000, threads: 100_000, variables: 10_000, assets: 10_000 } as const;

export const PieceSchema = Obj(
  {
    format: Literal(FORMAT),
    ...headFields,
    scenes: table(SceneSchema, id(), LIMITS.scenes),
    layers: table(LayerSchema, id(), LIMITS.layers),
    threads: table(ThreadSchema, id(), LIMITS.threads),
    variables: table(VariableSchema, id(), LIMITS.variables),
    assets: table(AssetSchema, asset(), LIMITS.assets),
  },
  {
    ...strict,
    $id: 'https://zany-thread.example/piece-3.json',
    $schema: 'http://json-schema.org/draft-07/schema#',
    title: 'Zany Thread piece, format 3',
  }
);

/** The schema of one entity of each table. */
export const tableSchemas = {
  scenes: SceneSchema,
  layers: LayerSchema,
  threads: ThreadSchema,
  variables: VariableSchema,
  assets: AssetSchema,
} as const;

export type Pose = Static<typeof PoseSchema>;
export type Style = Static<typeof StyleSchema>;
export type Letters = Static<typeof LettersSchema>;
export type Look = Static<typeof LookSchema>;
export type Delta = Static<typeof DeltaSchema>;
export type LookName = (typeof LOOKS)[number];
export type State = Static<typeof StateSchema>;
export type Timeline = Static<typeof TimelineSchema>;
export type Ending = Static<typeof EndingSchema>;
export type { Tracked };
export { BINDABLE, type Bindable } from './bindable.ts';
export type Field = Static<typeof FieldSchema>;
export type Drag = Static<typeof DragSchema>;
export type Variable = Static<typeof VariableSchema>;
export type { LayerType };
export type Layer = Static<typeof LayerSchema>;
export type Scene = Static<typeof SceneSchema>;
export type Thread = Static<typeof ThreadSchema>;
export type Asset = Static<typeof AssetSchema>;
export type Head = Static<typeof HeadSchema>;
export type PieceJson = Static<typeof PieceSchema>;
export type { TLiteral, TSchema };
