/**
 * Texts that can be kept anywhere. JSON in a database takes neither NUL nor half of a surrogate pair, and both come about
 * easily: by cutting a name in the middle of an emoji, or by pasting from a program that counts in bytes.
 */

const UNFIT = /\0|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;
const EVERY_UNFIT = new RegExp(UNFIT.source, 'g');

/** What the language itself can say, where it can (ECMAScript 2024): many times as fast. */
const native = (String.prototype as { isWellFormed?: () => boolean }).isWellFormed;

/** Whether a text holds neither NUL nor half of a surrogate pair. */
export const isWellFormed = (text: string): boolean => (native ? native.call(text) && !text.includes('\0') : !UNFIT.test(text));

/** The signs that a name has at most, in UTF-16 units. */
export const MOST_NAME = 120;

/** The signs that a note on a frame has at most. */
export const MOST_NOTE = 5000;

/** The text without NUL, and with U+FFFD for each half of a pair. */
export const mendedText = (text: string): string =>
  isWellFormed(text) ? text : text.replace(EVERY_UNFIT, (sign) => (sign === '\0' ? '' : '\ufffd'));

let segmenter: Intl.Segmenter | null = null;

/** Made when the first text is cut: it takes some thirty milliseconds to make. */
const signs = (text: string) => (segmenter ??= new Intl.Segmenter('en', { granularity: 'grapheme' })).segment(text);

/**
 * A text of at most so many UTF-16 units (as schemas count), never cut inside of what is seen as one sign. One that is
 * cut ends in `…` when asked for.
 */
export function cutText(text: string, most: number, end = ''): string {
  if (text.length <= most) return text;
  let length = 0;
  // A sign is rarely longer than a few units; what lies far beyond the cut need not be looked at.
  for (const { segment, index } of signs(text.slice(0, most + 64))) {
    if (index + segment.length > most - end.length) break;
    length = index + segment.length;
  }
  return mendedText(text.slice(0, length || most - end.length)).trimEnd() + end;
}

/** A text of others as a name here; the usual one where nothing is left of it. There is room for a number behind it. */
export const nameFrom = (text: string, usual: string): string => cutText(mendedText(text).trim(), MOST_NAME - 10) || usual;

/** A JSON value with all its texts and keys mended; the same object where nothing was wrong. Walks without recursion. */
export function mended<T>(value: T): T {
  if (!anyText(value, (text) => !isWellFormed(text))) return value;
  return JSON.parse(JSON.stringify(value), (_key, inner: unknown) => mendedOne(inner)) as T;
}

function mendedOne(value: unknown): unknown {
  if (typeof value === 'string') return mendedText(value);
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  return Object.keys(value).every(isWellFormed) ? value : Object.fromEntries(Object.entries(value).map(([key, inner]) => [mendedText(key), inner]));
}

/** Whether a text or key anywhere in a JSON value is as asked. */
function anyText(root: unknown, is: (text: string) => boolean): boolean {
  const open = [root];
  while (open.length) {
    const value = open.pop();
    if (typeof value === 'string' && is(value)) return true;
    if (typeof value !== 'object' || value === null) continue;
    if (!Array.isArray(value) && Object.keys(value).some(is)) return true;
    for (const inner of Object.values(value)) open.push(inner);
  }
  return false;
}
