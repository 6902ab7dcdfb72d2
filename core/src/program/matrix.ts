import type { Point } from './geometry.ts';

/** An affine map of the plane: x' = a·x + c·y + e, y' = b·x + d·y + f (the order of CSS `matrix()`). */
export interface Matrix {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

export const IDENTITY: Matrix = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

export const translated = (m: Matrix, x: number, y: number): Matrix =>
  x === 0 && y === 0 ? m : { ...m, e: m.a * x + m.c * y + m.e, f: m.b * x + m.d * y + m.f };

export const scaled = (m: Matrix, x: number, y: number): Matrix =>
  x === 1 && y === 1 ? m : { a: m.a * x, b: m.b * x, c: m.c * y, d: m.d * y, e: m.e, f: m.f };

/** Turned clockwise by degrees. */
export function rotated(m: Matrix, degrees: number): Matrix {
  if (degrees === 0) return m;
  const angle = (degrees * Math.PI) / 180;
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  return { a: m.a * cos + m.c * sin, b: m.b * cos + m.d * sin, c: m.c * cos - m.a * sin, d: m.d * cos - m.b * sin, e: m.e, f: m.f };
}

export const mapPoint = (m: Matrix, x: number, y: number): Point => ({ x: m.a * x + m.c * y + m.e, y: m.b * x + m.d * y + m.f });

/** The point that the map brings to `point`; null where the map flattens everything. */
export function unmapPoint(m: Matrix, { x, y }: Point): Point | null {
  const size = m.a * m.d - m.b * m.c;
  if (size === 0) return null;
  const [dx, dy] = [x - m.e, y - m.f];
  return { x: (m.d * dx - m.c * dy) / size, y: (m.a * dy - m.b * dx) / size };
}
