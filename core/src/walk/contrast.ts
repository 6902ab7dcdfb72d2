import { linear, type Rgb } from '../motion/color.ts';

/** Contrast of colours as WCAG 2.2 defines it. */

/** A colour laid over another one. */
export const over = (ground: Rgb, color: Rgb, alpha: number): Rgb =>
  [0, 1, 2].map((i) => ground[i]! + (color[i]! - ground[i]!) * alpha) as unknown as Rgb;

/** Relative luminance (WCAG 2.2, definitions). */
const luminance = (rgb: Rgb): number => {
  const [r, g, b] = rgb;
  return 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b);
};

/** From 1, for the same colour, to 21, for black on white. */
export function contrastOf(a: Rgb, b: Rgb): number {
  const [one, other] = [luminance(a), luminance(b)];
  return (Math.max(one, other) + 0.05) / (Math.min(one, other) + 0.05);
}
