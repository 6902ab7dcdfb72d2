import { longer } from './ints.ts';

/**
 * Rows of small numbers, each kept once: which of them are the same is found by a sum of products that a change of one number changes in
 * one step. Where there are few enough rows that could be, the sum is another one for each, and where it stands in a list; else it is a
 * hash, with open addressing. Widths grow, and lengths double, as they are needed.
 */
export class Rows {
  /** Of 8 bits, until a number asks for more. */
  cells: Cells = new Uint8Array(1 << 12);
  /** The same memory in pieces of 32 bits: to copy and to compare. */
  private words = new Uint32Array(this.cells.buffer);
  width = 8;
  /** So many words a row has. */
  private span = 2;
  /** For each column how many numbers there are to be in it. */
  private ranges = new Int32Array(this.width).fill(1);
  /** A number for each column by which the numbers in it count in sums. */
  private factors = new Int32Array(this.width);
  sums = new Int32Array(1 << 8);
  /** Whether no two rows that can be have the same sum. */
  isDense = true;
  /** Where that is so, by their sums the rows, and 1; else twice as long as it has places: in each a sum, and the row that has it, and 1. 0 for none. */
  private table = new Int32Array(1);
  /** Where no two rows have the same sum, a bit for each sum: 1 where its row was marked since sums count as they do. */
  marks = new Uint32Array(1);
  /** The greatest number that cells hold. */
  private most = 0xff;
  length = 0;
  /** Another number whenever sums count anew, or there are more numbers to be in a column. */
  ordered = 0;

  /** The number in a column of a row. */
  at(row: number, column: number): number {
    return row >= 0 && column < this.width ? this.cells[row * this.width + column]! : 0;
  }

  /**
   * The row that is like another one (-1: all zero) with the numbers of some columns, each named once, changed; kept if there was none.
   * The last row is a new one exactly when there are more of them then.
   */
  with(row: number, columns: readonly number[], values: readonly number[]): number {
    for (let i = 0; i < columns.length; i++)
      if (columns[i]! >= this.width || values[i]! >= this.ranges[columns[i]!]!) this.makeRoomFor(columns[i]!, values[i]!);
    const { cells, factors, width } = this;
    let sum = 0;
    if (row < 0) for (let i = 0; i < columns.length; i++) sum = (sum + Math.imul(values[i]!, factors[columns[i]!]!)) | 0;
    else {
      sum = this.sums[row]!;
      const base = row * width;
      for (let i = 0; i < columns.length; i++) sum = (sum + Math.imul(values[i]! - cells[base + columns[i]!]!, factors[columns[i]!]!)) | 0;
    }
    if (!this.isDense) return this.kept(sum, row, columns, values);
    const known = this.table[sum]!;
    return known > 0 ? known - 1 : this.add(sum, sum, row, columns, values);
  }

  /** How many numbers there are to be in a column. */
  rangeOf(column: number): number {
    return column < this.width ? this.ranges[column]! : 1;
  }

  mark(row: number): void {
    const sum = this.sums[row]!;
    const bit = 1 << (sum & 31);
    if (this.isDense) this.marks[sum >> 5]! |= bit;
  }

  /** How far the sum of a row changes where some columns of it, with given numbers, are set to others; null where that depends on the row. */
  leap(was: ReadonlyMap<number, number>, columns: readonly number[], values: readonly number[]): number | null {
    let leap = 0;
    for (const [i, column] of columns.entries()) {
      const before = was.get(column);
      if (before === undefined || column >= this.width || values[i]! >= this.ranges[column]!) return null;
      leap = (leap + Math.imul(values[i]! - before, this.factors[column]!)) | 0;
    }
    return leap;
  }

  /** The same from what stands in a row. */
  leapFrom(row: number, columns: readonly number[], values: readonly number[]): number | null {
    return this.leap(new Map(columns.map((column) => [column, this.at(row, column)])), columns, values);
  }

  /** The row that is so far from another one by the numbers of some columns; -1 where there is none yet. */
  leapt(row: number, leap: number, columns: readonly number[], values: readonly number[]): number {
    const sum = (this.sums[row]! + leap) | 0;
    return this.table[this.isDense ? sum : this.placeIn(sum, row, columns, values) + 1]! - 1;
  }

  /** The same; kept if there was none. */
  leapTo(row: number, leap: number, columns: readonly number[], values: readonly number[]): number {
    const sum = (this.sums[row]! + leap) | 0;
    if (!this.isDense) return this.kept(sum, row, columns, values);
    const known = this.table[sum]!;
    return known > 0 ? known - 1 : this.add(sum, sum, row, columns, values);
  }

  /** The row with a sum that may be another row's too. */
  private kept(sum: number, row: number, columns: readonly number[], values: readonly number[]): number {
    const at = this.placeIn(sum, row, columns, values);
    const known = this.table[at + 1]!;
    if (known > 0) return known - 1;
    this.table[at] = sum;
    return this.add(sum, at + 1, row, columns, values);
  }

  /** Where a row with a sum that may be another row's too stands in the table, or would. */
  private placeIn(sum: number, row: number, columns: readonly number[], values: readonly number[]): number {
    const { table } = this;
    const mask = table.length - 1;
    let at = placeOf(sum) & mask;
    while (table[at + 1]! > 0 && !(table[at] === sum && this.isLike(table[at + 1]! - 1, row, columns, values))) at = (at + 2) & mask;
    return at;
  }

