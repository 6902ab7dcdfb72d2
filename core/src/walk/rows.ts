import { longer } from './ints.ts';

/**
 * Rows of small numbers, each kept once: which of them are the same is found by a hash that a change of one number changes in one
 * step. Open addressing; widths and lengths double as they are needed.
 */
export class Rows {
  /** Of 16 bits, until a number asks for more. */
  private cells: Cells = new Uint16Array(1 << 12);
  /** The same memory in pieces of 32 bits: to copy and to compare. */
  private words = new Uint32Array(this.cells.buffer);
  private width = 16;
  /** So many words a row has. */
  private span = 8;
  /** A number for each column by which the numbers in it count in hashes. */
  private factors = factorsFor(this.width);
  private hashes = new Int32Array(1 << 8);
  /** Twice as long as it has places: in each a hash, and the row that has it, -1 for none. */
  private table = new Int32Array(1 << 11).fill(-1);
  /** The greatest number that cells hold. */
  private most = MOST_NARROW;
  length = 0;

  /** The number in a column of a row. */
  at(row: number, column: number): number {
    return column < this.width ? this.cells[row * this.width + column]! : 0;
  }

  /**
   * The row that is like another one (-1: all zero) with some numbers changed, the later of two for one column; kept if there was none.
   * The last row is a new one exactly when there are more of them then.
   */
  with(row: number, columns: readonly number[], values: readonly number[]): number {
    for (let i = 0; i < columns.length; i++) if (columns[i]! >= this.width || values[i]! > this.most) this.makeRoomFor(columns[i]!, values[i]!);
    if ((this.length + 1) * this.width > this.cells.length) this.use(grown(this.cells));
    const { cells, words, factors } = this;
    const base = this.length * this.width;
    this.copy(row);
    let hash = row < 0 ? 0 : this.hashes[row]!;
    for (let i = 0; i < columns.length; i++) {
      const column = columns[i]!;
      const now = values[i]!;
      hash = (hash + Math.imul(now - cells[base + column]!, factors[column]!)) | 0;
      cells[base + column] = now;
    }
    return this.kept(words, hash);
  }

  /** Copies a row to behind the last one. One word after the other, as rows are short. */
  private copy(row: number): void {
    const { words, length, span } = this;
    const to = length * span;
    if (row < 0) for (let i = 0; i < span; i++) words[to + i] = 0;
    else for (let i = 0, from = row * span; i < span; i++) words[to + i] = words[from + i]!;
  }

  /** Keeps the row that stands behind the last one, unless it is there already. */
  private kept(words: Uint32Array, hash: number): number {
    const { table, span } = this;
    const base = this.length * span;
    const mask = table.length - 1;
    let at = placeOf(hash) & mask;
    for (; table[at + 1]! >= 0; at = (at + 2) & mask)
      if (table[at] === hash) {
        const other = table[at + 1]!;
        if (isSame(words, base, other * span, span)) return other;
      }
    const row = this.length++;
    if (row >= this.hashes.length) this.hashes = longer(this.hashes);
    this.hashes[row] = hash;
    table[at] = hash;
    table[at + 1] = row;
    if (this.length * 4 > table.length) this.rehash(table.length * 2);
    return row;
  }

  /** Rows wide enough for a column, with cells wide enough for a number in it. */
  private makeRoomFor(column: number, value: number): void {
    while (column >= this.width) this.widen();
    if (value <= this.most) return;
    this.most = MOST_WIDE;
    this.use(Uint32Array.from(this.cells));
  }

  private use(cells: Cells, width = this.width): void {
    this.cells = cells;
    this.words = new Uint32Array(cells.buffer);
    this.width = width;
    this.span = (this.words.length / cells.length) * width;
  }

  private rehash(size: number): void {
    this.table = new Int32Array(size).fill(-1);
    for (let row = 0; row < this.length; row++) {
      const hash = this.hashes[row]!;
      let at = placeOf(hash) & (size - 1);
      while (this.table[at + 1]! >= 0) at = (at + 2) & (size - 1);
      this.table[at] = hash;
      this.table[at + 1] = row;
    }
  }

  private widen(): void {
    const { cells, width, length } = this;
    const wide = emptied(cells, Math.max(cells.length, (length + 1) * width) * 2);
    for (let row = 0; row < length; row++) wide.set(cells.subarray(row * width, (row + 1) * width), row * width * 2);
    this.use(wide, width * 2);
    this.factors = factorsFor(this.width);
  }
}

type Cells = Uint16Array | Uint32Array;

/** The greatest number that 16 bits hold. */
const MOST_NARROW = 0xffff;
const MOST_WIDE = 0xffffffff;

function isSame(words: Uint32Array, a: number, b: number, span: number): boolean {
  for (let i = 0; i < span; i++) if (words[a + i] !== words[b + i]) return false;
  return true;
}

const emptied = (cells: Cells, length: number): Cells => (cells instanceof Uint16Array ? new Uint16Array(length) : new Uint32Array(length));

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

const factorsFor = (width: number): readonly number[] => Array.from({ length: width }, (_, column) => factorOf(column));

/** An odd number that is another one for each column: sums of products with such tell rows apart as well as any hash. */
function factorOf(column: number): number {
  let factor = Math.imul(column + 1, 0x85ebca6b);
  factor = Math.imul(factor ^ (factor >>> 15), 0x2c1b3c6d);
  factor = Math.imul(factor ^ (factor >>> 12), 0x297a2d39);
  return (factor ^ (factor >>> 15)) | 1;
}
