import { ANY, areWithin, BELOW, isWithin, keep, Matrix, mostIn, plus, within, ZERO } from './bounds.ts';

/**
 * Zones: all the ways in which time can have passed for things that wait, as bounds on what is left until each and on what lies between
 * them. A person does things at any moment, so what waits is not due so and so long from now, but somewhere between; zones say exactly
 * where, for all moments at once. (Difference bound matrices, as for timed automata: Dill 1989; Bengtsson and Yi 2004.)
 *
 * Times are whole units.
 */
export interface Zone {
  /** The numbers of what waits; the same more than once in the order in which it began to. */
  readonly waits: readonly number[];
  /** How long each waits in all, in units. */
  readonly spans: readonly number[];
  /** Row by row: what one is at most later than another, and at 0 than now. */
  readonly bounds: readonly number[];
}

export const NOTHING_WAITS: Zone = { waits: [], spans: [], bounds: [ZERO] };

const matrixOf = ({ bounds }: Zone): Matrix => new Matrix([...bounds]);

/** Whether one waits exactly as long as another, however time has passed. */
export function areTied({ waits, bounds }: Zone, i: number, j: number): boolean {
  const size = waits.length + 1;
  return bounds[(i + 1) * size + j + 1]! <= ZERO && bounds[(j + 1) * size + i + 1]! <= ZERO;
}

/** Which of what waits does so exactly as long as another, as words. */
export const tiesIn = (zone: Zone): string =>
  zone.waits.flatMap((_, i) => zone.waits.flatMap((_, j) => (j < i && areTied(zone, i, j) ? `${j} ${i}` : []))).join();

/** With what waits in another order, by the places where it was. */
export function inOrder(zone: Zone, order: readonly number[]): Zone {
  if (order.every((from, to) => from === to)) return zone;
  const size = order.length + 1;
  const places = [0, ...order.map((from) => from + 1)];
  const bounds = places.flatMap((i) => places.map((j) => zone.bounds[i * size + j]!));
  return { waits: order.map((from) => zone.waits[from]!), spans: order.map((from) => zone.spans[from]!), bounds };
}

/** How much is left at most until something, in whole units. */
export const mostLeft = ({ waits, bounds }: Zone, i: number): number => mostIn(bounds[(i + 1) * (waits.length + 1)]!);

/** Whether something is due at this very moment, however time has passed. */
export const isDueNow = ({ waits, bounds }: Zone, i: number): boolean => bounds[(i + 1) * (waits.length + 1)]! <= ZERO;

export function isAnyDueNow(zone: Zone): boolean {
  for (let i = 0; i < zone.waits.length; i++) if (isDueNow(zone, i)) return true;
  return false;
}

/** With more that begins to wait, each for so long. */
export function started(zone: Zone, more: readonly { readonly wait: number; readonly span: number }[]): Zone {
  if (more.length === 0) return zone;
  const size = zone.waits.length + 1;
  const all = size + more.length;
  const bounds: number[] = new Array<number>(all * all);
  const old = (i: number, j: number) => zone.bounds[i * size + j]!;
  const spanOf = (i: number) => (i < size ? null : more[i - size]!.span);
  for (let i = 0; i < all; i++)
    for (let j = 0; j < all; j++) {
      const [a, b] = [spanOf(i), spanOf(j)];
      const up = a === null ? old(i, 0) : within(a);
      const down = b === null ? old(0, j) : within(-b);
      bounds[i * all + j] = i === j ? ZERO : a === null && b === null ? old(i, j) : plus(up, down);
    }
  return { waits: [...zone.waits, ...more.map(({ wait }) => wait)], spans: [...zone.spans, ...more.map(({ span }) => span)], bounds };
}

/** Without some of what waits. */
export function without(zone: Zone, isGone: (i: number) => boolean): Zone {
  const places = [0];
  for (let i = 0; i < zone.waits.length; i++) if (!isGone(i)) places.push(i + 1);
  const size = zone.waits.length + 1;
  if (places.length === size) return zone;
  const bounds: number[] = [];
  for (const i of places) for (const j of places) bounds.push(zone.bounds[i * size + j]!);
  const kept = places.slice(1);
  return { waits: kept.map((i) => zone.waits[i - 1]!), spans: kept.map((i) => zone.spans[i - 1]!), bounds };
}

