import { TABLES, threadIdsOf, withDescendants, type Entity, type Head, type Layer, type Piece } from '../piece/piece.ts';
import type { Operation } from '../edit/operation.ts';
import { isEqual } from './equal.ts';

/**
 * The edit that makes one version of a piece into another: applied to `from`, it gives what `to` holds. What both hold alike is
 * not touched, so that it stays small, and what others do elsewhere meanwhile stays.
 */
export function operationsToward(from: Piece, to: Piece): Operation[] {
  const { first, lost } = elsewhere(from, to);
  const puts = TABLES.flatMap((table) =>
    [...(to[table].values() as Iterable<Entity>)]
      .filter((entity) => lost.has(`${table} ${entity.id}`) || !isEqual(from[table].get(entity.id), entity))
      .map((value): Operation => ({ op: 'put', table, value }))
  );
  // What stays has left its old group, or its old layer, before those go.
  const removals = TABLES.flatMap((table) =>
    [...from[table].keys()].filter((id) => !to[table].has(id) && !lost.has(`${table} ${id}`)).map((id): Operation => ({ op: 'remove', table, id }))
  );
  return [...headToward(from.head, to.head), ...first, ...puts, ...removals];
}

/** What the head of one version needs to say what that of another does; its id stays. */
function headToward(from: Head, to: Head): Operation[] {
  const keys = new Set([...Object.keys(from), ...Object.keys(to)] as (keyof Head)[]);
  keys.delete('id');
  return [...keys]
    .filter((key) => !isEqual(from[key], to[key]))
    .map((key): Operation => ({ op: 'set', table: 'piece', id: from.id, path: [key], ...(to[key] !== undefined && { value: to[key] }) }));
}

/** Layers that stand in another scene have to go from theirs first; what goes along with them, as `table id`, has to be put again. */
function elsewhere(from: Piece, to: Piece): { first: Operation[]; lost: ReadonlySet<string> } {
  const lost = new Set<string>();
  const first: Operation[] = [];
  for (const { id, scene } of from.layers.values() as Iterable<Layer>) {
    const then = to.layers.get(id);
    if (!then || then.scene === scene || lost.has(`layers ${id}`)) continue;
    first.push({ op: 'remove', table: 'layers', id });
    for (const inner of withDescendants(from, id)) {
      lost.add(`layers ${inner}`);
      threadIdsOf(from, inner).forEach((thread) => lost.add(`threads ${thread}`));
    }
  }
  return { first, lost };
}
