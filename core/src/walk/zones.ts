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

const NO_BOUND = Infinity;

/** Up to a time, it included. */
const within = (time: number): number => 2 * time + 1;
const ZERO = within(0);
/** Less than no time. */
const BELOW = 0;

const isWithin = (bound: number): number => Math.abs(bound % 2);

const plus = (a: number, b: number): number => {
  if (a === NO_BOUND || b === NO_BOUND) return NO_BOUND;
  const [x, y] = [isWithin(a), isWithin(b)];
  return a - x + (b - y) + (x & y);
};

/** The time of a bound, in units. */
const timeOf = (bound: number): number => (bound - isWithin(bound)) / 2;

export const NOTHING_WAITS: Zone = { waits: [], spans: [], bounds: [ZERO] };

/** Bounds that can be changed. */
class Matrix {
  readonly size: number;
  constructor(readonly cells: number[]) {
    this.size = Math.round(Math.sqrt(cells.length));
  }

  at = (i: number, j: number): number => this.cells[i * this.size + j]!;

  put(i: number, j: number, bound: number): void {
    this.cells[i * this.size + j] = bound;
  }

  /** Makes every bound as tight as the others make it; false where nothing is left. */
  close(): boolean {
    const { size, cells } = this;
    for (let k = 0; k < size; k++)
      for (let i = 0; i < size; i++) {
        const ik = cells[i * size + k]!;
        if (ik === NO_BOUND) continue;
        for (let j = 0; j < size; j++) {
          const by = plus(ik, cells[k * size + j]!);
          if (by < cells[i * size + j]!) cells[i * size + j] = by;
        }
      }
    for (let i = 0; i < size; i++) if (cells[i * size + i]! < ZERO) return false;
    return true;
  }

  /** Tightens one bound; false where nothing is left. */
  tighten(i: number, j: number, bound: number): boolean {
    if (bound >= this.at(i, j)) return true;
    this.put(i, j, bound);
    return this.close();
  }
}

const matrixOf = ({ bounds }: Zone): Matrix => new Matrix([...bounds]);

/** The most whole units that keep a bound. */
const mostIn = (bound: number): number => timeOf(bound) - 1 + isWithin(bound);

/** How much is left at most until something, in whole units. */
export const mostLeft = ({ waits, bounds }: Zone, i: number): number => mostIn(bounds[(i + 1) * (waits.length + 1)]!);

/** Whether something is due at this very moment, however time has passed. */
export const isDueNow = ({ waits, bounds }: Zone, i: number): boolean => bounds[(i + 1) * (waits.length + 1)]! <= ZERO;

export const dueNow = (zone: Zone): readonly number[] => zone.waits.flatMap((_, i) => (isDueNow(zone, i) ? i : []));

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
  const kept = zone.waits.flatMap((_, i) => (isGone(i) ? [] : i));
  if (kept.length === zone.waits.length) return zone;
  const size = zone.waits.length + 1;
  const places = [0, ...kept.map((i) => i + 1)];
  return {
    waits: kept.map((i) => zone.waits[i]!),
    spans: kept.map((i) => zone.spans[i]!),
    bounds: places.flatMap((i) => places.map((j) => zone.bounds[i * size + j]!)),
  };
}

/** Any time later, as long as nothing is due; where something is due at once, no time passes. */
export function later(zone: Zone): Zone {
  if (zone.waits.length === 0 || dueNow(zone).length > 0) return zone;
  const matrix = matrixOf(zone);
  for (let i = 1; i < matrix.size; i++) matrix.put(0, i, BELOW);
  return matrix.close() ? { ...zone, bounds: matrix.cells } : zone;
}

/** The moment at which one is due before all others, of which some have to be later; it is still in it. Null where that cannot be. */
export function dueFirst(zone: Zone, i: number, isBehind: (j: number) => boolean): Zone | null {
  const matrix = matrixOf(zone);
  for (let j = 1; j < matrix.size; j++) matrix.put(0, j, Math.max(matrix.at(0, j), ZERO));
  if (!matrix.close()) return null;
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
export const isInside = (inner: Zone, outer: Zone): boolean => inner.bounds.every((bound, i) => bound <= outer.bounds[i]!);

/** Whether so much being left of each, in units, is in a zone; times that differ by less than half a unit are one. */
export function holds({ waits, bounds }: Zone, left: readonly number[]): boolean {
  const size = waits.length + 1;
  const all = [0, ...left];
  return all.every((a, i) => all.every((b, j) => a - b <= timeOf(bounds[i * size + j]!) + 0.5));
}

/** One way in which time can have passed: as little as can be. What is left of each, in units. */
export const soonest = (zone: Zone): readonly number[] => zone.waits.map((_, i) => mostLeft(zone, i));
