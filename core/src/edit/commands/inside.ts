import type { Layer, Piece } from '../../piece/piece.ts';
import type { Item } from '../../program/program.ts';

export interface Origin {
  readonly x: number;
  readonly y: number;
}

/** Where the space of a group's layers begins: its own place, not the corner of what is in it. */
export const originOf = (group: Item | null): Origin => {
  let x = 0;
  let y = 0;
  for (let at = group; at; at = at.parent) {
    x += at.layer.pose.x;
    y += at.layer.pose.y;
  }
  return { x, y };
};

/** The layers of a list that are in no other layer of it. */
export function outermost(piece: Piece, ids: readonly string[]): Layer[] {
  const chosen = new Set(ids);
  return [...chosen].flatMap((id) => {
    const layer = piece.layers.get(id);
    if (!layer) return [];
    for (let at = layer.parent; at !== null; at = piece.layers.get(at)?.parent ?? null) if (chosen.has(at)) return [];
    return [layer];
  });
}
