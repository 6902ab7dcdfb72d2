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
  type TSchema,
} from '@sinclair/typebox';
import { cueSchemas } from '../cues/schemas.ts';
import { stepSchemas } from '../steps/schemas.ts';
import { color, id, name, oneOf } from './scalars.ts';

/** The contract of a piece document. `docs/piece.schema.json` is printed from here. */

const strict = { additionalProperties: false } as const;
const coordinate = () => Num({ minimum: -100_000, maximum: 100_000 });
const extent = () => Num({ minimum: 1, maximum: 100_000 });
const order = () => Str({ pattern: '^[0-9A-Za-z]{1,200}$', description: 'fractional key; plain string order' });

export const FORMAT = 'zany-thread/1';

const poseFields = { x: coordinate(), y: coordinate(), width: extent(), height: extent() };

/** CSS pixels, in the space of the parent group or of the scene. */
export const PoseSchema = Obj(poseFields, strict);

export const StyleSchema = Obj(
  {
    fill: Optional(color('what the shape is filled with')),
    ink: Optional(color('colour of the text')),
    line: Optional(Obj({ color: color(), width: Num({ minimum: 0, maximum: 200 }) }, strict)),
    corner: Optional(Num({ minimum: 0, maximum: 10_000, description: 'corner radius, CSS px' })),
    shadow: Optional(Obj({ x: coordinate(), y: coordinate(), blur: Num({ minimum: 0, maximum: 1000 }), color: color() }, strict)),
    opacity: Optional(Num({ minimum: 0, maximum: 1 })),
  },
  strict
);

export const FAMILIES = ['Atkinson Hyperlegible Next', 'Bricolage Grotesque', 'sans-serif', 'serif', 'monospace'] as const;

export const LettersSchema = Obj(
  {
    family: Optional(oneOf(FAMILIES)),
    size: Optional(Num({ minimum: 1, maximum: 1000, description: 'CSS px' })),
    weight: Optional(Integer({ minimum: 100, maximum: 900 })),
    align: Optional(oneOf(['left', 'center', 'right'] as const)),
    place: Optional(oneOf(['top', 'middle', 'bottom'] as const)),
    leading: Optional(Num({ minimum: 0.5, maximum: 5, description: 'line height as a multiple of the size' })),
  },
  strict
);

const text = () => Str({ maxLength: 5000 });

export const LookSchema = Obj({ style: Optional(StyleSchema), letters: Optional(LettersSchema), text: Optional(text()) }, strict);

export const LAYER_TYPES = ['box', 'oval', 'text', 'picture', 'group', 'hit'] as const;

export const LayerSchema = Obj(
  {
    id: id(),
    scene: id(),
    parent: Union([id(), Null()]),
    order: order(),
    name: name(),
    type: oneOf(LAYER_TYPES),
    pose: PoseSchema,
    style: StyleSchema,
    letters: Optional(LettersSchema),
    text: Optional(text()),
    asset: Optional(Str({ pattern: '^[0-9a-f]{64}$' })),
    fit: Optional(oneOf(['fill', 'contain', 'cover'] as const)),
    looks: Optional(Obj({ hover: Optional(LookSchema), press: Optional(LookSchema) }, strict)),
    hidden: Optional(Bool()),
    locked: Optional(Bool()),
    copyOf: Optional(id()),
  },
  strict
);

export const SceneSchema = Obj(
  {
    id: id(),
    use: Literal('frame'),
    name: name(),
    order: order(),
    width: Num({ minimum: 1, maximum: 20_000 }),
    height: Num({ minimum: 1, maximum: 20_000 }),
    background: color(),
    draft: Optional(Bool({ description: 'still to be drawn' })),
    ending: Optional(Bool({ description: 'nothing has to lead on from here' })),
  },
  strict
);

export const BranchSchema = Obj({ steps: ArrayOf(Union(stepSchemas), { maxItems: 50 }) }, strict);

export const ThreadSchema = Obj(
  {
    id: id(),
    on: oneOf(['layer', 'scene', 'piece'] as const),
    owner: id(),
    order: order(),
    cue: Union(cueSchemas),
    branches: ArrayOf(BranchSchema, { minItems: 1, maxItems: 1 }),
    enabled: Bool(),
    note: Optional(Str({ maxLength: 2000 })),
  },
  strict
);

export const MEDIA_TYPES = ['image/png', 'image/jpeg', 'image/webp', 'image/svg+xml'] as const;

export const AssetSchema = Obj(
  {
    id: Str({ pattern: '^[0-9a-f]{64}$', description: 'SHA-256 of the bytes' }),
    name: name(),
    mediaType: oneOf(MEDIA_TYPES),
    size: Integer({ minimum: 1, maximum: 200_000_000, description: 'bytes' }),
    width: Num({ minimum: 1, maximum: 100_000 }),
    height: Num({ minimum: 1, maximum: 100_000 }),
  },
  strict
);

const headFields = {
  id: id(),
  name: name(),
  width: Num({ minimum: 1, maximum: 20_000 }),
  height: Num({ minimum: 1, maximum: 20_000 }),
  start: ArrayOf(id(), { maxItems: 50 }),
};

/** The piece without its tables. `width` and `height` are what new frames get. */
export const HeadSchema = Obj(headFields, strict);

export const PieceSchema = Obj(
  {
    format: Literal(FORMAT),
    ...headFields,
    scenes: RecordOf(Str(), SceneSchema),
    layers: RecordOf(Str(), LayerSchema),
    threads: RecordOf(Str(), ThreadSchema),
    assets: RecordOf(Str(), AssetSchema),
  },
  {
    ...strict,
    $id: 'https://zany-thread.example/piece-1.json',
    $schema: 'http://json-schema.org/draft-07/schema#',
    title: 'Zany Thread piece, format 1',
  }
);

/** The schema of one entity of each table. */
export const tableSchemas = { scenes: SceneSchema, layers: LayerSchema, threads: ThreadSchema, assets: AssetSchema } as const;

/** How many entities a document may hold in each table. */
export const LIMITS = { scenes: 5_000, layers: 200_000, threads: 100_000, assets: 10_000 } as const;

export type Pose = Static<typeof PoseSchema>;
export type Style = Static<typeof StyleSchema>;
export type Letters = Static<typeof LettersSchema>;
export type Look = Static<typeof LookSchema>;
export type LookName = 'hover' | 'press';
export type LayerType = (typeof LAYER_TYPES)[number];
export type Layer = Static<typeof LayerSchema>;
export type Scene = Static<typeof SceneSchema>;
export type Thread = Static<typeof ThreadSchema>;
export type Asset = Static<typeof AssetSchema>;
export type Head = Static<typeof HeadSchema>;
export type PieceJson = Static<typeof PieceSchema>;
export type { TLiteral, TSchema };
