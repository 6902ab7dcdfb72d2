import type { Rect } from '@zany/core';

/** A distance between two rectangles along one axis, drawn where they face each other. CSS pixels of the scene. */
export interface Distance {
  readonly axis: 'x' | 'y';
  readonly from: number;
  readonly to: number;
  /** Where the line lies on the other axis. */
  readonly at: number;
}

/** How far `b` is from `a`: between them where they are apart, else from edge to edge inside. Nothing of no length. */
export function distancesBetween(a: Rect, b: Rect): Distance[] {
  return [...along(a, b, 'x'), ...along(a, b, 'y')];
}

function along(a: Rect, b: Rect, axis: 'x' | 'y'): Distance[] {
  const size = axis === 'x' ? 'width' : 'height';
  const cross = axis === 'x' ? 'y' : 'x';
  const crossSize = axis === 'x' ? 'height' : 'width';
  const at = (Math.max(a[cross], b[cross]) + Math.min(a[cross] + a[crossSize], b[cross] + b[crossSize])) / 2;
  const line = (from: number, to: number): Distance[] => (Math.abs(to - from) < 0.5 ? [] : [{ axis, from, to, at }]);
  const [aEnd, bEnd] = [a[axis] + a[size], b[axis] + b[size]];
  if (b[axis] >= aEnd) return line(aEnd, b[axis]);
  if (a[axis] >= bEnd) return line(bEnd, a[axis]);
  return [...line(Math.min(a[axis], b[axis]), Math.max(a[axis], b[axis])), ...line(Math.min(aEnd, bEnd), Math.max(aEnd, bEnd))];
}

/** Where a rectangle of the scene is drawn, in screen pixels, with a margin of some around it. */
export const onScreen = ({ x, y, width, height }: Rect, scale: number, margin = 0): Rect => ({
  x: x * scale - margin,
  y: y * scale - margin,
  width: width * scale + 2 * margin,
  height: height * scale + 2 * margin,
});

/** Degrees, clockwise from straight up, of a point seen from a middle; with `step`, the nearest multiple of it. */
export function angleFrom(middle: { x: number; y: number }, point: { x: number; y: number }, step = 0): number {
  const degrees = (Math.atan2(point.x - middle.x, middle.y - point.y) * 180) / Math.PI;
  return step ? Math.round(degrees / step) * step : Math.round(degrees * 10) / 10;
}
