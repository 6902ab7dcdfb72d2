/**
 * Zones: all the ways in which time can have passed for things that wait, as bounds on what is left until each and on what lies between
 * them. A person does things at any moment, so what waits is not due so and so long from now, but somewhere between; zones say exactly
 * where, for all moments at once. (Difference bound matrices, as for timed automata: Dill 1989; Bengtsson and Yi 2004.)
 *
 * Times are whole units. A bound is a number that is twice the time, and one more where the time itself is within it.
 */
export interface Zone {
  /** The numbers of what waits, in the order in which it began to. */
  readonly waits: readonly number[];
  /** How long each waits in all, in units. */
  readonly spans: readonly number[];
  /** Row by row: what one is at most later than another, and at 0 than now. */
  readonly bounds: readonly number[];
}

/** Up to a time, it included. */
const within = (time: number): number => 2 * time + 1;
const ZERO = within(0);
/** Less than no time. */
const BELOW = 0;

const isWithin = (bound: number): number => bound & 1;

/** Within the sum of two times where both are within theirs. */
const plus = (a: number, b: number): number => a + b - ((a | b) & 1);

/** The time of a bound, in units. */
const timeOf = (bound: number): number => (bound - isWithin(bound)) / 2;

export const NOTHING_WAITS: Zone = { waits: [], spans: [], bounds: [ZERO] };

/** Bounds that can be changed, and are always as tight as they make each other: closed. */
class Matrix {
  readonly size: number;
  constructor(readonly cells: number[]) {
    this.size = Math.round(Math.sqrt(cells.length));
  }

  at = (i: number, j: number): number => this.cells[i * this.size + j]!;

  put(i: number, j: number, bound: number): void {
    this.cells[i * this.size + j] = bound;
  }

  /** Tightens one bound of what is closed, and all that it makes tighter; false where nothing is left. */
  tighten(i: number, j: number, bound: number): boolean {
    const { size, cells } = this;
    if (bound >= cells[i * size + j]!) return true;
    if (plus(bound, cells[j * size + i]!) < ZERO) return false;
    for (let k = 0; k < size; k++) {
      const by = plus(cells[k * size + i]!, bound);
      if (by >= cells[k * size + j]!) continue;
      for (let l = 0; l < size; l++) {
        const through = plus(by, cells[j * size + l]!);
        if (through < cells[k * size + l]!) cells[k * size + l] = through;
      }
    }
    return true;
  }

  /** Lets more time pass than before in what is closed: until each there is at least so much, and what lies between them. */
  loosen(least: (old: number) => number): void {
    const { size, cells } = this;
    const before = cells.slice(0, size);
    for (let j = 1; j < size; j++) before[j] = least(before[j]!);
    for (let j = 1; j < size; j++) {
      let bound = before[j]!;
      for (let k = 1; k < size; k++) {
        const through = plus(before[k]!, cells[k * size + j]!);
        if (through < bound) bound = through;
      }
      cells[j] = bound;
    }
  }
}

const matrixOf = ({ bounds }: Zone): Matrix => new Matrix([...bounds]);

/** The most whole units that keep a bound. */
const mostIn = (bound: number): number => timeOf(bound) - 1 + isWithin(bound);

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
export function isInside(inner: Zone, outer: Zone): boolean {
  for (let i = 0; i < inner.bounds.length; i++) if (inner.bounds[i]! > outer.bounds[i]!) return false;
  return true;
}

/** Whether so much being left of each, in units, is in a zone; times that differ by less than half a unit are one. */
export function holds({ waits, bounds }: Zone, left: readonly number[]): boolean {
  const size = waits.length + 1;
  const all = [0, ...left];
  return all.every((a, i) => all.every((b, j) => a - b <= timeOf(bounds[i * size + j]!) + 0.5));
}

/** One way in which time can have passed: as little as can be. What is left of each, in units. */
export const soonest = (zone: Zone): readonly number[] => zone.waits.map((_, i) => mostLeft(zone, i));
