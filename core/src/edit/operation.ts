import { Array as ArrayOf, Literal, Object as Obj, Optional, String as Str, Union, Unknown, type Static } from '@sinclair/typebox';
import { id, name, oneOf } from '../fields/scalars.ts';

/** The document form of edits: what is sent, logged and kept. */

const strict = { additionalProperties: false } as const;
const table = () => oneOf(['scenes', 'layers', 'threads', 'variables', 'assets'] as const);
const entityId = () => Str({ minLength: 1, maxLength: 64 });

/** Puts a whole entity, new or in place of the one with its id. */
export const PutOperation = Obj({ op: Literal('put'), table: table(), value: Obj({ id: entityId() }) }, strict);

/** Sets one path of an entity, or of the piece's head; without a value the path is taken away. */
export const SetOperation = Obj(
  {
    op: Literal('set'),
    table: Union([table(), Literal('piece')]),
    id: entityId(),
    path: ArrayOf(Str({ maxLength: 200 }), { minItems: 1, maxItems: 10 }),
    value: Optional(Unknown()),
  },
  strict
);

/** Removes an entity with all that belongs to it: a scene's layers, a group's layers, their threads. */
export const RemoveOperation = Obj({ op: Literal('remove'), table: table(), id: entityId() }, strict);

export const OperationSchema = Union([PutOperation, SetOperation, RemoveOperation]);

export const MAX_OPERATIONS = 20_000;

/** An atomic, named set of operations. Its id makes sending it twice harmless. */
export const BatchSchema = Obj({ id: id(), name: name(), operations: ArrayOf(OperationSchema, { minItems: 1, maxItems: MAX_OPERATIONS }) }, strict);

export type PutOperation = Static<typeof PutOperation>;
export type SetOperation = Static<typeof SetOperation>;
export type RemoveOperation = Static<typeof RemoveOperation>;
export type Operation = PutOperation | SetOperation | RemoveOperation;
export type Batch = { id: string; name: string; operations: Operation[] };
