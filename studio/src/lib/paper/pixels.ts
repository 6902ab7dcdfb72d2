import { boxQuad, onto, type Point, type Quad } from './quad';

/** A picture as rows of red, green, blue and alpha, a byte each, as `ImageData` has it. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray<ArrayBuffer>;
}

/** Colours of a picture, whatever they are kept in; four numbers for each pixel. */
interface Colours {
  readonly width: number;
  readonly height: number;
  readonly data: ArrayLike<number>;
}

export const blank = (width: number, height: number): Pixels => ({ width, height, data: new Uint8ClampedArray(width * height * 4) });

/** Samples along one side of a pixel at most, where many of a photograph come together in one. */
const FINEST = 4;

/** What is in four corners, straightened into a rectangle of so many pixels; a pixel is the mean of what it covers. */
export function straightened(from: Pixels, quad: Quad, width: number, height: number): Pixels {
  const out = blank(width, height);
  const map = onto(quad, width, height);
  const covers = Math.hypot(quad[1].x - quad[0].x, quad[1].y - quad[0].y) / width;
  const n = Math.max(1, Math.min(FINEST, Math.round(covers)));
  const sum = [0, 0, 0];
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += 4) {
      sum.fill(0);
      for (let j = 0; j < n; j++) for (let i = 0; i < n; i++) addColour(from, map({ x: x + (i + 0.5) / n, y: y + (j + 0.5) / n }), sum);
      for (let c = 0; c < 3; c++) out.data[at + c] = sum[c]! / (n * n);
      out.data[at + 3] = 255;
    }
  return out;
}

/** Adds the colour at a point, between the pixels around it; beyond the edge the edge goes on. */
export function addColour({ width, height, data }: Colours, { x, y }: Point, sum: number[]): void {
  const [px, py] = [Math.max(0, Math.min(width - 1, x - 0.5)), Math.max(0, Math.min(height - 1, y - 0.5))];
  const [x0, y0] = [Math.floor(px), Math.floor(py)];
  const [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)];
  const [fx, fy] = [px - x0, py - y0];
  const [a, b, c, d] = [(y0 * width + x0) * 4, (y0 * width + x1) * 4, (y1 * width + x0) * 4, (y1 * width + x1) * 4];
  for (let i = 0; i < 3; i++) {
    const above = data[a + i]! * (1 - fx) + data[b + i]! * fx;
    const below = data[c + i]! * (1 - fx) + data[d + i]! * fx;
    sum[i]! += above * (1 - fy) + below * fy;
  }
}

/** A picture with a longest side of so many pixels at most, and by how much it was made smaller. */
export function within(from: Pixels, longest: number): { readonly pixels: Pixels; readonly scale: number } {
  const scale = Math.min(1, longest / Math.max(from.width, from.height));
  if (scale === 1) return { pixels: from, scale };
  const [width, height] = [Math.max(1, Math.round(from.width * scale)), Math.max(1, Math.round(from.height * scale))];
  return { pixels: straightened(from, boxQuad(0, 0, from.width, from.height), width, height), scale };
}
