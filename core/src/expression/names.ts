import { REFERENCE } from './ast.ts';
import { functions } from './functions.ts';

/** Something an expression can name. Earlier ones win over later ones of the same name. */
export interface NamedThing {
  readonly id: string;
  readonly name: string;
  readonly kind: 'variable' | 'layer' | 'scene';
}

/** What expressions can name in one place of a piece. */
export interface ExpressionScope {
  readonly things: readonly NamedThing[];
  /** The name behind `‹=…›`: of a frame, or of a state or label of a scene (`scene/state`). */
  readonly nameOf: (id: string) => string | null;
  /** What a text next to `.state` or `.section` of a thing can mean: names with their references. */
  readonly valuesOf: (id: string, property: 'state' | 'section') => readonly { readonly reference: string; readonly name: string }[];
}

/** Words that FEEL keeps for itself. */
export const KEYWORDS: ReadonlySet<string> = new Set([
  'and',
  'or',
  'not',
  'if',
  'then',
  'else',
  'between',
  'in',
  'true',
  'false',
  'null',
  'for',
  'some',
  'every',
  'return',
  'satisfies',
  'instance',
  'of',
  'function',
  'external',
]);

const isPlain = (name: string): boolean =>
  /^[\p{L}_][\p{L}\p{N}_]*( [\p{L}\p{N}_]+)*$/u.test(name) && !name.split(' ').some((word) => KEYWORDS.has(word)) && !Object.hasOwn(functions, name);

/** A name as it stands in an expression: bare where it can be taken for nothing else, else in backticks. */
export const writeThing = (name: string): string => (isPlain(name) ? name : `\`${name.replaceAll('`', '``')}\``);

/** A stored expression as people read it, with where each stored place stands in it. */
export function displayExpression(stored: string, scope: ExpressionScope): { text: string; at: (stored: number) => number } {
  const segments: { stored: number; shown: number; length: number }[] = [];
  let text = '';
  let last = 0;
  const literal = literalRanges(stored);
  for (const match of stored.matchAll(REFERENCE)) {
    if (literal.some(([from, to]) => match.index >= from && match.index < to)) continue;
    text += stored.slice(last, match.index);
    const shown = match[1] === '=' ? JSON.stringify(scope.nameOf(match[2]!) ?? `?${match[2]}`) : shownName(match[2]!, scope);
    segments.push({ stored: match.index, shown: text.length, length: match[0].length });
    text += shown;
    last = match.index + match[0].length;
  }
  text += stored.slice(last);
  const at = (place: number) => {
    let shift = 0;
    for (const [i, segment] of segments.entries()) {
      if (place < segment.stored) break;
      const end = segment.stored + segment.length;
      const next = segments[i + 1];
      const shownEnd = next ? next.shown - (next.stored - end) : text.length - (stored.length - end);
      if (place < end) return segment.shown;
      shift = shownEnd - end;
    }
    return place + shift;
  };
  return { text, at };
}

/** Of two things with one name the second is written with its place among them: `Pay#2`. */
function shownName(id: string, scope: ExpressionScope): string {
  const thing = scope.things.find((candidate) => candidate.id === id);
  if (!thing) return `\`?${id}\``;
  const alike = scope.things.filter((candidate) => candidate.name === thing.name);
  const place = alike.indexOf(thing);
  return place > 0 ? writeThing(`${thing.name}#${place + 1}`) : writeThing(thing.name);
}

const literalRanges = (text: string): [number, number][] =>
  [...text.matchAll(/"(?:[^"\\]|\\.)*"?/g)].map((match) => [match.index, match.index + match[0].length]);
