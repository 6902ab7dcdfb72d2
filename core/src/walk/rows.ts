/**
 * Rows of small numbers, each kept once: which of them are the same is found by a hash that a change of one number changes in one
 * step. Open addressing; widths and lengths double as they are needed.
 */
export class Rows {
  /** Of 16 bits, until a number asks for more. */
  private cells: Cells = new Uint16Array(1 << 12);
  private width = 16;
  private hashes = new Int32Array(1 << 8);
  private table = new Int32Array(1 << 10).fill(-1);
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
    for (let i = 0; i < columns.length; i++) {
      while (columns[i]! >= this.width) this.widen();
      if (values[i]! > MOST_NARROW && this.cells instanceof Uint16Array) this.cells = Uint32Array.from(this.cells);
    }
    if ((this.length + 1) * this.width > this.cells.length) this.cells = grown(this.cells);
    const { width, cells, length } = this;
    const base = length * width;
    if (row < 0) cells.fill(0, base, base + width);
    else cells.copyWithin(base, row * width, (row + 1) * width);
    let hash = row < 0 ? 0 : this.hashes[row]!;
    for (let i = 0; i < columns.length; i++) {
      const column = columns[i]!;
      const at = base + column;
      const old = cells[at]!;
      const now = values[i]!;
      if (old === now) continue;
      hash = (hash - mixed(column, old) + mixed(column, now)) | 0;
      cells[at] = now;
    }
    return this.kept(base, hash);
  }

  /** Keeps the row that stands behind the last one, unless it is there already. */
  private kept(base: number, hash: number): number {
    const { table, hashes, width } = this;
    const mask = table.length - 1;
    let at = placeOf(hash) & mask;
    for (; table[at]! >= 0; at = (at + 1) & mask) {
      const other = table[at]!;
      if (hashes[other] === hash && this.isSame(base, other * width)) return other;
    }
    const row = this.length++;
    if (row >= hashes.length) this.hashes = grown32(hashes);
    this.hashes[row] = hash;
    table[at] = row;
    if (this.length * 2 > table.length) this.rehash(table.length * 2);
    return row;
  }

  private isSame(a: number, b: number): boolean {
    const { cells, width } = this;
    for (let i = 0; i < width; i++) if (cells[a + i] !== cells[b + i]) return false;
    return true;
  }

  private rehash(size: number): void {
    this.table = new Int32Array(size).fill(-1);
    for (let row = 0; row < this.length; row++) {
      let at = placeOf(this.hashes[row]!) & (size - 1);
      while (this.table[at]! >= 0) at = (at + 1) & (size - 1);
      this.table[at] = row;
    }
  }

  private widen(): void {
    const { cells, width, length } = this;
    const wide = emptied(cells, Math.max(cells.length, (length + 1) * width) * 2);
    for (let row = 0; row < length; row++) wide.set(cells.subarray(row * width, (row + 1) * width), row * width * 2);
    this.cells = wide;
    this.width = width * 2;
  }
}

type Cells = Uint16Array | Uint32Array;

/** The greatest number that 16 bits hold. */
const MOST_NARROW = 0xffff;

const emptied = (cells: Cells, length: number): Cells => (cells instanceof Uint16Array ? new Uint16Array(length) : new Uint32Array(length));

const grown = (cells: Cells): Cells => {
  const more = emptied(cells, cells.length * 2);
  more.set(cells);
  return more;
};

const grown32 = (list: Int32Array): Int32Array<ArrayBuffer> => {
  const more = new Int32Array(list.length * 2);
  more.set(list);
  return more;
};

/** Where a hash begins to be looked for. */
const placeOf = (hash: number): number => {
  const spread = Math.imul(hash, 0x9e3779b1);
  return spread ^ (spread >>> 15);
};

/** Nothing for 0, so that columns nobody set do not count. */
function mixed(column: number, value: number): number {
  if (value === 0) return 0;
  let hash = Math.imul(column + 1, 0x85ebca6b) ^ Math.imul(value, 0xc2b2ae35);
  hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d);
  hash = Math.imul(hash ^ (hash >>> 12), 0x297a2d39);
  return hash ^ (hash >>> 15);
}
