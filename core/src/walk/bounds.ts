/**
 * Bounds on how much later one moment is than another, and matrices of them. A bound is a number that is twice the time, and one more where
 * the time itself is within it. (Bengtsson and Yi 2004.)
 */

/** Up to a time, it included. */
export const within = (time: number): number => 2 * time + 1;
export const ZERO = within(0);
/** As much as can be thought. */
export const ANY = 2 ** 40;
/** Less than no time. */
export const BELOW = 0;

export const isWithin = (bound: number): number => bound & 1;

/** Within the sum of two times where both are within theirs. */
export const plus = (a: number, b: number): number => a + b - ((a | b) & 1);

/** Of a bound on how much later one is than another the bound on how much later that is than the one where the first is not kept. */
export const beyond = (bound: number): number => 1 - bound;

/** The time of a bound, in units. */
export const timeOf = (bound: number): number => (bound - isWithin(bound)) / 2;

/** The most whole units that keep a bound. */
export const mostIn = (bound: number): number => timeOf(bound) - 1 + isWithin(bound);

/** Whether one matrix bounds all at least as tightly as another. */
export function areWithin(inner: readonly number[], outer: readonly number[]): boolean {
  for (let i = 0; i < inner.length; i++) if (inner[i]! > outer[i]!) return false;
  return true;
}

/** Whether times keep all bounds on how much later one is than another, or miss them by no more than so much. */
export function keep(times: readonly number[], bounds: readonly number[], tolerance: number): boolean {
  const size = times.length;
  for (let i = 0, at = 0; i < size; i++)
    for (let j = 0; j < size; j++, at++) if (times[i]! - times[j]! > timeOf(bounds[at]!) + tolerance) return false;
  return true;
}

/** Bounds that can be changed, and are always as tight as they make each other: closed. */
export class Matrix {
  readonly size: number;
  constructor(readonly cells: number[]) {
    this.size = Math.round(Math.sqrt(cells.length));
  }

  at = (i: number, j: number): number => this.cells[i * this.size + j]!;

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