  /** Whether a row is like another one but for the numbers of some columns. */
  private isLike(other: number, row: number, columns: readonly number[], values: readonly number[]): boolean {
    const { words, cells, width, span } = this;
    for (let i = 0; i < columns.length; i++) if (cells[other * width + columns[i]!] !== values[i]) return false;
    const wide = width / span;
    for (let i = 0, a = other * span, b = row * span; i < span; i++, a++, b++) {
      const was = row < 0 ? 0 : words[b];
      if (words[a] === was) continue;
      for (let column = i * wide; column < (i + 1) * wide; column++)
        if (cells[other * width + column] !== this.at(row, column) && !columns.includes(column)) return false;
    }
    return true;
  }

  /** One row more, by its sum, with where that is noted. */
  private add(sum: number, at: number, like: number, columns: readonly number[], values: readonly number[]): number {
    if ((this.length + 1) * this.width > this.cells.length) this.use(grown(this.cells));
    const { cells, words, width, span } = this;
    const row = this.length++;
    if (like >= 0) for (let i = 0, from = like * span, to = row * span; i < span; i++) words[to + i] = words[from + i]!;
    for (let i = 0; i < columns.length; i++) cells[row * width + columns[i]!] = values[i]!;
    if (row >= this.sums.length) this.sums = longer(this.sums);
    this.sums[row] = sum;
    this.table[at] = row + 1;
    if (!this.isDense && this.length * 4 > this.table.length) this.order();
    return row;
  }

  /** Rows wide enough for a column, with cells wide enough for a number in it, and found by it. */
  private makeRoomFor(column: number, value: number): void {
    while (column >= this.width) this.widen();
    const range = this.ranges[column]!;
    if (value < range) return;
    const wider = Math.max(value + 1, Math.ceil(range * 1.125));
    this.ranges[column] = wider;
    this.ordered++;
    if (this.isDense) this.order();
    // Whatever is within a range has room in cells.
    if (wider - 1 <= this.most) return;
    this.most = wider <= 0x10000 ? 0xffff : 0xffffffff;
    this.use(wider <= 0x10000 ? Uint16Array.from(this.cells) : Uint32Array.from(this.cells));
  }

  private use(cells: Cells, width = this.width): void {
    this.cells = cells;
    this.words = new Uint32Array(cells.buffer);
    this.width = width;
    this.span = (this.words.length / cells.length) * width;
  }

  /** Finds all rows anew, by whichever sums there is room for. */
  private order(): void {
    const all = this.ranges.reduce((product, range) => product * range, 1);
    const wasDense = this.isDense;
    this.isDense = all <= Math.max(FEW, Math.min(MOST_DENSE, this.length * DENSE));
    if (wasDense || this.isDense) this.ordered++;
    let weight = 1;
    this.factors = this.ranges.map((range, column) => (this.isDense ? (weight *= range) / range : factorOf(column)));
    this.table = new Int32Array(this.isDense ? all : 2 ** Math.ceil(Math.log2(Math.max(this.length, 1 << 8)) + 3));
    for (let row = 0; row < this.length; row++) this.note(row);
    this.marks = new Uint32Array(this.isDense ? (all >> 5) + 1 : 1);
  }

  private note(row: number): void {
    const { table, factors, cells, width } = this;
    let sum = 0;
    for (let column = 0, at = row * width; column < width; column++, at++)
      if (cells[at] !== 0) sum = (sum + Math.imul(cells[at]!, factors[column]!)) | 0;
    this.sums[row] = sum;
    let at = sum;
    if (!this.isDense) {
      for (at = (placeOf(sum) & (table.length - 1)) + 1; table[at]! > 0; at = (at + 2) & (table.length - 1));
      table[at - 1] = sum;
    }
    table[at] = row + 1;
  }

  /** Makes rows wider by a few columns: by whole words. */
  private widen(): void {
    const { cells, width, length } = this;
    const wider = width + Math.max(4, (width >> 2) & ~3);
    const wide = emptied(cells, Math.max(cells.length, (length + 1) * wider));
    for (let row = 0; row < length; row++) wide.set(cells.subarray(row * width, (row + 1) * width), row * wider);
    this.use(wide, wider);
    const known = this.ranges.length;
    if (known >= wider) return;
    this.ranges = longer(this.ranges).fill(1, known);
    this.factors = longer(this.factors).map((factor, column) => (column < known || this.isDense ? factor : factorOf(column)));
  }
}

/** So many rows that could be have a place each. */
const FEW = 1 << 20;
/** More have, where so many times as many could be as there are; but never more than so many. */
const DENSE = 64;
const MOST_DENSE = 1 << 24;

type Cells = Uint8Array | Uint16Array | Uint32Array;

const emptied = (cells: Cells, length: number): Cells => new (cells.constructor as new (length: number) => Cells)(length);

const grown = (cells: Cells): Cells => {
  const more = emptied(cells, cells.length * 2);
  more.set(cells);
  return more;
};

/** Where a hash begins to be looked for: an even number. */
const placeOf = (hash: number): number => {
  const spread = Math.imul(hash, 0x9e3779b1);
  return (spread ^ (spread >>> 15)) << 1;
};

/** An odd number that is another one for each column: sums of products with such tell rows apart as well as any hash. */
function factorOf(column: number): number {
  let factor = Math.imul(column + 1, 0x85ebca6b);
  factor = Math.imul(factor ^ (factor >>> 15), 0x2c1b3c6d);
  factor = Math.imul(factor ^ (factor >>> 12), 0x297a2d39);
  return (factor ^ (factor >>> 15)) | 1;
}
