/** Contrast of colours as WCAG 2.2 defines it. */

/** Red, green and blue, 0 to 1, in sRGB. */
export type Rgb = readonly [number, number, number];

/** `#rrggbb` or `#rrggbbaa`, with how opaque it is. */
export function rgbOf(color: string): { readonly rgb: Rgb; readonly alpha: number } {
  const at = (from: number) => parseInt(color.slice(from, from + 2), 16) / 255;
  return { rgb: [at(1), at(3), at(5)], alpha: color.length > 7 ? at(7) : 1 };
}

/** A colour laid over another one. */
export const over = (ground: Rgb, color: Rgb, alpha: number): Rgb =>
  [0, 1, 2].map((i) => ground[i]! + (color[i]! - ground[i]!) * alpha) as unknown as Rgb;

/** Relative luminance (WCAG 2.2, definitions). */
const luminance = (rgb: Rgb): number => {
  const [r, g, b] = rgb.map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};

/** From 1, for the same colour, to 21, for black on white. */
export function contrastOf(a: Rgb, b: Rgb): number {
  const [one, other] = [luminance(a), luminance(b)];
  return (Math.max(one, other) + 0.05) / (Math.min(one, other) + 0.05);
}
