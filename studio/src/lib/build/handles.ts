import type { Rect } from '@zany/core';
import { snapEdge, type Guide } from './snap';

/** The eight handles of a selection: which edges each one moves. */
export const HANDLES = ['nw', 'n', 'ne', 'e', 'se', 's', 'sw', 'w'] as const;

export type Handle = (typeof HANDLES)[number];

export const cursorOf: Record<Handle, string> = {
  nw: 'nwse-resize',
  se: 'nwse-resize',
  ne: 'nesw-resize',
  sw: 'nesw-resize',
  n: 'ns-resize',
  s: 'ns-resize',
  e: 'ew-resize',
  w: 'ew-resize',
};

/** Where a handle stands, as shares of the box. */
export const placeOf = (handle: Handle): { x: number; y: number } => ({
  x: handle.includes('w') ? 0 : handle.includes('e') ? 1 : 0.5,
  y: handle.includes('n') ? 0 : handle.includes('s') ? 1 : 0.5,
});

/** The box after a handle was pulled by (dx, dy); at least one pixel in size. With `keep`, corners keep the shape. */
export function pull(box: Rect, handle: Handle, dx: number, dy: number, keep: boolean): Rect {
  let { x, y, width, height } = box;
  if (handle.includes('e')) width = Math.max(1, width + dx);
  if (handle.includes('s')) height = Math.max(1, height + dy);
  if (handle.includes('w')) width = Math.max(1, width - dx);
  if (handle.includes('n')) height = Math.max(1, height - dy);
  if (keep && handle.length === 2) {
    const scale = Math.max(width / box.width, height / box.height);
    width = box.width * scale;
    height = box.height * scale;
  }
  if (handle.includes('w')) x = box.x + box.width - width;
  if (handle.includes('n')) y = box.y + box.height - height;
  return { x, y, width, height };
}

/** The same, with every moved edge caught by a line of `others` within `reach`, or set on a whole pixel. */
export function pullSnapped(
  begin: Rect,
  handle: Handle,
  dx: number,
  dy: number,
  keep: boolean,
  others: readonly Rect[],
  reach: number
): { box: Rect; guides: readonly Guide[] } {
  let box = pull(begin, handle, dx, dy, keep);
  const guides: Guide[] = [];
  for (const [edge, axis, size] of EDGES) {
    if (!handle.includes(edge)) continue;
    const isNear = edge === 'w' || edge === 'n';
    const { value, guide } = snapEdge(isNear ? box[axis] : box[axis] + box[size], others, axis, reach);
    const at = guide ? value : Math.round(value);
    box = isNear ? { ...box, [axis]: at, [size]: Math.max(1, box[size] + box[axis] - at) } : { ...box, [size]: Math.max(1, at - box[axis]) };
    if (guide) guides.push(guide);
  }
  return { box, guides };
}

const EDGES = [
  ['w', 'x', 'width'],
  ['e', 'x', 'width'],
  ['n', 'y', 'height'],
  ['s', 'y', 'height'],
] as const;
