import { layersUnder, type Layer, type Piece } from '../../piece/piece.ts';
import { keysBetween } from '../order.ts';
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

/** Whether a layer is another one or in it, at any depth. */
export function isInside(piece: Piece, id: string, outer: string): boolean {
  for (let at: string | null = id; at !== null; at = piece.layers.get(at)?.parent ?? null) if (at === outer) return true;
  return false;
}

/** Where one layer stands that takes the place of some (back to front): in their group if they share one, in front of the frontmost. */
export function inPlaceOf(piece: Piece, layers: readonly Layer[]): { parent: string | null; order: string } {
  const front = layers.at(-1)!;
  const parent = layers.every((layer) => layer.parent === front.parent) ? front.parent : null;
  const siblings = layersUnder(piece, front.scene, parent);
  const at = siblings.findIndex((layer) => layer.id === front.id);
  const order = keysBetween(siblings[at]?.order ?? siblings.at(-1)?.order ?? null, at < 0 ? null : (siblings[at + 1]?.order ?? null), 1)[0]!;
  return { parent, order };
}
