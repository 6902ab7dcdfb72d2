/**
 * Which row of a list stands for which entry, when rows are used again: making rows anew is what takes long when a list changes as
 * a whole. An entry keeps its row as long as it is in the list; one that comes takes the first row that is free.
 */
export function recycled(before: ReadonlyMap<string, number>, ids: readonly string[]): Map<string, number> {
  const taken = new Set(ids.map((id) => before.get(id)));
  let next = 0;
  const free = () => {
    while (taken.has(next)) next++;
    return next++;
  };
  return new Map(ids.map((id) => [id, before.get(id) ?? free()]));
}

/** The same from list to list. */
export function recycler(): (ids: readonly string[]) => ReadonlyMap<string, number> {
  let before: ReadonlyMap<string, number> = new Map();
  return (ids) => (before = recycled(before, ids));
}
