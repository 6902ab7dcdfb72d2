import type { Ast } from '../expression/ast.ts';

/** One thing, so many times and with so much added; null for a number alone. */
export interface Linear {
  readonly of: (Ast & { readonly k: 'ref' }) | null;
  readonly times: number;
  readonly plus: number;
}

const COMPARES: ReadonlySet<string> = new Set(['=', '!=', '<', '<=', '>', '>=']);

/** What is computed from one thing and given numbers by adding and multiplying; null for anything else. */
export function linearOf(ast: Ast): Linear | null {
  if (ast.k === 'value') return typeof ast.value === 'number' ? { of: null, times: 0, plus: ast.value } : null;
  if (ast.k === 'ref') return { of: ast, times: 1, plus: 0 };
  if (ast.k === 'minus') return scaled(linearOf(ast.a), -1);
  if (ast.k !== 'op') return null;
  const [a, b] = [linearOf(ast.a), linearOf(ast.b)];
  if (!a || !b) return null;
  if (ast.op === '+') return sum(a, b);
  if (ast.op === '-') return sum(a, scaled(b, -1)!);
  if (ast.op === '*') return a.of === null ? scaled(b, a.plus) : b.of === null ? scaled(a, b.plus) : null;
  return ast.op === '/' && b.of === null && b.plus !== 0 ? scaled(a, 1 / b.plus) : null;
}

const sum = (a: Linear, b: Linear): Linear | null => (a.of && b.of ? null : { of: a.of ?? b.of, times: a.times + b.times, plus: a.plus + b.plus });

const scaled = (one: Linear | null, by: number): Linear | null => one && { of: one.of, times: one.times * by, plus: one.plus * by };

/**
 * What a comparison holds one thing against where that is computed with given numbers only: `Seats * 12 > 40` holds Seats against 40/12.
 * Null for any other expression.
 */
export function heldAgainst(ast: Ast): { readonly ref: Ast & { readonly k: 'ref' }; readonly value: number } | null {
  if (ast.k !== 'op' || !COMPARES.has(ast.op)) return null;
  const [a, b] = [linearOf(ast.a), linearOf(ast.b)];
  const all = a && b && sum(a, scaled(b, -1)!);
  return all?.of && all.times !== 0 ? { ref: all.of, value: -all.plus / all.times } : null;
}
