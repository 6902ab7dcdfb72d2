import { layerKind } from '../vocabulary/layers/all.ts';
import { contains, inOval, type Point } from './geometry.ts';
import type { Item } from './program.ts';

/** Whether a point of the scene lies on a layer, hidden or not, as it is drawn at rest. */
export const isOn = (item: Item, point: Point): boolean => (layerKind(item.layer).isRound ? inOval(item.box, point) : contains(item.box, point));

/** The layer and the groups around it, from the inside out. */
export function outward(item: Item | null): Item[] {
  const chain: Item[] = [];
  for (let at = item; at; at = at.parent) chain.push(at);
  return chain;
}
