import type { Ast } from '../expression/ast.ts';
import { compileAst, type Environment } from '../expression/compile.ts';
import type { Layer } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import { AskedTogether } from './asked-together.ts';
import { keyOf } from './compared.ts';
import { facesOf, heightOver, middleOf, type Box, type Face, type Plane } from './faces.ts';
import { areThereTogether, knobsIn, type Knob } from './knobs.ts';
import { planesOf, type Compared } from './planes.ts';
import type { Read } from './reads.ts';
import { answerIn, type Range } from './values.ts';

/**
 * Numbers that people put into fields and of which something is asked together: a sum of two sliders, which of two is more, a price for
 * those who are members. Values are found for each so that, put together, they come out in every way in which what is asked can.
 */
export interface Together {
  readonly values: readonly number[];
  /** Whether they do: no way that there is is missing. */
  readonly isAll: boolean;
}

/**
 * What is found for fields and for layers that are dragged, as `id.value`, `id.x` and `id.y`; nothing of those of which anything else is
 * asked.
 */
export function togetherIn(program: Program, read: readonly Read[], layers: readonly Layer[], isFree: (id: string) => boolean) {
  const knobs = knobsIn(program, read, layers);
  const found = new Map<string, Together>();
  if (knobs.size === 0) return found;
  const asked = new AskedTogether(program, read, knobs, isFree);
  for (const { of, atoms } of asked.groups()) {
    const given = of.map(({ key }) => asked.givenTo(key));
    const values = of.every(({ range }) => range.steps) ? (tried(of, atoms) ?? reasoned(of, atoms)) : reasoned(of, atoms);
    if (!values) continue;
    const areWithin = of.every(({ range }, i) => given[i]!.every((value) => isWithin(range, value)));
    const isAll = values.isAll && areWithin && (of.length === 1 || areThereTogether(program, of));
    for (const [i, { name, range }] of of.entries()) {
      const [some] = values.of[i]!;
      const more = given[i]!.filter((value) => isWithin(range, value));
      found.set(name, { values: [...new Set([range.least ?? some!, range.most ?? some!, ...values.of[i]!, ...more])], isAll });
    }
  }
  return found;
}

/** Values of each knob, and whether all ways come about with them. */
interface Found {
  readonly of: readonly (readonly number[])[];
  readonly isAll: boolean;
}

/** So many are tried together, one by one. */
const MOST_TRIED = 50_000;

/** Where each goes by steps, and these are not too many: all of them together, whatever is asked. */
function tried(of: readonly Knob[], atoms: readonly Ast[]): Found | null {
  const counts = of.map(({ range }) => range.steps!.count + 1);
  const size = counts.reduce((all, count) => all * count, 1);
  if (size > MOST_TRIED) return null;
  const point: number[] = of.map(() => 0);
  const environment = environmentOf(of, point);
  const computed = atoms.map(compileAst);
  const pointAt = (at: number) => {
    for (const [i, count] of counts.entries()) {
      point[i] = of[i]!.range.steps!.at(at % count);
      at = Math.floor(at / count);
    }
    return point;
  };
  const wayAt = () => computed.map((compute) => String(answerIn(compute, environment))).join();
  const ways = new Map<string, number[]>();
  for (let at = 0; at < size; at++) {
    pointAt(at);
    const way = wayAt();
    (ways.get(way) ?? ways.set(way, []).get(way)!).push(at);
  }
  const found = [...ways.values()].map((all) => [1, 2].map((i) => [...pointAt(all[Math.floor((all.length * i) / 3)]!)]));
  const wayIn = (at: readonly number[]) => {
    at.forEach((value, i) => (point[i] = value));
    return wayAt();
  };
  return put(of, [...ways.keys()], found, (values, way) => tuplesOf(values).some((at) => wayIn(at) === way));
}

/** So many values of all together are put in, at most. */
const MOST_TOGETHER = 2_000;
/** Where they are no more than these, there is room for more of one way. */
const FEW_TOGETHER = 100;

/** Where sums are compared: a point for each way in which they can come out. */
function reasoned(of: readonly Knob[], atoms: readonly Ast[]): Found | null {
  const planes = planesOf(of, atoms);
  if (!planes) return null;
  const box = boxOf(of, planes);
  const faces = facesOf(box, planes);
  // Each sum comes out on either side of what it is held against, if it does, where all are as far as they go.
  if (!faces) return { of: box.map(({ least, most }) => [least, most]), isAll: false };
  const point: number[] = of.map(() => 0);
  const environment = environmentOf(of, point);
  const sideAt = ({ sideIn }: Compared, at: readonly number[]) => {
    at.forEach((value, i) => (point[i] = value));
    return sideIn(environment);
  };
  // What is computed never is just that, however near it comes.
  const roots = planes.map((plane) => (isOfOne(plane) ? (rootsOf(plane).find((at) => sideAt(plane, at) === 0) ?? null) : undefined));
  const known = faces.filter(({ signs }) => !planes.some((_, i) => signs[i] === 0 && roots[i] === null));
  const found = known.map((face) => {
    const on = planes.flatMap((plane, i) => (face.signs[i] === 0 ? [{ plane, root: roots[i] }] : []));
    const onRoots = (at: readonly number[]) =>
      on.reduce((all, { plane, root }) => (root ? all.map((value, k) => (plane.times[k] ? root[k]! : value)) : all), at);
    return pointsOf(face).flatMap((points) => {
      const all = [...points.flatMap((at) => [at, onRoots(at)]), ...points.flatMap((at) => on.flatMap(({ plane }) => broughtTo(plane, at)))];
      const fields = all.map((at) => of.map(({ range }, i) => within(range, at[i]!)));
      const point = fields.find((at) => planes.every((plane, i) => sideAt(plane, at) === face.signs[i]));
      return point ? [point] : [];
    });
  });
  const isIn = (values: Values, { signs }: Face) => tuplesOf(values).some((at) => planes.every((plane, i) => sideAt(plane, at) === signs[i]));
  return put(of, known, found, isIn);
}

