import { within, type Pixels } from './pixels';

/** Pixels along the longest side of a picture in which paper is looked for: what is drawn is lost in it, and shadows are not. */
const COARSE = 48;

/** What counts as paper, and as ink at its darkest, as shares of how bright paper is in that place. */
const PAPER = 0.93;
const INK = 0.3;

/**
 * Paper made white and ink dark: each colour by what paper is around it, so that shadows and warm lamps go, and then drawn apart.
 * `strength` from 0, as photographed, to 1.
 */
export function whitened(from: Pixels, strength: number): Pixels {
  if (strength <= 0) return from;
  const { width, height } = from;
  const paper = paperOf(from);
  const data = new Uint8ClampedArray(from.data);
  const colour = [0, 0, 0];
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += 4) {
      paper((x + 0.5) / width, (y + 0.5) / height, colour);
      for (let c = 0; c < 3; c++) {
        const share = (from.data[at + c]! / colour[c]! - INK) / (PAPER - INK);
        const clear = Math.max(0, Math.min(1, share)) * 255;
        data[at + c] = from.data[at + c]! + (clear - from.data[at + c]!) * strength;
      }
    }
  return { width, height, data };
}

/** How bright paper is at each place: the brightest near it, smoothed. Gives a function of a place from 0 to 1 both ways. */
function paperOf(from: Pixels): (u: number, v: number, colour: number[]) => void {
  const { width, height, data } = within(from, COARSE).pixels;
  let planes = [0, 1, 2].map((c) => Float32Array.from({ length: width * height }, (_, i) => data[i * 4 + c]!));
  planes = planes.map((plane) => spread(plane, width, height, 3, Math.max));
  for (let i = 0; i < 3; i++) planes = planes.map((plane) => smoothed(plane, width, height));
  return (u, v, colour) => {
    const [x, y] = [Math.max(0, Math.min(width - 1, u * width - 0.5)), Math.max(0, Math.min(height - 1, v * height - 0.5))];
    const [x0, y0] = [Math.floor(x), Math.floor(y)];
    const [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)];
    for (let c = 0; c < 3; c++) {
      const plane = planes[c]!;
      const above = plane[y0 * width + x0]! * (x0 + 1 - x) + plane[y0 * width + x1]! * (x - x0);
      const below = plane[y1 * width + x0]! * (x0 + 1 - x) + plane[y1 * width + x1]! * (x - x0);
      // Where all is dark there is no paper to go by.
      colour[c] = Math.max(40, above * (y0 + 1 - y) + below * (y - y0));
    }
  };
}

/** Each value and those so far from it, put into one; along rows and then along columns. */
function spread(
  plane: Float32Array<ArrayBuffer>,
  width: number,
  height: number,
  far: number,
  join: (a: number, b: number) => number
): Float32Array<ArrayBuffer> {
  const along = (from: Float32Array<ArrayBuffer>, step: number, length: number, begins: (i: number) => number) => {
    const out = new Float32Array(from.length);
    for (let line = 0; line < from.length / length; line++)
      for (let i = 0; i < length; i++) {
        let value = from[begins(line) + i * step]!;
        for (let j = Math.max(0, i - far); j <= Math.min(length - 1, i + far); j++) value = join(value, from[begins(line) + j * step]!);
        out[begins(line) + i * step] = value;
      }
    return out;
  };
  return along(
    along(plane, 1, width, (line) => line * width),
    width,
    height,
    (line) => line
  );
}

function smoothed(plane: Float32Array<ArrayBuffer>, width: number, height: number): Float32Array<ArrayBuffer> {
  return plane.map((_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    let [sum, all] = [0, 0];
    for (let j = Math.max(0, y - 1); j <= Math.min(height - 1, y + 1); j++)
      for (let k = Math.max(0, x - 1); k <= Math.min(width - 1, x + 1); k++, all++) sum += plane[j * width + k]!;
    return sum / all;
  });
}
