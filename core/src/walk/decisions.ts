import { longer } from './ints.ts';
import type { Rows } from './rows.ts';
import type { Looked } from './slots.ts';

/** Nothing is known from here on. */
const UNKNOWN = 0;

/** Where these stand in a place of the tree: the column that is looked at, for how many of its numbers there is room, what follows from each. */
const [COLUMN, ROOM, NEXT] = [0, 1, 2];

/** What is found by looking at more columns than these is not kept: there are too many ways to it. */
const MOST_COLUMNS = 6;
/** Nor what is found by numbers beyond this. */
const MOST_NUMBER = 1 << 12;
/** Nor more than this in all. */
const MOST_CELLS = 1 << 22;

/**
 * What is answered to a question, by the numbers in columns of a row: decision trees in one list of numbers, as what is looked up most often
 * by far. It says what was learned, and nothing by itself: whoever keeps something here empties it when that may be no more so.
 */
export class Decisions<T> {
  readonly answers: T[] = [];
  /** Greater than 0: where it goes on; less: -1 - the number of an answer. */
  private cells = new Int32Array(1 << 10);
  /** The first place that nothing stands at; 0 says that nothing is known. */
  private length = 1;
  private roots = new Int32Array(1 << 8);
  /** As of what all this was kept. */
  private version = -1;

  /** Empties all this where it was kept as of something else. */
  asOf(version: number): this {
    if (version === this.version) return this;
    this.version = version;
    this.answers.length = 0;
    this.length = 1;
    this.roots.fill(UNKNOWN);
    return this;
  }

  /** The number of the answer to a question in a row; -1 where that is not kept here. */
  find(question: number, rows: Rows, row: number): number {
    const { cells } = this;
    let at = question < this.roots.length ? this.roots[question]! : UNKNOWN;
    while (at > UNKNOWN) {
      const number = rows.at(row, cells[at + COLUMN]!);
      if (number >= cells[at + ROOM]!) return -1;
      at = cells[at + NEXT + number]!;
    }
    return at === UNKNOWN ? -1 : -1 - at;
  }

  /**
   * Keeps the answer to a question by the columns that were looked at for it, in the order in which they were; false where these are too
   * many for that.
   */
  keep(question: number, looked: readonly Looked[], answer: T): boolean {
    if (looked.length > MOST_COLUMNS || looked.some(([, number]) => number > MOST_NUMBER) || this.length > MOST_CELLS) return false;
    if (question >= this.roots.length) this.roots = longer(this.roots, question + 1);
    let at = this.roots[question]!;
    let put = (next: number) => (this.roots[question] = next);
    for (const [column, number] of looked) {
      if (at < UNKNOWN || (at > UNKNOWN && this.cells[at + COLUMN] !== column)) return true;
      const room = at === UNKNOWN ? 0 : this.cells[at + ROOM]!;
      if (number >= room) put((at = this.placeFor(column, Math.max(number + 1, room * 2), at)));
      const here = at + NEXT + number;
      at = this.cells[here]!;
      put = (next) => (this.cells[here] = next);
    }
    if (at === UNKNOWN) put(-1 - this.answers.length);
    if (at === UNKNOWN) this.answers.push(answer);
    return true;
  }

  /** A place with more room, and what followed from another one before. */
  private placeFor(column: number, room: number, before: number): number {
    const at = this.length;
    this.length += NEXT + room;
    if (this.length > this.cells.length) this.cells = longer(this.cells, this.length);
    const known = before === UNKNOWN ? 0 : this.cells[before + ROOM]!;
    this.cells[at + COLUMN] = column;
    this.cells[at + ROOM] = room;
    for (let i = 0; i < room; i++) this.cells[at + NEXT + i] = i < known ? this.cells[before + NEXT + i]! : UNKNOWN;
    return at;
  }
}
