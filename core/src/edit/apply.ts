import { layerKinds } from '../vocabulary/layers/all.ts';
import { schemaFault } from '../piece/read.ts';
import { EDIT_LIMITS, shapeFault } from '../piece/shape.ts';
import { nestingFault, placingFault } from '../piece/nesting.ts';
import { referenceFault } from '../piece/references.ts';
import { HeadSchema, LIMITS, tableSchemas } from '../piece/schema.ts';
import {
  childIdsOf,
  layerIdsOf,
  threadIdsOf,
  TABLES,
  variablesOf,
  withDescendants,
  type Entity,
  type Layer,
  type Piece,
  type TableName,
} from '../piece/piece.ts';
import { fail, fault, ok, type Fault, type Result } from '../result.ts';
import { fieldFault } from './field-fault.ts';
import type { Operation, PutOperation, RemoveOperation, SetOperation } from './operation.ts';
import { PieceDraft } from './draft.ts';
import type { Touched } from './touched.ts';
import { putPath, readPath } from './path.ts';

export interface Applied {
  readonly piece: Piece;
  /** Applied to `piece`, this gives back the piece before. */
  readonly inverse: Operation[];
  readonly touched: Touched;
}

/**
 * Applies operations in order, all or none. Pure: the piece given is left as it was.
 * Shapes are validated at every operation, references of all that was touched after the last one.
 */
export function apply(piece: Piece, operations: readonly Operation[]): Result<Applied> {
  const draft = new PieceDraft(piece);
  const inverse: Operation[][] = [];
  for (const operation of operations) {
    const undo = applyOne(draft, operation);
    if (!undo.ok) return undo;
    inverse.push(undo.value);
  }
  const bad = draftFault(draft);
  if (bad) return fail(bad);
  return ok({ piece: draft.finish(), inverse: inverse.reverse().flat(), touched: draft.touched() });
}

function applyOne(draft: PieceDraft, operation: Operation): Result<Operation[]> {
  const unfit = unfitIn(operation);
  if (unfit) return fail(unfit);
  switch (operation.op) {
    case 'put':
      return applyPut(draft, operation);
    case 'set':
      return operation.table === 'piece' ? setHead(draft, operation) : setEntity(draft, operation, operation.table);
    case 'remove':
      return applyRemove(draft, operation);
  }
}

/** What no place of a piece could hold, whatever it is. */
function unfitIn(operation: Operation): Fault | null {
  if (operation.op === 'put') return shapeFault(operation.value, EDIT_LIMITS, [operation.table, operation.value.id]);
  if (operation.op === 'remove') return null;
  const place = [operation.table, operation.id];
  return shapeFault(operation.path, EDIT_LIMITS, place) ?? shapeFault(operation.value, EDIT_LIMITS, [...place, ...operation.path]);
}

function applyPut(draft: PieceDraft, { table, value }: PutOperation): Result<Operation[]> {
  const old = draft.get(table, value.id);
  const bad = schemaFault(tableSchemas[table], value, [table, value.id]);
  if (bad) return fail(bad);
  const entity = value as Entity;
  if (old && 'scene' in old && (old as { scene: string }).scene !== (entity as { scene?: string }).scene)
    return fail(fault('other-scene', [table, value.id, 'scene'], 'A layer cannot change its frame; copy it instead.'));
  draft.put(table, entity);
  return ok([old ? put(table, old) : { op: 'remove', table, id: value.id }]);
}

function setEntity(draft: PieceDraft, { id, path, value }: SetOperation, table: TableName): Result<Operation[]> {
  const old = draft.get(table, id);
  if (!old) return fail(fault('gone', [table, id], `There is no such ${singular[table]} any more.`));
  if (path[0] === 'id' || path[0] === 'scene') return fail(fault('fixed', [table, id, path[0]], `“${path[0]}” cannot be changed.`));
  const changed = putPath(old, path, value);
  if (!changed.ok) return fail(fault('wrong-path', [table, id, ...path], changed.error));
  const bad = fieldFault(tableSchemas[table], old, changed.value, path, [table, id]);
  if (bad) return fail(bad);
  draft.put(table, changed.value as Entity);
  return ok([undoOfSet(old, table, id, path)]);
}

function setHead(draft: PieceDraft, { id, path, value }: SetOperation): Result<Operation[]> {
  const old = draft.head;
  if (id !== old.id) return fail(fault('gone', ['piece', id], 'This edit is for another piece.'));
  if (path[0] === 'id') return fail(fault('fixed', ['id'], '“id” cannot be changed.'));
  const changed = putPath(old, path, value);
  if (!changed.ok) return fail(fault('wrong-path', path, changed.error));
  draft.setHead(changed.value);
  return ok([undoOfSet(old, 'piece', id, path)]);
}

