/**
 * Colours between two colours, in OKLab. Source: B. Ottosson, “A perceptual color space for image processing”, 2020, and CSS
 * Color 4, 12.3: premultiplied by opacity, so that what is see-through has no colour of its own.
 */

export interface Lab {
  readonly L: number;
  readonly a: number;
  readonly b: number;
  readonly alpha: number;
}

const known = new Map<string, Lab>();

/** `#rrggbb` or `#rrggbbaa` in OKLab. */
export function labOf(color: string): Lab {
  const old = known.get(color);
  if (old) return old;
  const { rgb, alpha } = rgbOf(color);
  const made = toLab(...rgb, alpha);
  if (known.size > 2000) known.clear();
  known.set(color, made);
  return made;
}

/** Red, green and blue, 0 to 1, in sRGB. */
export type Rgb = readonly [number, number, number];

/** `#rrggbb` or `#rrggbbaa`, with how opaque it is. */
export function rgbOf(color: string): { readonly rgb: Rgb; readonly alpha: number } {
  const channel = (at: number) => parseInt(color.slice(at, at + 2), 16) / 255;
  return { rgb: [channel(1), channel(3), channel(5)], alpha: color.length > 7 ? channel(7) : 1 };
}

/** A channel of sRGB as light. */
export const linear = (c: number) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);
const gamma = (c: number) => (c <= 0.0031308 ? c * 12.92 : 1.055 * c ** (1 / 2.4) - 0.055);

function toLab(red: number, green: number, blue: number, alpha: number): Lab {
  const [r, g, b] = [linear(red), linear(green), linear(blue)];
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return {
    L: 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    a: 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    b: 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
    alpha,
  };
}

/** A channel, 0 to 1, as two hexadecimal digits. */
export const pair = (value: number): string =>
  Math.round(Math.min(1, Math.max(0, value)) * 255)
    .toString(16)
    .padStart(2, '0');

/** Red, green and blue from 0 to 1 as `#rrggbb`, with how opaque it is behind it where that is not wholly. */
export const hexOfRgb = (rgb: readonly number[], alpha = 1): string => `#${rgb.map(pair).join('')}${pair(alpha) === 'ff' ? '' : pair(alpha)}`;

/** The nearest `#rrggbb`, with its opacity behind it where it is not whole. */
export function hexOf({ L, a, b, alpha }: Lab): string {
  const l = (L + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (L - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (L - 0.0894841775 * a - 1.291485548 * b) ** 3;
  const red = 4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s;
  const green = -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s;
  const blue = -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s;
  const body = `#${pair(gamma(Math.max(0, red)))}${pair(gamma(Math.max(0, green)))}${pair(gamma(Math.max(0, blue)))}`;
  return alpha >= 1 ? body : body + pair(alpha);
}

/** The colour a share `t` of the way from one to another; exactly the ends at 0 and 1. */
export function mixColors(from: string, to: string, t: number): string {
  if (t === 0 || from === to) return from;
  if (t === 1) return to;
  const [a, b] = [labOf(from), labOf(to)];
  const alpha = Math.min(1, Math.max(0, a.alpha + (b.alpha - a.alpha) * t));
  if (alpha === 0) return hexOf({ ...b, alpha: 0 });
  const mix = (x: number, y: number) => (x * a.alpha + (y * b.alpha - x * a.alpha) * t) / (a.alpha + (b.alpha - a.alpha) * t);
  return hexOf({ L: mix(a.L, b.L), a: mix(a.a, b.a), b: mix(a.b, b.b), alpha });
}

/** A colour that cannot be seen, to fade from or to. */
export const clear = (color: string): string => `${color.slice(0, 7)}00`;
