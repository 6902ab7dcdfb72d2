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
  const parts: TextPart[] = [];
  let literal = '';
  let literalFrom = 0;
  for (let i = 0; i < source.length; i++) {
    const sign = source[i]!;
    if (sign === '\\' && (source[i + 1] === '{' || source[i + 1] === '\\')) literal += source[++i]!;
    else if (sign === '{' && closing(source, i) > 0) {
      const end = closing(source, i);
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

/** The brace that ends an expression, text literals in it passed over; -1 where there is none. */
function closing(source: string, open: number): number {
  let quoted = false;
  for (let i = open + 1; i < source.length; i++) {
    if (quoted && source[i] === '\\') i++;
    else if (source[i] === '"') quoted = !quoted;
    else if (!quoted && source[i] === '}') return i;
  }
  return -1;
}