type Values = readonly ReadonlySet<number>[];

/** Values that, put together, come out in each way: a point of each that the others do not come to, and, where they are few, one more. */
function put<Way>(
  of: readonly Knob[],
  ways: readonly Way[],
  points: readonly (readonly (readonly number[])[])[],
  isIn: (values: Values, way: Way) => boolean
): Found | null {
  const ends = of.map(({ range: { least, most } }) => [least ?? [], most ?? []].flat());
  const values = ends.map((all) => new Set(all));
  const add = (point: readonly number[]) => point.forEach((value, i) => values[i]!.add(value));
  for (const [i, [point]] of points.entries()) {
    if (sizeOf(values) > MOST_TOGETHER) return null;
    if (point && (values.some(({ size }) => size === 0) || !isIn(values, ways[i]!))) add(point);
  }
  const isAll = points.every((all, i) => all.length > 0 || isIn(values, ways[i]!));
  for (const point of of.length > 1 ? points.flat() : []) if (sizeOf(values) <= FEW_TOGETHER) add(point);
  return { of: values.map((all) => [...all]), isAll };
}

const sizeOf = (values: Values): number => values.reduce((all, { size }) => all * size, 1);

const tuplesOf = (values: Values): readonly (readonly number[])[] =>
  values.reduce<readonly (readonly number[])[]>((all, some) => all.flatMap((one) => [...some].map((value) => [...one, value])), [[]]);

/** A point moved to a plane, by each of its numbers alone. */
const broughtTo = (plane: Plane, at: readonly number[]): readonly (readonly number[])[] =>
  plane.times.flatMap((many, i) => (many ? [at.map((value, k) => (k === i ? value - heightOver(plane, at) / many : value))] : []));

const isOfOne = ({ times }: Plane): boolean => times.filter(Boolean).length === 1;

/** Where a plane that speaks of one number is met, and the numbers next to it that a computer has: points of which that one counts. */
function rootsOf(plane: Plane): readonly (readonly number[])[] {
  const value = -plane.plus / plane.times.find(Boolean)!;
  const near = [value, Number(value.toPrecision(12)), ...[-3, -2, -1, 1, 2, 3].map((many) => value * (1 + many * Number.EPSILON))];
  return near.map((value) => plane.times.map((many) => (many ? value : 0)));
}

/** All that they can be; where there is no end, beyond all that is asked. */
function boxOf(of: readonly Knob[], planes: readonly Plane[]): Box {
  const ends = of.flatMap(({ range: { least, most } }) => [least ?? 0, most ?? 0].map(Math.abs));
  const reach = planes.map(({ times, plus }) => {
    const sizes = times.map(Math.abs);
    const rest = sizes.reduce((sum, size) => sum + size * Math.max(...ends), Math.abs(plus));
    return rest / Math.min(...sizes.filter(Boolean));
  });
  const far = Math.ceil(2 * Math.max(10, ...ends, ...reach));
  return of.map(({ range: { least = -far, most = far } }) => ({ least, most: Math.max(least, most) }));
}

/** Points of a face, as people would put them in first: about its middle, and nearer to an end of it. */
function pointsOf(face: Face): readonly (readonly (readonly number[])[])[] {
  const middle = middleOf(face);
  const aside = middle.map((at, i) => (at + face.points[0]![i]!) / 2);
  return [middle, aside].map((at) => [
    ...[0, 1, 2].map((digits) => at.map((value) => Math.round(value * 10 ** digits) / 10 ** digits)),
    at.map((value) => Number(value.toPrecision(12))),
    at,
  ]);
}

const isWithin = ({ least = -Infinity, most = Infinity }: Range, value: number): boolean => value >= least && value <= most;

/** The value of a field that is nearest. */
function within({ least = -Infinity, most = Infinity, steps }: Range, value: number): number {
  if (!steps) return Math.min(most, Math.max(least, value));
  const step = steps.at(1) - steps.at(0);
  return steps.at(step > 0 ? Math.round((value - steps.at(0)) / step) : 0);
}

function environmentOf(of: readonly Knob[], point: readonly number[]): Environment {
  const at = new Map(of.map(({ key }, i) => [key, i]));
  return { read: (id, property) => point[at.get(keyOf(id, property))!]!, nameOf: () => '', special: () => 0 };
}
