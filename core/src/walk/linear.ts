import type { Ast } from '../expression/ast.ts';

type Ref = Ast & { readonly k: 'ref' };

/** Things, each so many times, and with so much added: the value is at most `slack` away from that, where something was rounded. */
export interface Linear {
  readonly terms: ReadonlyMap<string, { readonly ref: Ref; readonly times: number }>;
  readonly plus: number;
  readonly slack: number;
}

const COMPARES: ReadonlySet<string> = new Set(['=', '!=', '<', '<=', '>', '>=']);

export const isComparison = (ast: Ast): ast is Ast & { readonly k: 'op' } => ast.k === 'op' && COMPARES.has(ast.op);

/** Functions that give a number near the one they are given. */
export const ROUNDS: ReadonlySet<string> = new Set(['floor', 'ceiling', 'round up', 'round down', 'round half up']);

/** What is computed by adding, by multiplying with given numbers, and by rounding; null for anything else. */
export function linearOf(ast: Ast): Linear | null {
  if (ast.k === 'value') return typeof ast.value === 'number' ? given(ast.value) : null;
  if (ast.k === 'ref') return { terms: new Map([[`${ast.id}.${ast.property ?? ''}`, { ref: ast, times: 1 }]]), plus: 0, slack: 0 };
  if (ast.k === 'minus') return scaled(linearOf(ast.a), -1);
  if (ast.k === 'call') return ROUNDS.has(ast.fn) ? rounded(ast.args) : null;
  if (ast.k !== 'op') return null;
  const [a, b] = [linearOf(ast.a), linearOf(ast.b)];
  if (!a || !b) return null;
  if (ast.op === '+') return sum(a, b);
  if (ast.op === '-') return sum(a, scaled(b, -1)!);
  const [isAGiven, isBGiven] = [isGiven(a), isGiven(b)];
  if (ast.op === '*') return isAGiven ? scaled(b, a.plus) : isBGiven ? scaled(a, b.plus) : null;
  return ast.op === '/' && isBGiven && b.plus !== 0 ? scaled(a, 1 / b.plus) : null;
}

const given = (plus: number): Linear => ({ terms: new Map(), plus, slack: 0 });

/** Whether it is a number alone. */
export const isGiven = ({ terms, slack }: Linear): boolean => terms.size === 0 && slack === 0;

function rounded([ast, scale]: readonly Ast[]): Linear | null {
  const of = ast && linearOf(ast);
  const digits = scale ? linearOf(scale) : given(0);
  return of && digits && isGiven(digits) ? { ...of, slack: of.slack + 10 ** -digits.plus } : null;
}

function sum(a: Linear, b: Linear): Linear {
  const terms = new Map(a.terms);
  for (const [key, { ref, times }] of b.terms) {
    const all = times + (terms.get(key)?.times ?? 0);
    if (all === 0) terms.delete(key);
    else terms.set(key, { ref, times: all });
  }
  return { terms, plus: a.plus + b.plus, slack: a.slack + b.slack };
}

function scaled(one: Linear | null, by: number): Linear | null {
  if (!one || by === 0) return one && given(0);
  const terms = new Map([...one.terms].map(([key, { ref, times }]) => [key, { ref, times: times * by }] as const));
  return { terms, plus: one.plus * by, slack: one.slack * Math.abs(by) };
}

/** One less the other: what is asked of both is how that stands to 0. */
export const difference = (a: Linear, b: Linear): Linear => sum(a, scaled(b, -1)!);

/**
 * What a comparison holds one thing against where that is computed with given numbers only: `Seats * 12 > 40` holds Seats against 40/12.
 * Null for any other expression.
 */
export function heldAgainst(ast: Ast): { readonly ref: Ref; readonly value: number } | null {
  if (!isComparison(ast)) return null;
  const [a, b] = [linearOf(ast.a), linearOf(ast.b)];
  const all = a && b && difference(a, b);
  if (!all || all.slack !== 0 || all.terms.size !== 1) return null;
  const [{ ref, times }] = [...all.terms.values()] as [{ ref: Ref; times: number }];
  return { ref, value: -all.plus / times };
}
