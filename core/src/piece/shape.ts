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
 * mended anyway) a text that cannot be kept. Keys are left to the schemas, which name each of them. Goes no deeper than the limit, and stops at the first thing.
 */
export function shapeFault(
  root: unknown,
  limits: ShapeLimits,
  path: readonly (string | number)[] = [],
  texts: 'check' | 'pass' = 'check'
): Fault | null {
  const found = new ShapeCheck(limits, texts === 'check').find(root, 0);
  return found && fault(found.code, [...path, ...found.where.reverse()].slice(0, 12), found.sentence);
}

interface Found {
  readonly code: string;
  readonly sentence: string;
  /** Keys from the inside out. */
  readonly where: string[];
}

class ShapeCheck {
  private count = 0;

  constructor(
    private readonly limits: ShapeLimits,
    private readonly checksTexts: boolean
  ) {}

  find(value: unknown, depth: number): Found | null {
    const { limits } = this;
    if (++this.count > limits.values) return this.tooMany();
    if (typeof value === 'string') return this.findInText(value);
    if (typeof value !== 'object' || value === null) return null;
    if (depth >= limits.depth) return { code: 'too-deep', sentence: `This is nested more than ${limits.depth} deep.`, where: [] };
    if (Array.isArray(value)) {
      for (let i = 0; i < value.length; i++) {
        const found = this.find(value[i], depth + 1);
        if (found) return at(found, String(i));
      }
      return null;
    }
    for (const key of Object.keys(value)) {
      const inner = (value as Record<string, unknown>)[key];
      const kind = typeof inner;
      // Most are numbers, and nothing can be wrong with those but that there are too many.
      if (kind === 'number' || kind === 'boolean') {
        this.count++;
        continue;
      }
      const found = this.find(inner, depth + 1);
      if (found) return at(found, key);
    }
    return this.count > limits.values ? this.tooMany() : null;
  }

  private tooMany = (): Found => ({ code: 'too-large', sentence: `This holds more than ${this.limits.values} values.`, where: [] });

  private findInText(text: string): Found | null {
    const { limits } = this;
    if (this.checksTexts && !isWellFormed(text)) return BAD_TEXT();
    return text.length > (limits.text ?? Infinity)
      ? { code: 'too-large', sentence: `This text has ${text.length} signs; at most ${limits.text} can be kept.`, where: [] }
      : null;
  }
}

const at = (found: Found, key: string): Found => {
  found.where.push(key);
  return found;
};

const BAD_TEXT = (): Found => ({ code: 'wrong-text', sentence: 'This text holds a sign that cannot be kept: NUL, or half of an emoji.', where: [] });

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
    const closes = sign === CLOSE_OBJECT || sign === CLOSE_LIST;
    // The first value of an object or a list, which may be empty; the others have a comma before them.
    if ((before === OPEN_OBJECT || before === OPEN_LIST) && !closes) count++;
    if (sign === QUOTE) {
      for (i++; i < bytes.length && bytes[i] !== QUOTE; i++) if (bytes[i] === BACKSLASH) i++;
    } else if (sign === COMMA) count++;
    else if (sign === OPEN_OBJECT || sign === OPEN_LIST) {
      if (++depth > limits.depth) return fault('too-deep', [], `This is nested more than ${limits.depth} deep.`);
    } else if (closes) depth--;
    before = sign;
    if (count > limits.values) return fault('too-large', [], `This holds more than ${limits.values} values.`);
  }
  return null;
}

const [SPACE, QUOTE, BACKSLASH, COMMA] = [0x20, 0x22, 0x5c, 0x2c];
const [OPEN_OBJECT, CLOSE_OBJECT, OPEN_LIST, CLOSE_LIST] = [0x7b, 0x7d, 0x5b, 0x5d];
