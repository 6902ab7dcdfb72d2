import type { Rect } from '@zany/core';

/** Where a moved or stretched rectangle catches on its neighbours. CSS pixels of the scene. */

export interface Guide {
  readonly axis: 'x' | 'y';
  readonly at: number;
}

export interface Snapped {
  readonly dx: number;
  readonly dy: number;
  readonly guides: readonly Guide[];
}

const edgesOf = (rect: Rect, axis: 'x' | 'y'): [number, number, number] => {
  const size = axis === 'x' ? rect.width : rect.height;
  return [rect[axis], rect[axis] + size / 2, rect[axis] + size];
};

/** The smallest shift that brings an edge or the middle of `moved` to one of the others', if one is near enough. */
export function snapMove(moved: Rect, others: readonly Rect[], reach: number): Snapped {
  const x = nearest(
    edgesOf(moved, 'x'),
    others.flatMap((other) => edgesOf(other, 'x')),
    reach
  );
  const y = nearest(
    edgesOf(moved, 'y'),
    others.flatMap((other) => edgesOf(other, 'y')),
    reach
  );
  const guides: Guide[] = [];
  if (x) guides.push({ axis: 'x', at: x.at });
  if (y) guides.push({ axis: 'y', at: y.at });
  return { dx: x?.shift ?? 0, dy: y?.shift ?? 0, guides };
}

/** The line nearest to one moving edge. */
export function snapEdge(value: number, others: readonly Rect[], axis: 'x' | 'y', reach: number): { value: number; guide: Guide | null } {
  const found = nearest(
    [value],
    others.flatMap((other) => edgesOf(other, axis)),
    reach
  );
  return found ? { value: found.at, guide: { axis, at: found.at } } : { value, guide: null };
}

function nearest(own: readonly number[], lines: readonly number[], reach: number): { shift: number; at: number } | null {
  let best: { shift: number; at: number } | null = null;
  for (const edge of own)
    for (const line of lines) {
      const shift = line - edge;
      if (Math.abs(shift) <= reach && (!best || Math.abs(shift) < Math.abs(best.shift))) best = { shift, at: line };
    }
  return best;
}
