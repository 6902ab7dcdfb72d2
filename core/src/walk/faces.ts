/**
 * The ways in which numbers can stand to what they are held against. Each comparison of sums is a plane that cuts a box, and each way in
 * which all of them can come out is one convex face of what they cut it into.
 */

/** Where `times` · point + `plus` is 0. */
export interface Plane {
  readonly times: readonly number[];
  readonly plus: number;
}

/** The least and the most of each number. */
export type Box = readonly { readonly least: number; readonly most: number }[];

/** One way: points whose hull it is, ends and all, and -1, 0 or 1 for each plane. */
export interface Face {
  readonly points: readonly (readonly number[])[];
  readonly signs: readonly number[];
}

/** More than these are not followed. */
const MOST_WAYS = 5;
const MOST_FACES = 600;
const MOST_POINTS = 160;
/** So many times two points are looked at. */
const MOST_WORK = 300_000;

const EPSILON = 1e-9;

export const heightOver = ({ times, plus }: Plane, point: readonly number[]): number => times.reduce((sum, many, i) => sum + many * point[i]!, plus);

/** Of which side of a plane a point is, but for what binary fractions add: -1, 0 or 1. */
function sideOf(plane: Plane, point: readonly number[]): number {
  const height = heightOver(plane, point);
  const scale = plane.times.reduce((most, many, i) => Math.max(most, Math.abs(many * point[i]!)), Math.abs(plane.plus));
  return Math.abs(height) <= EPSILON * Math.max(1, scale) ? 0 : Math.sign(height);
}

/** All faces of a box; null where there are too many. */
export function facesOf(box: Box, planes: readonly Plane[]): readonly Face[] | null {
  if (box.length > MOST_WAYS) return null;
  const corners = box.reduce<number[][]>(
    (all, { least, most }) => all.flatMap((one) => [...new Set([least, most])].map((end) => [...one, end])),
    [[]]
  );
  let faces: Face[] = [{ points: corners, signs: [] }];
  let work = 0;
  for (const plane of planes) {
    work += faces.reduce((sum, { points }) => sum + points.length ** 2, 0);
    if (work > MOST_WORK) return null;
    faces = faces.flatMap((face) => cut(face, plane, planes));
    if (faces.length > MOST_FACES || faces.some(({ points }) => points.length > MOST_POINTS)) return null;
  }
  return faces;
}

function cut({ points, signs }: Face, plane: Plane, planes: readonly Plane[]): Face[] {
  const sides = points.map((point) => sideOf(plane, point));
  const on = points.filter((_, i) => sides[i] === 0);
  const under = points.filter((_, i) => sides[i] === -1);
  const over = points.filter((_, i) => sides[i] === 1);
  const crossed = under.flatMap((low) => over.map((high) => between(low, high, plane)));
  const middle = distinct([...on, ...crossed]);
  return [
    { points: under.length ? distinct([...under, ...middle]) : [], signs: [...signs, -1] },
    { points: middle, signs: [...signs, 0] },
    { points: over.length ? distinct([...over, ...middle]) : [], signs: [...signs, 1] },
  ].filter((face) => face.points.length > 0 && isThere(face, planes));
}

/** Whether there is anything of a face but its edges. */
function isThere(face: Face, planes: readonly Plane[]): boolean {
  const middle = middleOf(face);
  return face.signs.every((sign, i) => sideOf(planes[i]!, middle) === sign);
}

/** A point inside a face. */
export const middleOf = ({ points }: Face): number[] => points[0]!.map((_, i) => points.reduce((sum, point) => sum + point[i]!, 0) / points.length);

function between(low: readonly number[], high: readonly number[], plane: Plane): number[] {
  const [a, b] = [heightOver(plane, low), heightOver(plane, high)];
  return low.map((from, i) => from + (a / (a - b)) * (high[i]! - from));
}

const distinct = (points: Face['points']): Face['points'] => [
  ...new Map(points.map((point) => [point.map((at) => Number(at.toPrecision(10))).join(), point])).values(),
];
