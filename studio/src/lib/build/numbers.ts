import { sumIn } from '@zany/core';

/** Numbers of several things that are changed together. */

interface Bounds {
  readonly min?: number | undefined;
  readonly max?: number | undefined;
}

export const within = (value: number, { min = -Infinity, max = Infinity }: Bounds): number => Math.max(min, Math.min(max, value));

/** Each number as something written makes of it, within bounds; null where that is no number. */
export function summed(values: readonly number[], written: string, bounds: Bounds = {}): readonly number[] | null {
  const made = values.map((value) => sumIn(written, value));
  return made.every((value) => value !== null) ? made.map((value) => within(value, bounds)) : null;
}

/** What is said of something written in place of a number. */
export const noNumber = (written: string): string => `“${written}” is no number and no sum, such as +8, /2 or 100-16. It stays as it was.`;

/** Each number larger by so much, within bounds. */
export const steppedBy = (values: readonly number[], by: number, bounds: Bounds = {}): readonly number[] =>
  values.map((value) => within(Math.round((value + by) * 100) / 100, bounds));
