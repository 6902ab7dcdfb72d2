import { color } from 'd3-color';

/** As colours are stored, with the sign or without it. */
const STORED = /^#?([0-9a-f]{6})([0-9a-f]{2})?$/i;

const stored = (rgb: string, alpha: string): string => `#${rgb}${alpha === 'ff' ? '' : alpha}`.toLowerCase();

/** A colour as people write it: hex with or without its sign, short or long, a name, rgb() or hsl(), with alpha or not; null for anything else. */
export function colorIn(written: string): string | null {
  const text = written.trim();
  const [, rgb, alpha = 'ff'] = STORED.exec(text) ?? [];
  if (rgb !== undefined) return stored(rgb, alpha.toLowerCase());
  if (text.toLowerCase() === 'transparent') return '#00000000';
  const found = color(text) ?? color(`#${text}`);
  if (!found?.displayable()) return null;
  const hex = found.formatHex8();
  return stored(hex.slice(1, 7), hex.slice(7));
}

/** How much of a stored colour is seen, from 0 to 1. */
export const alphaOf = (color: string): number => Math.round((parseInt(color.slice(7) || 'ff', 16) / 255) * 100) / 100;

/** The same colour seen by so much, from 0 to 1. */
export const withAlpha = (color: string, alpha: number): string =>
  stored(
    color.slice(1, 7),
    Math.round(alpha * 255)
      .toString(16)
      .padStart(2, '0')
  );
