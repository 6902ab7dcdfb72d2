import { intersection, type Rect } from '../program/geometry.ts';
import { outwardNodes, type Node } from '../program/node.ts';

/** Two areas to press that overlap, or stand so near that a thumb meets the other one. */
export interface Crowd {
  readonly a: Node;
  readonly b: Node;
  /** CSS px between them; where they overlap, less than nothing. */
  readonly gap: number;
}

/** Nearer than this is too near, in CSS px; what touches lies in a row and is meant to, unless it is as small as `SMALL`. */
const NEAR = 4;
/** WCAG 2.2, 2.5.8: what is smaller needs room around it. */
const SMALL = 24;
/** Where so much of the smaller lies in the larger it is meant to lie on it. */
const INSIDE = 0.9;

export interface Area {
  readonly node: Node;
  readonly box: Rect;
  /** What it scrolls with. */
  readonly ground: string;
}

/** All pairs of areas that crowd each other. Areas in each other, and those that do the same, do not. */
export function crowdsIn(areas: readonly Area[]): Crowd[] {
  const sorted = areas.toSorted((a, b) => a.box.x - b.box.x);
  const found: Crowd[] = [];
  for (const [i, one] of sorted.entries())
    for (let j = i + 1; j < sorted.length; j++) {
      const other = sorted[j]!;
      if (other.box.x > one.box.x + one.box.width + NEAR) break;
      const gap = one.ground === other.ground ? gapBetween(one.box, other.box) : null;
      if (gap === null || areNested(one.node, other.node) || doSame(one.node, other.node)) continue;
      const [a, b] = one.node.at < other.node.at ? [one.node, other.node] : [other.node, one.node];
      found.push({ a, b, gap });
    }
  return found;
}

/** How near two areas are, where that is too near; null where it is not. */
function gapBetween(one: Rect, other: Rect): number | null {
  const across = Math.max(one.x, other.x) - Math.min(one.x + one.width, other.x + other.width);
  const down = Math.max(one.y, other.y) - Math.min(one.y + one.height, other.y + other.height);
  const gap = Math.max(across, down);
  if (gap >= NEAR) return null;
  // Only what stands side by side: not corner to corner.
  if (Math.min(across, down) > -1) return null;
  if (gap < -1) {
    const shared = intersection(one, other);
    const least = Math.min(one.width * one.height, other.width * other.height);
    return shared && shared.width * shared.height < INSIDE * least ? gap : null;
  }
  const isSmall = Math.min(one.width, one.height, other.width, other.height) < SMALL;
  return gap >= 0.5 || isSmall ? Math.max(0, gap) : null;
}

const areNested = (a: Node, b: Node): boolean => outwardNodes(a).includes(b) || outwardNodes(b).includes(a);

/** Both lead to the same, so it is no matter which one is met. */
function doSame(a: Node, b: Node): boolean {
  const words = (node: Node) => JSON.stringify(node.item.threads.filter(({ enabled }) => enabled).map(({ cue, branches }) => [cue, branches]));
  return a.item.threads.length > 0 && words(a) === words(b);
}
