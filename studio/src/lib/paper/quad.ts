/** Four corners in a picture, in its pixels: left top, right top, right bottom, left bottom. */
export type Quad = readonly [Point, Point, Point, Point];

export interface Point {
  readonly x: number;
  readonly y: number;
}

const at = (x: number, y: number): Point => ({ x, y });

export const quadOf = (corners: (at: 0 | 1 | 2 | 3) => Point): Quad => [corners(0), corners(1), corners(2), corners(3)];

export const boxQuad = (x: number, y: number, width: number, height: number): Quad => [
  at(x, y),
  at(x + width, y),
  at(x + width, y + height),
  at(x, y + height),
];

/** The corners of a row of points that lie about as an upright rectangle does: the outermost in each of the four slanting directions. */
function outermost(points: readonly Point[]): Quad {
  const most = (worth: (point: Point) => number) => points.reduce((best, point) => (worth(point) > worth(best) ? point : best));
  return [most(({ x, y }) => -x - y), most(({ x, y }) => x - y), most(({ x, y }) => x + y), most(({ x, y }) => y - x)];
}

/**
 * Corners as where straight sides meet, from the points of an outline: a corner that is drawn round, or a line that sways, does not
 * pull them in. The sides' own corners where a side has too few points to be one.
 */
export function straightSides(points: readonly Point[]): Quad {
  const rough = outermost(points);
  const lines = rough.map((corner, i) => sideOf(points, corner, rough[(i + 1) % 4]!));
  return quadOf((i) => {
    const [before, after] = [lines[(i + 3) % 4], lines[i]];
    const met = before && after ? crossing(before, after) : null;
    const size = distance(rough[0], rough[2]);
    return met && distance(met, rough[i]) < size / 6 ? met : rough[i];
  });
}

/** A line by a point on it and its direction. */
interface Line {
  readonly on: Point;
  readonly along: Point;
}

/** The line that lies best in the points along the middle of a side, by the least squares of their distances from it. */
function sideOf(points: readonly Point[], from: Point, to: Point): Line | null {
  const length = distance(from, to);
  if (length === 0) return null;
  const [ux, uy] = [(to.x - from.x) / length, (to.y - from.y) / length];
  const near = points.filter(({ x, y }) => {
    const along = (x - from.x) * ux + (y - from.y) * uy;
    const off = Math.abs((y - from.y) * ux - (x - from.x) * uy);
    return along > length * 0.15 && along < length * 0.85 && off < length * 0.08;
  });
  if (near.length < 8) return null;
  const on = at(mean(near.map(({ x }) => x)), mean(near.map(({ y }) => y)));
  let [xx, xy, yy] = [0, 0, 0];
  for (const { x, y } of near) {
    const [dx, dy] = [x - on.x, y - on.y];
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
  }
  const angle = Math.atan2(2 * xy, xx - yy) / 2;
  return { on, along: at(Math.cos(angle), Math.sin(angle)) };
}

function crossing(a: Line, b: Line): Point | null {
  const cross = a.along.x * b.along.y - a.along.y * b.along.x;
  // Sides that lie nearly alike meet nowhere near.
  if (Math.abs(cross) < 0.2) return null;
  const t = ((b.on.x - a.on.x) * b.along.y - (b.on.y - a.on.y) * b.along.x) / cross;
  return at(a.on.x + a.along.x * t, a.on.y + a.along.y * t);
}

export const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

export const distance = (a: Point, b: Point): number => Math.hypot(a.x - b.x, a.y - b.y);

/** How wide and high what is in four corners is, by the means of opposite sides. */
export const sizeOf = ([a, b, c, d]: Quad): { readonly width: number; readonly height: number } => ({
  width: (distance(a, b) + distance(d, c)) / 2,
  height: (distance(a, d) + distance(b, c)) / 2,
});

/** All sides moved inwards by so many pixels. */
export function inset(quad: Quad, by: number): Quad {
  const { width, height } = sizeOf(quad);
  const [u, v] = [Math.min(by / width, 0.4), Math.min(by / height, 0.4)];
  const inside = (x: number, y: number): Point => {
    const mix = (a: Point, b: Point, t: number) => at(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t);
    return mix(mix(quad[0], quad[1], x), mix(quad[3], quad[2], x), y);
  };
  return [inside(u, v), inside(1 - u, v), inside(1 - u, 1 - v), inside(u, 1 - v)];
}

/** Whether a picture can be cut out by these corners: they go round, turn one way, and what they hold is not thin. */
export function canCut(quad: Quad): boolean {
  const { width, height } = sizeOf(quad);
  if (width < 8 || height < 8) return false;
  return [0, 1, 2, 3].every((i) => {
    const [a, b, c] = [quad[i]!, quad[(i + 1) % 4]!, quad[(i + 2) % 4]!];
    return (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x) > 0;
  });
}

/** Maps points of a rectangle that begins at 0, 0 onto what is in four corners, as a flat thing is seen aslant (a homography). */
export function onto(quad: Quad, width: number, height: number): (point: Point) => Point {
  const [p0, p1, p2, p3] = quad;
  const [dx1, dx2, dx3] = [p1.x - p2.x, p3.x - p2.x, p0.x - p1.x + p2.x - p3.x];
  const [dy1, dy2, dy3] = [p1.y - p2.y, p3.y - p2.y, p0.y - p1.y + p2.y - p3.y];
  const across = dx1 * dy2 - dx2 * dy1;
  const g = (dx3 * dy2 - dx2 * dy3) / across;
  const h = (dx1 * dy3 - dx3 * dy1) / across;
  return ({ x, y }) => {
    const [u, v] = [x / width, y / height];
    const w = g * u + h * v + 1;
    return at(
      ((p1.x - p0.x + g * p1.x) * u + (p3.x - p0.x + h * p3.x) * v + p0.x) / w,
      ((p1.y - p0.y + g * p1.y) * u + (p3.y - p0.y + h * p3.y) * v + p0.y) / w
    );
  };
}
