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
    if (this.length === this.cells.length) {
      const more = new Int32Array(this.length * 2);
      more.set(this.cells);
      this.cells = more;
    }
    this.cells[this.length++] = value;
  }
}
