import { addColour, within, type Pixels } from './pixels';
import { mean } from './quad';

/** Pixels along the longest side of a picture in which paper is looked for: what is drawn is lost in it, and shadows are not. */
const COARSE = 48;

/** What counts as paper, and as ink at its darkest, as shares of how bright paper is in that place. */
const PAPER = 0.93;
const INK = 0.3;

/** Where all is darker there is no paper to go by. */
const DARKEST = 40;

/**
 * Paper made white and ink dark: each colour by what paper is around it, so that shadows and warm lamps go, and then drawn apart.
 * `strength` from 0, as photographed, to 1.
 */
export function whitened(from: Pixels, strength: number): Pixels {
  if (strength <= 0) return from;
  const { width, height } = from;
  const paper = paperOf(from);
  const data = new Uint8ClampedArray(from.data);
  const light = [0, 0, 0];
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += 4) {
      light.fill(0);
      addColour(paper, { x: ((x + 0.5) / width) * paper.width, y: ((y + 0.5) / height) * paper.height }, light);
      for (let c = 0; c < 3; c++) {
        const share = (from.data[at + c]! / Math.max(DARKEST, light[c]!) - INK) / (PAPER - INK);
        const clear = Math.max(0, Math.min(1, share)) * 255;
        data[at + c] = from.data[at + c]! + (clear - from.data[at + c]!) * strength;
      }
    }
  return { width, height, data };
}

interface Light {
  readonly width: number;
  readonly height: number;
  /** Four numbers for each pixel, as in a picture. */
  readonly data: Float32Array;
}

/** How bright paper is at each place: the brightest near it, smoothed. */
function paperOf(from: Pixels): Light {
  const { width, height, data } = within(from, COARSE).pixels;
  let light = around({ width, height, data: Float32Array.from(data) }, 3, (near) => Math.max(...near));
  for (let i = 0; i < 3; i++) light = around(light, 1, mean);
  return light;
}

/** Each colour made one with those so many pixels around it. */
function around({ width, height, data }: Light, far: number, one: (near: readonly number[]) => number): Light {
  const made = data.map((_, i) => {
    const [x, y, c] = [(i >> 2) % width, Math.floor((i >> 2) / width), i & 3];
    const near: number[] = [];
    for (let j = Math.max(0, y - far); j <= Math.min(height - 1, y + far); j++)
      for (let k = Math.max(0, x - far); k <= Math.min(width - 1, x + far); k++) near.push(data[(j * width + k) * 4 + c]!);
    return one(near);
  });
  return { width, height, data: made };
}
