import { fault, type Fault } from '../result.ts';
import { isWellFormed } from '../text.ts';

/** How large and how deep a JSON value may be before anything looks closer at it. */
export interface ShapeLimits {
  /** Objects and lists inside each other. */
  readonly depth: number;
  /** Values of every kind, counted together. */
  readonly values: number;
  /** UTF-16 units of one text; any length if not given. */
  readonly text?: number;
}

/** A whole document: twice what the largest piece within its limits needs. */
export const DOCUMENT_LIMITS: ShapeLimits = { depth: 24, values: 6_000_000 };

/** One edit. */
export const EDIT_LIMITS: ShapeLimits = { depth: 20, values: 2_000_000, text: 50_000 };

/**
 * What is wrong with a JSON value whatever it is meant to be: nested too deeply, too many values, and (unless texts are
 * mended anyway) a text or key that cannot be kept. Walks without recursion and stops at the first thing.
 */
export function shapeFault(
  root: unknown,
  limits: ShapeLimits,
  path: readonly (string | number)[] = [],
  texts: 'check' | 'pass' = 'check'
): Fault | null {
  const isUnfit = (text: string) => texts === 'check' && !isWellFormed(text);
  const trail: { readonly keys: readonly string[]; readonly value: Record<string, unknown>; at: number }[] = [];
  const where = () => [...path, ...trail.map(({ keys, at }) => keys[at - 1]!)];
  let count = 0;
  let value = root;
  for (;;) {
    if (++count > limits.values) return fault('too-large', where(), `This holds more than ${limits.values} values.`);
    if (typeof value === 'string' && isUnfit(value)) return badText(where());
    if (typeof value === 'string' && value.length > (limits.text ?? Infinity))
      return fault('too-large', where(), `This text has ${value.length} signs; at most ${limits.text} can be kept.`);
    if (typeof value === 'object' && value !== null) {
      if (trail.length >= limits.depth) return fault('too-deep', where().slice(0, 12), `This is nested more than ${limits.depth} deep.`);
      trail.push({ keys: Object.keys(value), value: value as Record<string, unknown>, at: 0 });
    }
    while (trail.length && trail.at(-1)!.at >= trail.at(-1)!.keys.length) trail.pop();
    const level = trail.at(-1);
    if (!level) return null;
    const key = level.keys[level.at++]!;
    if (isUnfit(key)) return badText(where().slice(0, -1));
    value = level.value[key];
  }
}

const badText = (path: readonly (string | number)[]): Fault =>
  fault('wrong-text', path, 'This text holds a sign that cannot be kept: NUL, or half of an emoji.');

/**
 * The same limits on JSON that is still text, so that a small file that stands for a large document is refused before
 * anything builds it. Takes UTF-8 bytes; whether it is JSON is for the parser to say.
 */
export function jsonTextFault(bytes: Uint8Array, limits: ShapeLimits): Fault | null {
  let depth = 0;
  let count = 1;
  let before: number | undefined;
  for (let i = 0; i < bytes.length; i++) {
    const sign = bytes[i]!;
    if (sign <= SPACE) continue;
    if (sign === QUOTE) {
      for (i++; i < bytes.length && bytes[i] !== QUOTE; i++) if (bytes[i] === BACKSLASH) i++;
    } else if (sign === COMMA) count++;
    else if (sign === OPEN_OBJECT || sign === OPEN_LIST) {
      count++;
      if (++depth > limits.depth) return fault('too-deep', [], `This is nested more than ${limits.depth} deep.`);
    } else if (sign === CLOSE_OBJECT || sign === CLOSE_LIST) {
      depth--;
      // Nothing was in it, so no first value either.
      if (before === OPEN_OBJECT || before === OPEN_LIST) count--;
    }
    before = sign;
    if (count > limits.values) return fault('too-large', [], `This holds more than ${limits.values} values.`);
  }
  return null;
}

const [SPACE, QUOTE, BACKSLASH, COMMA] = [0x20, 0x22, 0x5c, 0x2c];
const [OPEN_OBJECT, CLOSE_OBJECT, OPEN_LIST, CLOSE_LIST] = [0x7b, 0x7d, 0x5b, 0x5d];
