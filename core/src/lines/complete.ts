import { parseLine } from './line.ts';
import { LineError, LineReader } from './reader.ts';
import type { LineScope } from './scope.ts';
import { offersOfBindings, offersOfExpression, offersOfState, readForOffers } from './offers.ts';

export interface Completion {
  /** Where in the line the text to be replaced begins. */
  readonly from: number;
  readonly word: string;
  /** The whole line with the word in place. */
  readonly line: string;
}

/** What could be written at the end of a line, best first: what the grammar takes there and what is typed so far fits. */
export function completions(text: string, scope: LineScope, most = 8): Completion[] {
  const reader = new LineReader(text);
  readForOffers(reader, scope);
  if (scope.owner !== null) offersOfBindings(reader, scope);
  else if (scope.itself.length) offersOfState(reader, scope);
  return gathered(reader, text, most);
}

/** The same for an expression by itself. */
export function expressionCompletions(text: string, scope: LineScope, most = 8): Completion[] {
  const reader = new LineReader(text);
  offersOfExpression(reader, scope);
  return gathered(reader, text, most);
}

function gathered(reader: LineReader, text: string, most: number): Completion[] {
  const found = new Map<string, { score: number; completion: Completion }>();
  for (const { at, words, likely } of reader.offers)
    for (const word of words) {
      const fits = fit(text.slice(at).trim(), word);
      if (fits === null) continue;
      const score = likely ? fits - 3 : fits;
      if ((found.get(word)?.score ?? Infinity) <= score) continue;
      found.set(word, {
        score,
        completion: { from: at, word, line: text.slice(0, at) + (needsSpace(text, at, word) ? ' ' : '') + word },
      });
    }
  return [...found.values()]
    .sort((a, b) => a.score - b.score)
    .slice(0, most)
    .map(({ completion }) => completion);
}

/** 0 for a beginning, 1 for the beginning of a later word, 2 for anywhere; null where it does not fit or is all there. */
function fit(typed: string, word: string): number | null {
  const [a, b] = [typed.toLowerCase(), word.toLowerCase()];
  if (a === b) return null;
  if (b.startsWith(a)) return 0;
  if (b.includes(` ${a}`)) return 1;
  return a.length > 1 && b.includes(a) ? 2 : null;
}

const needsSpace = (text: string, at: number, word: string) => at > 0 && !/[\s([]$/.test(text.slice(0, at)) && !word.startsWith('.');

export { LineError, parseLine };