/** Any time later, as long as nothing is due; where something is due at once, no time passes. */
export function later(zone: Zone): Zone {
  if (zone.waits.length === 0 || isAnyDueNow(zone)) return zone;
  const matrix = matrixOf(zone);
  // Of what can be due at this very moment only what is not.
  for (let i = 1; i < matrix.size; i++) if (!matrix.tighten(0, i, BELOW)) return zone;
  matrix.loosen(() => BELOW);
  return { ...zone, bounds: matrix.cells };
}

/** The moment at which one is due before all others, of which some have to be later; it is still in it. Null where that cannot be. */
export function dueFirst(zone: Zone, i: number, isBehind: (j: number) => boolean): Zone | null {
  const matrix = matrixOf(zone);
  matrix.loosen((old) => Math.max(old, ZERO));
  // It is due when nothing is left of it, and none of the others was due before.
  if (!matrix.tighten(i + 1, 0, ZERO)) return null;
  for (let j = 0; j < zone.waits.length; j++) if (j !== i && isBehind(j) && !matrix.tighten(0, j + 1, BELOW)) return null;
  return { ...zone, bounds: matrix.cells };
}

/** All ways in which time can have passed in two zones of the same things; null where there is none. */
export function both(one: Zone, other: Zone): Zone | null {
  const matrix = matrixOf(one);
  for (let i = 0; i < matrix.size; i++)
    for (let j = 0; j < matrix.size; j++) if (!matrix.tighten(i, j, other.bounds[i * matrix.size + j]!)) return null;
  return { ...one, bounds: matrix.cells };
}

/** Any time earlier. */
export const earlier = (zone: Zone): Zone => {
  const size = zone.waits.length + 1;
  return { ...zone, bounds: zone.bounds.map((bound, i) => (i > 0 && i % size === 0 ? ANY : bound)) };
};

/** With all that waits in another zone too, of which nothing is known; `places` says where what waits here stands there. */
export function among(zone: Zone, all: Zone, places: readonly number[]): Zone {
  const size = all.waits.length + 1;
  const own = zone.waits.length + 1;
  const at = new Map<number, number>([[0, 0], ...places.map((place, i) => [place + 1, i + 1] as const)]);
  const bounds = all.bounds.map((_, cell) => {
    const [i, j] = [at.get(Math.floor(cell / size)), at.get(cell % size)];
    return i !== undefined && j !== undefined ? zone.bounds[i * own + j]! : Math.floor(cell / size) === cell % size ? ZERO : ANY;
  });
  return { ...all, bounds };
}

/** So many units more may have passed where it cannot be quite as little as can be thought: things come after each other meanwhile. */
export const SLACK = 50;

/** Whether exactly as much can be left of something as there is at most. */
export const isReached = ({ waits, bounds }: Zone, i: number): boolean => isWithin(bounds[(i + 1) * (waits.length + 1)]!) === 1;

/** As little time as can have passed for some of what waits. */
export function earliest(zone: Zone, which: readonly number[]): Zone {
  if (which.length === 0) return zone;
  const matrix = matrixOf(zone);
  for (const i of which) {
    const most = matrix.at(i + 1, 0);
    if (!matrix.tighten(0, i + 1, within((isWithin(most) ? 0 : SLACK) - mostIn(most)))) return zone;
  }
  return { ...zone, bounds: matrix.cells };
}

/** Whether all ways in which time can have passed in one zone are in another, of the same things. */
export const isInside = (inner: Zone, outer: Zone): boolean => areWithin(inner.bounds, outer.bounds);

/** Whether so much being left of each, in units, is in a zone; times that differ by less than half a unit are one. */
export const holds = ({ bounds }: Zone, left: readonly number[]): boolean => keep([0, ...left], bounds, 0.5);

/** One way in which time can have passed: as little as can be. What is left of each, in units. */
export const soonest = (zone: Zone): readonly number[] => zone.waits.map((_, i) => mostLeft(zone, i));
