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
  const along = (axis: 'x' | 'y') =>
    nearest(
      edgesOf(moved, axis),
      others.flatMap((other) => edgesOf(other, axis)),
      reach
    ) ?? nearest([moved[axis]], evenPlaces(moved, others, axis), reach);
  const x = along('x');
  const y = along('y');
  const guides: Guide[] = [];
  if (x) guides.push({ axis: 'x', at: x.at });
  if (y) guides.push({ axis: 'y', at: y.at });
  return { dx: x?.shift ?? 0, dy: y?.shift ?? 0, guides };
}

/** Where a rectangle would have to begin so that it is as far from its neighbours as two of them are from each other, or in the middle between two. */
export function evenPlaces(moved: Rect, others: readonly Rect[], axis: 'x' | 'y'): number[] {
  const [size, cross, crossSize] = axis === 'x' ? (['width', 'y', 'height'] as const) : (['height', 'x', 'width'] as const);
  const row = others
    .filter((other) => other[cross] < moved[cross] + moved[crossSize] && other[cross] + other[crossSize] > moved[cross])
    .sort((a, b) => a[axis] - b[axis]);
  return row.slice(1).flatMap((b, i) => {
    const a = row[i]!;
    const end = a[axis] + a[size];
    const gap = b[axis] - end;
    if (gap <= 0) return [];
    return [b[axis] + b[size] + gap, a[axis] - gap - moved[size], end + (gap - moved[size]) / 2];
  });
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
