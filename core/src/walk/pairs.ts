import { longer } from './ints.ts';

/** Whole numbers from 0 on by pairs of such, in one piece of memory: found by a hash, with open addressing. */
export class Pairs {
  /** Three for each place: both of a pair, and what stands at it, and 1; 0 for no pair. */
  private cells = new Int32Array(3 << 8);
  private mask = (1 << 8) - 1;
  private count = 0;

  /** What stands at a pair; -1 for nothing. */
  get(a: number, b: number): number {
    return this.cells[this.placeOf(a, b) + 2]! - 1;
  }

  set(a: number, b: number, value: number): void {
    const at = this.placeOf(a, b);
    const { cells } = this;
    const isNew = cells[at + 2] === 0;
    cells[at] = a;
    cells[at + 1] = b;
    cells[at + 2] = value + 1;
    if (isNew && ++this.count * 2 > this.mask) this.grow();
  }

  /** Where a pair stands, or would. */
  private placeOf(a: number, b: number): number {
    const { cells, mask } = this;
    let hash = Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b);
    hash ^= hash >>> 15;
    for (let at = hash & mask; ; at = (at + 1) & mask) {
      const place = at * 3;
      if (cells[place + 2] === 0 || (cells[place] === a && cells[place + 1] === b)) return place;
    }
  }

  private grow(): void {
    const { cells } = this;
    this.cells = longer(cells).fill(0);
    this.mask = this.mask * 2 + 1;
    this.count = 0;
    for (let at = 0; at < cells.length; at += 3) if (cells[at + 2]! > 0) this.set(cells[at]!, cells[at + 1]!, cells[at + 2]! - 1);
  }
}
