import { layerIdsOf, threadIdsOf, type Entity, type Piece, type TableName } from '../piece/piece.ts';
import { tableSchemas } from '../piece/schema.ts';
import { fieldsIn } from '../piece/visit.ts';
import { fail, fault, ok, type Result } from '../result.ts';
import type { Operation } from '../edit/operation.ts';
import { isEqual } from './equal.ts';

/** What takes over a part of another version: the edit, and what stays as it is in the piece though the other version has it otherwise. */
export interface TakenOver {
  readonly operations: readonly Operation[];
  readonly leaves: readonly string[];
}

/**
 * Makes one scene what it is in another version, with its layers, threads and variables. Parts, sheets, pictures, colours and variables
 * of the piece that it needs come along where the piece lacks them; where the piece has them otherwise, they stay as they are.
 * A scene that the other version lacks is removed.
 */
export function takeScene(piece: Piece, other: Piece, scene: string): Result<TakenOver> {
  const entity = other.scenes.get(scene);
  if (!entity) {
    if (!piece.scenes.has(scene)) return fail(fault('gone', ['scenes', scene], 'This frame is in neither version.'));
    return ok({ operations: [{ op: 'remove', table: 'scenes', id: scene }], leaves: [] });
  }
  const taking = new Taking(piece, other);
  taking.takeWhole('scenes', entity);
  return ok(taking.finish(scene));
}

/** Makes one thread what it is in another version; one that the other version lacks is removed. */
export function takeThread(piece: Piece, other: Piece, thread: string): Result<TakenOver> {
  const [mine, entity] = [piece.threads.get(thread), other.threads.get(thread)];
  if (!entity) {
    if (!mine) return fail(fault('gone', ['threads', thread], 'This thread is in neither version.'));
    return ok({ operations: [{ op: 'remove', table: 'threads', id: thread }], leaves: [] });
  }
  const isThere = entity.on === 'piece' ? true : entity.on === 'scene' ? piece.scenes.has(entity.owner) : piece.layers.has(entity.owner);
  if (!isThere)
    return fail(fault('missing-reference', ['threads', thread], 'What this thread stands on is gone from the piece: take over its frame.'));
  const taking = new Taking(piece, other);
  taking.take('threads', entity);
  return ok(taking.finish(null));
}

class Taking {
  private readonly taken = new Map<string, readonly [TableName, Entity]>();
  private readonly leaves = new Set<string>();
  private readonly head: Operation[] = [];

  constructor(
    private readonly piece: Piece,
    private readonly other: Piece
  ) {}

  /** Takes a thing as it is in the other version, and what it needs. */
  take(table: TableName, entity: Entity): void {
    const key = `${table} ${entity.id}`;
    if (this.taken.has(key)) return;
    this.taken.set(key, [table, entity]);
    for (const id of namesIn(table, entity)) this.need(id);
    const text = JSON.stringify(entity);
    for (const [field, kept] of Object.entries({
      swatches: this.other.head.swatches,
      typeStyles: this.other.head.typeStyles,
      bundles: this.other.head.bundles,
      kinds: this.other.head.kinds,
    }))
      for (const [id, one] of Object.entries(kept ?? {}))
        if (text.includes(`"${id}"`) || text.includes(`:${id}"`)) this.needInHead(field as 'swatches', id, one);
  }

  /** Something that is named: it comes along where the piece has nothing by that id. */
  private need(id: string): void {
    const { piece, other } = this;
    for (const table of ['assets', 'variables', 'scenes'] as const) {
      const entity = other[table].get(id);
      if (!entity) continue;
      // Frames that are led to stay where they are: taking over one frame must not bring others.
      if (table === 'scenes' && other.scenes.get(id)!.use === 'frame') continue;
      if (!piece[table].has(id)) this.takeWhole(table, entity);
      else if (table === 'scenes' ? !isSameScene(piece, other, id) : !isEqual(piece[table].get(id), entity))
        this.leaves.add(`${(entity as { name: string }).name} stays as it is now`);
    }
  }

  /** The same; of a scene with its layers, threads and variables. */
  takeWhole(table: TableName, entity: Entity): void {
    this.take(table, entity);
    if (table !== 'scenes') return;
    for (const id of layerIdsOf(this.other, entity.id)) {
      this.take('layers', this.other.layers.get(id)!);
      for (const thread of threadIdsOf(this.other, id)) this.take('threads', this.other.threads.get(thread)!);
    }
    for (const thread of threadIdsOf(this.other, entity.id)) this.take('threads', this.other.threads.get(thread)!);
    for (const variable of this.other.variables.values()) if (variable.scene === entity.id) this.take('variables', variable);
  }

  private needInHead(field: 'swatches' | 'typeStyles' | 'bundles' | 'kinds', id: string, value: { readonly name: string }): void {
    const mine = (this.piece.head[field] as Record<string, unknown> | undefined)?.[id];
    if (mine !== undefined) {
      if (!isEqual(mine, value)) this.leaves.add(`${value.name} stays as it is now`);
      return;
    }
    if (!this.head.some((one) => one.op === 'set' && one.path[1] === id))
      this.head.push({ op: 'set', table: 'piece', id: this.piece.head.id, path: [field, id], value });
  }

  /** The edit; what a scene holds now and did not hold then is removed, once what stays has left its group. */
  finish(scene: string | null): TakenOver {
    const { piece } = this;
    const puts = [...this.taken.values()]
      .filter(([table, entity]) => !isEqual(piece[table].get(entity.id), entity))
      .map(([table, value]): Operation => ({ op: 'put', table, value }));
    return { operations: [...this.head, ...puts, ...(scene === null ? [] : this.removals(scene))], leaves: [...this.leaves] };
  }

  /** Layers, threads and variables that the scene has in the piece only. */
  private removals(scene: string): Operation[] {
    const { piece, taken } = this;
    const layers = [...layerIdsOf(piece, scene)];
    const ids: readonly (readonly [TableName, readonly string[]])[] = [
      ['threads', [scene, ...layers].flatMap((owner) => [...threadIdsOf(piece, owner)])],
      ['variables', [...piece.variables.values()].filter((variable) => variable.scene === scene).map(({ id }) => id)],
      ['layers', layers],
    ];
    return ids.flatMap(([table, all]) => all.filter((id) => !taken.has(`${table} ${id}`)).map((id): Operation => ({ op: 'remove', table, id })));
  }
}

/** Whether a scene that both have holds the same layers and threads. */
function isSameScene(piece: Piece, other: Piece, scene: string): boolean {
  const [mine, theirs] = [layerIdsOf(piece, scene), layerIdsOf(other, scene)];
  const isSame = (table: 'layers' | 'threads', one: ReadonlySet<string>, two: ReadonlySet<string>) =>
    one.size === two.size && [...two].every((id) => isEqual(piece[table].get(id), other[table].get(id)));
  const threads = [scene, ...theirs].every((owner) => isSame('threads', threadIdsOf(piece, owner), threadIdsOf(other, owner)));
  return isEqual(piece.scenes.get(scene), other.scenes.get(scene)) && isSame('layers', mine, theirs) && threads;
}

/** The ids that an entity names, and the picture files. */
function namesIn(table: TableName, entity: Entity): string[] {
  const named = fieldsIn(tableSchemas[table], entity).flatMap(({ value, reads }) =>
    value === null ? [] : reads ? [...value.matchAll(/‹=?([^›]+)›/g)].map((match) => match[1]!) : [value]
  );
  return [...new Set([...named.flatMap((name) => name.split('/')), ...(JSON.stringify(entity).match(/[0-9a-f]{64}/g) ?? [])])];
}