function applyRemove(draft: PieceDraft, { table, id }: RemoveOperation): Result<Operation[]> {
  const old = draft.get(table, id);
  // A group that was removed before took along what is in it.
  if (!old && draft.hasChanged(table, id)) return ok([]);
  if (!old) return fail(fault('gone', [table, id], `There is no such ${singular[table]} any more.`));
  const undo: Operation[] = [put(table, old)];
  const { piece } = draft;
  if (table === 'scenes') {
    for (const layer of layerIdsOf(piece, id)) undo.push(...removeLayerAlone(draft, layer));
    undo.push(...removeThreads(draft, id), ...removeVariables(draft, id), ...removeStart(draft, id));
  }
  if (table === 'layers') {
    for (const layer of withDescendants(piece, id).slice(1)) undo.push(...removeLayerAlone(draft, layer));
    undo.push(...removeThreads(draft, id));
  }
  draft.remove(table, id);
  return ok(undo);
}

function removeLayerAlone(draft: PieceDraft, id: string): Operation[] {
  const layer = draft.get('layers', id);
  if (!layer) return [];
  const threads = removeThreads(draft, id);
  draft.remove('layers', id);
  return [put('layers', layer), ...threads];
}

function removeThreads(draft: PieceDraft, owner: string): Operation[] {
  return [...threadIdsOf(draft.piece, owner)].map((id) => {
    const thread = draft.get('threads', id)!;
    draft.remove('threads', id);
    return put('threads', thread);
  });
}

function removeVariables(draft: PieceDraft, scene: string): Operation[] {
  return variablesOf(draft.piece, scene).map((variable) => {
    draft.remove('variables', variable.id);
    return put('variables', variable);
  });
}

function removeStart(draft: PieceDraft, scene: string): Operation[] {
  const { head } = draft;
  if (!head.start.includes(scene)) return [];
  draft.setHead({ ...head, start: head.start.filter((id) => id !== scene) });
  return [{ op: 'set', table: 'piece', id: head.id, path: ['start'], value: head.start }];
}

function draftFault(draft: PieceDraft): Fault | null {
  const { piece } = draft;
  for (const table of TABLES)
    if (piece[table].size > LIMITS[table]) return fault('too-large', [table], `A piece holds at most ${LIMITS[table]} ${table}.`);
  let places = false;
  for (const [table, id] of draft.changed()) {
    const entity = draft.get(table, id);
    const bad = entity ? entityFault(draft.piece, table, entity) : leftoverFault(draft.piece, table, id);
    if (bad) return bad;
    if (table !== 'layers' || !entity) continue;
    const [layer, before] = [entity as Layer, draft.before.layers.get(id)];
    if (layer.parent !== (before?.parent ?? null)) {
      const deep = nestingFault(piece, layer);
      if (deep) return deep;
    }
    places ||= before ? layer.part !== before.part : layer.part !== undefined || piece.scenes.get(layer.scene)?.use !== 'frame';
  }
  const crowded = places ? placingFault(piece) : null;
  if (crowded) return crowded;
  return draft.headChanged ? headFault(piece) : null;
}

const entityFault = (piece: Piece, table: TableName, entity: Entity): Fault | null =>
  referenceFault(piece, table, entity) ?? childFault(piece, table, entity);

/** A group that became something else, with layers still in it. */
function childFault(piece: Piece, table: TableName, entity: Entity): Fault | null {
  if (table !== 'layers' || layerKinds[(entity as Layer).type]?.holdsLayers || childIdsOf(piece, entity.id).size === 0) return null;
  return fault('not-a-group', [table, entity.id, 'type'], `“${(entity as { name?: string }).name}” holds layers, so it has to stay a group.`);
}

/** A picture file taken away while a layer still shows it. */
function leftoverFault(piece: Piece, table: TableName, id: string): Fault | null {
  if (table !== 'assets') return null;
  for (const layer of piece.layers.values()) if (layer.asset === id) return fault('in-use', [table, id], `“${layer.name}” still shows this picture.`);
  return null;
}

function headFault(piece: Piece): Fault | null {
  const bad = schemaFault(HeadSchema, piece.head, []);
  if (bad) return bad;
  const lost = piece.head.start.find((id) => !piece.scenes.has(id));
  return lost === undefined ? null : fault('missing-reference', ['start'], 'A start frame is not in the piece.');
}

function undoOfSet(old: object, table: SetOperation['table'], id: string, path: readonly string[]): SetOperation {
  const before = readPath(old, path);
  return before.value === undefined
    ? { op: 'set', table, id, path: before.missingAt }
    : { op: 'set', table, id, path: [...path], value: before.value };
}

const put = (table: TableName, value: Entity): PutOperation => ({ op: 'put', table, value });

const singular: Record<TableName, string> = { scenes: 'frame', layers: 'layer', threads: 'thread', variables: 'variable', assets: 'picture' };
