/** Which labels stand on the map where not all have room: the weightier first, and none over another. CSS pixels of the screen. */

export interface Label {
  readonly key: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** The weightiest first. */
  readonly weight: number;
}

/** Cells that a label covers are looked up instead of all labels. */
const CELL = 64;

export function withRoom(labels: readonly Label[]): ReadonlySet<string> {
  const cells = new Map<string, Label[]>();
  const kept = new Set<string>();
  for (const label of labels.toSorted((a, b) => b.weight - a.weight)) {
    const keys = cellsOf(label);
    if (keys.some((key) => cells.get(key)?.some((other) => overlap(label, other)))) continue;
    kept.add(label.key);
    for (const key of keys) {
      const list = cells.get(key);
      if (list) list.push(label);
      else cells.set(key, [label]);
    }
  }
  return kept;
}

function cellsOf({ x, y, width, height }: Label): string[] {
  const keys: string[] = [];
  for (let column = Math.floor(x / CELL); column <= Math.floor((x + width) / CELL); column++)
    for (let row = Math.floor(y / CELL); row <= Math.floor((y + height) / CELL); row++) keys.push(`${column} ${row}`);
  return keys;
}

const overlap = (a: Label, b: Label): boolean => a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
