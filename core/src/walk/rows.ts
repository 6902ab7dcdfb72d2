/**
 * Rows of small numbers, each kept once: which of them are the same is found by a hash that a change of one number changes in one
 * step. Open addressing; widths and lengths double as they are needed.
 */
export class Rows {
  private cells = new Uint16Array(1 << 12);
  private width = 16;
  private hashes = new Uint32Array(1 << 8);
  private table = new Int32Array(1 << 10).fill(-1);
  length = 0;

  /** The number in a column of a row. */
  at(row: number, column: number): number {
    return column < this.width ? this.cells[row * this.width + column]! : 0;
  }

  hashOf(row: number): number {
    return this.hashes[row]!;
  }

  /** A row like another one (-1: all zero) with some numbers changed; the row itself, and whether it is new. */
  with(row: number, columns: readonly number[], values: readonly number[]): { readonly row: number; readonly isNew: boolean } {
    for (const column of columns) while (column >= this.width) this.widen();
    while ((this.length + 1) * this.width > this.cells.length) this.cells = grown(this.cells);
    if (this.length + 1 > this.hashes.length) this.hashes = grown32(this.hashes);
    const { width, cells, length } = this;
    const base = length * width;
    if (row < 0) cells.fill(0, base, base + width);
    else cells.copyWithin(base, row * width, (row + 1) * width);
    let hash = row < 0 ? 0 : this.hashes[row]!;
    for (let i = 0; i < columns.length; i++) {
      const at = base + columns[i]!;
      const [old, now] = [cells[at]!, values[i]!];
      if (old === now) continue;
      hash = (hash - mixed(columns[i]!, old) + mixed(columns[i]!, now)) >>> 0;
      cells[at] = now;
    }
    return this.kept(base, hash);
  }

  /** Keeps the row that stands behind the last one, unless it is there already. */
  private kept(base: number, hash: number): { row: number; isNew: boolean } {
    const mask = this.table.length - 1;
    let at = (Math.imul(hash, 0x9e3779b1) >>> 0) & mask;
    for (; this.table[at]! >= 0; at = (at + 1) & mask) {
      const other = this.table[at]!;
      if (this.hashes[other] === hash && this.isSame(base, other * this.width)) return { row: other, isNew: false };
    }
    const row = this.length++;
    this.hashes[row] = hash;
    this.table[at] = row;
    if (this.length * 2 > this.table.length) this.rehash(this.table.length * 2);
    return { row, isNew: true };
  }

  private isSame(a: number, b: number): boolean {
    const { cells, width } = this;
    for (let i = 0; i < width; i++) if (cells[a + i] !== cells[b + i]) return false;
    return true;
  }

  private rehash(size: number): void {
    this.table = new Int32Array(size).fill(-1);
    for (let row = 0; row < this.length; row++) {
      let at = (Math.imul(this.hashes[row]!, 0x9e3779b1) >>> 0) & (size - 1);
      while (this.table[at]! >= 0) at = (at + 1) & (size - 1);
      this.table[at] = row;
    }
  }

  private widen(): void {
    const { cells, width, length } = this;
    const wide = new Uint16Array(Math.max(cells.length, (length + 1) * width) * 2);
    for (let row = 0; row < length; row++) wide.set(cells.subarray(row * width, (row + 1) * width), row * width * 2);
    this.cells = wide;
    this.width = width * 2;
  }
}

const grown = (cells: Uint16Array): Uint16Array<ArrayBuffer> => {
  const more = new Uint16Array(cells.length * 2);
  more.set(cells);
  return more;
};

const grown32 = (list: Uint32Array): Uint32Array<ArrayBuffer> => {
  const more = new Uint32Array(list.length * 2);
  more.set(list);
  return more;
};

/** Nothing for 0, so that columns nobody set do not count. */
function mixed(column: number, value: number): number {
  if (value === 0) return 0;
  let hash = Math.imul(column + 1, 0x85ebca6b) ^ Math.imul(value, 0xc2b2ae35);
  hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d);
  hash = Math.imul(hash ^ (hash >>> 12), 0x297a2d39);
  return (hash ^ (hash >>> 15)) >>> 0;
}
