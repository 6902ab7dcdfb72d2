import { onceFor } from '../once.ts';
import type { Piece } from './piece.ts';

/** The scenes in which each part is placed, and those that carry each sheet. */
const holdersIn = onceFor((piece: Piece): ReadonlyMap<string, ReadonlySet<string>> => {
  const holders = new Map<string, Set<string>>();
  const hold = (inner: string, outer: string) => (holders.get(inner) ?? holders.set(inner, new Set()).get(inner)!).add(outer);
  for (const { part, scene } of piece.layers.values()) if (part !== undefined) hold(part, scene);
  for (const { id, carries = [] } of piece.scenes.values()) for (const { sheet } of carries) hold(sheet, id);
  return holders;
});

/** Some scenes, with all in which one of them stands in any of the pieces, by way of others too. */
export function withHolders(pieces: readonly Piece[], some: Iterable<string>): ReadonlySet<string> {
  const found = new Set(some);
  for (const id of found)
    for (const piece of pieces)
      holdersIn(piece)
        .get(id)
        ?.forEach((outer) => found.add(outer));
  return found;
}
