import { areWithin, beyond, keep, Matrix, plus, timeOf, ZERO } from './bounds.ts';
import { isInside, type Zone } from './zones.ts';

/**
 * Zones that are one when they are taken together: whatever order several things were set off in, what waits then is often all one. (Ben
 * Salah, Bozga and Maler 2006: the union of what interleavings come to is convex.)
 */

/** The least zone around two of the same things. */
const around = (one: Zone, other: Zone): Zone => ({ ...one, bounds: one.bounds.map((bound, i) => Math.max(bound, other.bounds[i]!)) });

/** Numbers from 0 to 1, spread evenly and always the same (multiples of the golden ratio). */
function spread(): () => number {
  let at = 0.5;
  return () => (at = (at + 0.6180339887498949) % 1);
}

const sum = (numbers: readonly number[]): number => numbers.reduce((all, one) => all + one, 0);

/** Whether two zones may have anything in common. */
function mayMeet(one: readonly number[], other: readonly number[]): boolean {
  const size = Math.sqrt(one.length);
  for (let i = 0; i < size; i++) for (let j = 0; j < size; j++) if (plus(one[i * size + j]!, other[j * size + i]!) < ZERO) return false;
  return true;
}

/** So often one zone is taken from another at most before it counts as not covered. */
const MOST_TAKEN = 1000;

/** So many ways of a zone are looked at before all of it is: where not all of it is covered, one of them most often is not. */
const LOOKED_AT = 12;

/** One way in which time can have passed in a zone: what is left of each, in units, with now before them. By numbers from 0 to 1. */
function wayIn({ waits, bounds }: Zone, next: () => number): number[] {
  const size = waits.length + 1;
  const way = [0];
  for (let i = 1; i < size; i++) {
    let [least, most] = [-Infinity, Infinity];
    for (let j = 0; j < i; j++) {
      least = Math.max(least, way[j]! - timeOf(bounds[j * size + i]!));
      most = Math.min(most, way[j]! + timeOf(bounds[i * size + j]!));
    }
    way.push(least + (most - least) * next());
  }
  return way;
}

/** Of a unit. */
const EPSILON = 1e-6;

/** Zones of the same things, taken together. */
class Together {
  private readonly all: readonly (readonly number[])[];

  constructor(zones: readonly Zone[]) {
    // Of wide ones fewer have to be taken from what they may cover.
    const widths = zones.map(({ bounds }) => ({ bounds, width: sum(bounds) }));
    this.all = widths.sort((a, b) => b.width - a.width).map(({ bounds }) => bounds);
  }

  /** Whether each way in which time can have passed in a zone is in at least one of them; not, where that takes too long to say. */
  covers(zone: Zone): boolean {
    const next = spread();
    for (let i = 0; i < LOOKED_AT; i++) {
      const way = wayIn(zone, next);
      if (!this.all.some((one) => keep(way, one, EPSILON))) return false;
    }
    this.taken = 0;
    return this.coversFrom(0, zone.bounds);
  }

  private taken = 0;

  private coversFrom(first: number, cells: readonly number[]): boolean {
    const { all } = this;
    if (++this.taken > MOST_TAKEN) return false;
    let from = all.length;
    for (let i = all.length - 1; i >= first; i--) {
      if (areWithin(cells, all[i]!)) return true;
      if (mayMeet(cells, all[i]!)) from = i;
    }
    if (from === all.length) return false;
    const other = all[from]!;
    // What of it is outside of one bound after the other has to be covered by the rest.
    const within = new Matrix([...cells]);
    for (let i = 0, at = 0; i < within.size; i++)
      for (let j = 0; j < within.size; j++, at++) {
        const bound = other[at]!;
        if (bound >= within.cells[at]!) continue;
        const outside = new Matrix([...within.cells]);
        if (outside.tighten(j, i, beyond(bound)) && !this.coversFrom(from + 1, outside.cells)) return false;
        if (!within.tighten(i, j, bound)) return true;
      }
    return true;
  }
}

/**
 * The widest zone around one, of the same things, that is nothing but that one and others taken together; those among the others that it
 * is to take in are tried: all of them, and one by one. The zone itself where there is none.
 */
export function joined(zone: Zone, toTakeIn: readonly Zone[], others: readonly Zone[]): Zone {
  const all = new Together([zone, ...others]);
  const whole = toTakeIn.reduce(around, zone);
  if (all.covers(whole)) return whole;
  return toTakeIn.reduce((wide, one) => {
    if (isInside(one, wide)) return wide;
    const wider = around(wide, one);
    return all.covers(wider) ? wider : wide;
  }, zone);
}
