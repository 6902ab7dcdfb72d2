import type { Pose } from '../piece/schema.ts';

/** An upright rectangle in CSS pixels; which space it is in is said where it is used. */
export type Rect = Pose;

export interface Point {
  readonly x: number;
  readonly y: number;
}

export const contains = (rect: Rect, { x, y }: Point): boolean => x >= rect.x && x < rect.x + rect.width && y >= rect.y && y < rect.y + rect.height;

/** Whether a point is in the ellipse that fills a rectangle. */
export function inOval(rect: Rect, { x, y }: Point): boolean {
  const dx = (x - rect.x - rect.width / 2) / (rect.width / 2);
  const dy = (y - rect.y - rect.height / 2) / (rect.height / 2);
  return dx * dx + dy * dy <= 1;
}

/** Whether all of one rectangle is in another. */
export const isWithin = (inner: Rect, outer: Rect): boolean =>
  inner.x >= outer.x && inner.y >= outer.y && inner.x + inner.width <= outer.x + outer.width && inner.y + inner.height <= outer.y + outer.height;

export const centerOf = (rect: Rect): Point => ({ x: rect.x + rect.width / 2, y: rect.y + rect.height / 2 });

/** The smallest rectangle around all; null around nothing. */
export function union(rects: readonly Rect[]): Rect | null {
  if (rects.length === 0) return null;
  const x = Math.min(...rects.map((rect) => rect.x));
  const y = Math.min(...rects.map((rect) => rect.y));
  const right = Math.max(...rects.map((rect) => rect.x + rect.width));
  const bottom = Math.max(...rects.map((rect) => rect.y + rect.height));
  return { x, y, width: right - x, height: bottom - y };
}

export const overlaps = (a: Rect, b: Rect): boolean => a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

export const intersection = (a: Rect, b: Rect): Rect | null => {
  if (!overlaps(a, b)) return null;
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  return { x, y, width: Math.min(a.x + a.width, b.x + b.width) - x, height: Math.min(a.y + a.height, b.y + b.height) - y };
};

/** What a rectangle is made up of but for what another one covers of it: up to four rectangles, none over another. */
export function partsBeside(rect: Rect, cover: Rect): Rect[] {
  const both = intersection(rect, cover);
  if (!both) return [rect];
  const [right, bottom] = [rect.x + rect.width, rect.y + rect.height];
  const parts = [
    { ...rect, height: both.y - rect.y },
    { ...rect, y: both.y + both.height, height: bottom - both.y - both.height },
    { ...both, x: rect.x, width: both.x - rect.x },
    { ...both, x: both.x + both.width, width: right - both.x - both.width },
  ];
  return parts.filter(({ width, height }) => width > 0 && height > 0);
}
