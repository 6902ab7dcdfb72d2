/** A list of whole numbers that grows, in one piece of memory. */
export class Ints {
  private cells = new Int32Array(1 << 8);
  length = 0;

  at(i: number): number {
    return this.cells[i]!;
  }

  put(i: number, value: number): void {
    this.cells[i] = value;
  }

  push(value: number): void {
    if (this.length === this.cells.length) this.grow();
    this.cells[this.length++] = value;
  }

  push2(a: number, b: number): void {
    if (this.length + 2 > this.cells.length) this.grow();
    this.cells[this.length] = a;
    this.cells[this.length + 1] = b;
    this.length += 2;
  }

  some(isSo: (value: number) => boolean): boolean {
    for (let i = 0; i < this.length; i++) if (isSo(this.cells[i]!)) return true;
    return false;
  }

  private grow(): void {
    this.cells = longer(this.cells);
  }
}

/** A list of whole numbers that are 0 but for few of the first: as many of it as are not 0 to its end take no room. */
export class MostlyZero extends Ints {
  private all = 0;

  override at(i: number): number {
    return i < this.length ? super.at(i) : 0;
  }

  override push(value: number): void {
    this.all++;
    if (value === 0) return;
    while (this.length < this.all - 1) super.push(0);
    super.push(value);
  }
}

/** The same numbers with room for twice as many, or for so many at least. */
export function longer(cells: Int32Array, least = 0): Int32Array<ArrayBuffer> {
  const more = new Int32Array(Math.max(least, cells.length * 2));
  more.set(cells);
  return more;
}
