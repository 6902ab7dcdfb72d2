/** Texts with `{…}` in them: literal pieces and stored expressions in turn. `\{` and `\\` stand for the sign itself. */
export interface TextPart {
  readonly text?: string;
  readonly expression?: string;
  /** Where the part begins in the text. */
  readonly from: number;
}

const known = new Map<string, readonly TextPart[]>();

/** The parts of a text; a brace that is never closed stands for itself. */
export function textParts(source: string): readonly TextPart[] {
  const old = known.get(source);
  if (old) return old;
  const parts = split(source);
  if (known.size > 5000) known.clear();
  known.set(source, parts);
  return parts;
}

export const hasExpressions = (source: string): boolean => source.includes('{') && textParts(source).some((part) => part.expression !== undefined);

/** A literal text, written so that it means just itself. */
export const escapeText = (text: string): string => text.replace(/[\\{]/g, '\\$&');

function split(source: string): TextPart[] {
  const closing = closings(source);
  const parts: TextPart[] = [];
  let literal = '';
  let literalFrom = 0;
  for (let i = 0; i < source.length; i++) {
    const sign = source[i]!;
    const end = sign === '{' ? closing(i) : -1;
    if (sign === '\\' && (source[i + 1] === '{' || source[i + 1] === '\\')) literal += source[++i]!;
    else if (end > 0) {
      if (literal) parts.push({ text: literal, from: literalFrom });
      parts.push({ expression: source.slice(i + 1, end), from: i + 1 });
      literal = '';
      i = end;
      literalFrom = end + 1;
    } else literal += sign;
  }
  if (literal) parts.push({ text: literal, from: literalFrom });
  return parts;
}

const NEVER = -1;

/**
 * Tells for an opening brace where its expression ends, text literals in it passed over; -1 where it does not. Worked out for
 * all places at once from the end, outside and inside of a literal, so that many open braces cost no more than one.
 */
function closings(source: string): (open: number) => number {
  if (!source.includes('}')) return () => NEVER;
  const outside = new Int32Array(source.length + 2).fill(NEVER);
  const quoted = new Int32Array(source.length + 2).fill(NEVER);
  for (let i = source.length - 1; i >= 0; i--) {
    const sign = source[i];
    outside[i] = sign === '}' ? i : sign === '"' ? quoted[i + 1]! : outside[i + 1]!;
    quoted[i] = sign === '\\' ? quoted[i + 2]! : sign === '"' ? outside[i + 1]! : quoted[i + 1]!;
  }
  return (open) => outside[open + 1]!;
}
