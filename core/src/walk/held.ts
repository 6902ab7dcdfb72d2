import { partsOf, type Ast } from '../expression/ast.ts';
import { difference, isComparison, isGiven, linearOf, type Linear } from './linear.ts';

/**
 * What an expression asks of numbers: how sums of them stand to 0, and what is left of one when it is divided. As long as neither comes
 * out otherwise, neither does the expression.
 */
export type Held =
  | { readonly kind: 'sum'; readonly sum: Linear }
  /** What is asked of a thing comes out the same for values that lie a whole number of periods apart. */
  | { readonly kind: 'rest'; readonly path: string; readonly period: number };

/** All that is asked of numbers in an expression; those of which something else is asked besides are told to `lose`. */
export function heldIn(ast: Ast, isNumber: (id: string) => boolean, lose: (id: string) => void): Held[] {
  const found: Held[] = [];
  const visit = (at: Ast): void => {
    if (at.k === 'ref') return void (isCounted(at) && lose(at.id));
    const pairs = pairsOf(at);
    if (!pairs) return partsOf(at).forEach(visit);
    for (const [a, b] of pairs) {
      const held = heldBy(a, b);
      if (held) found.push(...held);
      else [a, b].forEach(visit);
    }
  };
  const isCounted = (at: Ast): boolean => at.k === 'ref' && at.property === null && isNumber(at.id);
  const areCounted = ({ terms }: Linear) => [...terms.values()].every(({ ref }) => isCounted(ref));
  const heldBy = (a: Ast, b: Ast): Held[] | null => {
    const [one, other] = [linearOf(a), linearOf(b)];
    if (one && other) {
      const sum = difference(one, other);
      return areCounted(sum) ? [{ kind: 'sum', sum }] : null;
    }
    const rests = [one && isGiven(one) ? [] : restsOf(a, isCounted), other && isGiven(other) ? [] : restsOf(b, isCounted)];
    return rests[0] && rests[1] ? [...rests[0], ...rests[1]] : null;
  };
  visit(ast);
  return found;
}

/** The pairs of which an expression asks how they stand to each other; null for one that asks no such thing. */
export function pairsOf(ast: Ast): (readonly [Ast, Ast])[] | null {
  if (isComparison(ast)) return [[ast.a, ast.b]];
  if (ast.k === 'between') return [ast.low, ast.high].map((end) => [ast.a, end] as const);
  if (ast.k !== 'in') return null;
  return ast.tests.flatMap((test) => (test.k === 'range' ? [test.low, test.high] : [test.value]).map((end) => [ast.a, end] as const));
}

const PLAIN: ReadonlySet<string> = new Set(['+', '-', '*']);

/** What `modulo` with a given number leaves of sums of one thing; null where an expression is no such. */
function restsOf(ast: Ast, isCounted: (ref: Ast) => boolean): Held[] | null {
  if (ast.k === 'op' && PLAIN.has(ast.op)) {
    const sides = [ast.a, ast.b].map((side) => (side.k === 'value' ? [] : restsOf(side, isCounted)));
    return sides[0] && sides[1] ? [...sides[0], ...sides[1]] : null;
  }
  if (ast.k !== 'call' || ast.fn !== 'modulo') return null;
  const [of, by] = ast.args.map(linearOf);
  if (!of || !by || !isGiven(by) || by.plus === 0 || of.slack !== 0) return null;
  const terms = [...of.terms.values()];
  if (!terms.every(({ ref }) => isCounted(ref))) return null;
  return terms.map(({ ref, times }) => ({ kind: 'rest', path: ref.id, period: Math.abs(by.plus / times) }));
}
