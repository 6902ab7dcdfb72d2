import { Beside } from '../once.ts';
import type { Head, Letters, Style } from './schema.ts';

/**
 * What layers are painted and set with: plain values, or a reference to a swatch or a type style of the piece, which all that refer to
 * it follow. References are by id, so that renaming breaks nothing; one that leads nowhere is seen as grey, and set as if it said nothing.
 */

export type Swatches = NonNullable<Head['swatches']>;
export type TypeStyles = NonNullable<Head['typeStyles']>;

const MARK = 'swatch:';

/** What is stored where a swatch is used. */
export const paintOf = (swatch: string): string => MARK + swatch;

/** The swatch that a paint refers to; null for a plain colour. */
export const swatchIn = (paint: string | undefined): string | null => (paint?.startsWith(MARK) ? paint.slice(MARK.length) : null);

/** The colour of a swatch that is not there any more. */
export const LOST_COLOR = '#8c8c8c';

/** The colour that a paint is seen in. */
export function colorOf(head: Head, paint: string): string;
export function colorOf(head: Head, paint: string | undefined): string | undefined;
export function colorOf(head: Head, paint: string | undefined): string | undefined {
  const swatch = swatchIn(paint);
  return swatch === null ? paint : (head.swatches?.[swatch]?.color ?? LOST_COLOR);
}

const known = new Beside<Style, { swatches: Swatches | undefined; painted: Style }>();

/** A style with the colours of its swatches. The same style comes back where it refers to none. */
export function paintedStyle(head: Head, style: Style): Style {
  const { fill, ink, line, shadow } = style;
  if (!fill?.startsWith(MARK) && !ink?.startsWith(MARK) && !line?.color.startsWith(MARK) && !shadow?.color.startsWith(MARK)) return style;
  const old = known.get(style);
  if (old && old.swatches === head.swatches) return old.painted;
  const painted: Style = {
    ...style,
    ...(fill && { fill: colorOf(head, fill) }),
    ...(ink && { ink: colorOf(head, ink) }),
    ...(line && { line: { ...line, color: colorOf(head, line.color) } }),
    ...(shadow && { shadow: { ...shadow, color: colorOf(head, shadow.color) } }),
  };
  known.set(style, { swatches: head.swatches, painted });
  return painted;
}

/** How words are set: as their type style says, but for what they say themselves. */
export function setLetters(head: Head, letters: Letters): Letters {
  const style = letters.style === undefined ? undefined : head.typeStyles?.[letters.style]?.letters;
  return style ? { ...style, ...letters } : letters;
}

/** What differs in letters from the type style that they refer to: the names of the fields. */
export function differsFromStyle(head: Head, letters: Letters): (keyof Letters)[] {
  const style = letters.style === undefined ? undefined : head.typeStyles?.[letters.style]?.letters;
  if (!style) return [];
  return (Object.keys(letters) as (keyof Letters)[]).filter((key) => key !== 'style' && letters[key] !== style[key as keyof typeof style]);
}
