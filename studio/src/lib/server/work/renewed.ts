import type { PieceJson } from '@zany/core';

/** The same piece under a new id; ids of what is in it stay, since they only have to differ within a piece. */
export const withNewId = (json: PieceJson, id: string, name: string): PieceJson => ({
  ...json,
  id,
  name,
  threads: Object.fromEntries(Object.entries(json.threads).map(([key, thread]) => [key, thread.on === 'piece' ? { ...thread, owner: id } : thread])),
});
