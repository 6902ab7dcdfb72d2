import { DEFAULT_FAMILY } from './faces.ts';
import type { Letters } from './schema.ts';

/** How letters are set that say nothing else: size in CSS px, weight as CSS has it, line height as a multiple of the size. */
export const USUAL_LETTERS = { family: DEFAULT_FAMILY, size: 16, weight: 400, leading: 1.3 } as const;

/** Where words stand in their box: in the middle of a shape, at the beginning of a text. */
export const placeOfLetters = (
  { align, place, leading = USUAL_LETTERS.leading }: Letters,
  inShape: boolean
): { align: 'left' | 'center' | 'right'; place: 'top' | 'middle' | 'bottom'; leading: number } => ({
  align: align ?? (inShape ? 'center' : 'left'),
  place: place ?? (inShape ? 'middle' : 'top'),
  leading,
});
