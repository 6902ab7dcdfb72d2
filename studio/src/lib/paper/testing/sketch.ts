import { blank, straightened, type Pixels } from '../pixels';
import { quadOf, type Quad } from '../quad';

/** A table of 1200 × 1600 units, each half a pixel, with a sheet of paper on it, on which boxes are drawn by an unsteady hand; and a photograph of it. */

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export const TABLE = { width: 1200, height: 1600 } as const;
const [WIDTH, HEIGHT] = [TABLE.width / 2, TABLE.height / 2];

export interface Sketch {
  readonly paper: Box;
  readonly boxes: readonly Box[];
  /** Pixels that are left open at the first corner of each box. */
  readonly gap?: number;
  /** What is drawn in each box: lines from its left to its right at these shares of its height. */
  readonly lines?: readonly number[];
  /** Lines from box to box, by the numbers of both. */
  readonly arrows?: readonly (readonly [number, number])[];
  /** How much darker it is at the right bottom than at the left top. */
  readonly shade?: number;
  readonly seed?: number;
}

function* numbers(seed: number): Generator<number, never> {
  for (let state = seed >>> 0 || 1; ;) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    yield state / 2 ** 32;
  }
}

export function tableOf({ paper, boxes, gap = 0, lines = [], arrows = [], shade = 0.4, seed = 7 }: Sketch): Pixels {
  const random = numbers(seed);
  const out = blank(WIDTH, HEIGHT);
  const put = (x: number, y: number, colour: readonly [number, number, number]) => {
    if (x < 0 || y < 0 || x >= WIDTH || y >= HEIGHT) return;
    out.data.set(colour, (Math.floor(y) * WIDTH + Math.floor(x)) * 4);
  };
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const [u, v] = [x * 2 - paper.x, y * 2 - paper.y];
      const isPaper = u >= 0 && u < paper.width && v >= 0 && v < paper.height;
      const grain = (random.next().value - 0.5) * 14;
      put(x, y, isPaper ? [236 + grain, 228 + grain, 210 + grain] : [112 + grain, 84 + grain + Math.sin(y / 9) * 8, 58 + grain]);
      out.data[(y * WIDTH + x) * 4 + 3] = 255;
    }
  const stroke = (...ends: [number, number, number, number]) => {
    const [x1, y1, x2, y2] = ends.map((unit) => unit / 2) as typeof ends;
    const length = Math.hypot(x2 - x1, y2 - y1);
    for (let t = 0; t < length; t += 0.5) {
      const sway = Math.sin(t / 30) * 1.25;
      const [x, y] = [x1 + ((x2 - x1) * t) / length, y1 + ((y2 - y1) * t) / length];
      const across = Math.abs(x2 - x1) > Math.abs(y2 - y1) ? ([0, sway] as const) : ([sway, 0] as const);
      for (let dy = -1; dy <= 1; dy++) for (let dx = -1; dx <= 1; dx++) put(x + across[0] + dx, y + across[1] + dy, [52, 50, 70]);
    }
  };
  for (const { x, y, width, height } of boxes) {
    stroke(x + gap, y, x + width, y);
    stroke(x + width, y, x + width, y + height);
    stroke(x + width, y + height, x, y + height);
    stroke(x, y + height, x, y);
    for (const at of lines) stroke(x, y + height * at, x + width, y + height * at);
  }
  for (const [from, to] of arrows) {
    const [a, b] = [boxes[from]!, boxes[to]!];
    const middle = ({ x, y, width, height }: Box) => [x + width / 2, y + height / 2] as const;
    const [[x1, y1], [x2, y2]] = [middle(a), middle(b)];
    // From edge to edge, in the direction in which they lie.
    if (Math.abs(x2 - x1) > Math.abs(y2 - y1)) stroke(a.x + a.width, y1, b.x, y2);
    else stroke(x1, a.y + a.height, x2, b.y);
  }
  for (let y = 0, at = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, at += 4) for (let c = 0; c < 3; c++) out.data[at + c]! *= 1 - (shade * (x / WIDTH + y / HEIGHT)) / 2;
  return out;
}

/** A photograph that has these corners of the table in its own corners. */
export const photographed = (table: Pixels, corners: Quad, width: number, height: number): Pixels =>
  straightened(
    table,
    quadOf((i) => ({ x: corners[i].x / 2, y: corners[i].y / 2 })),
    width,
    height
  );
