import type { Ast, BinaryOperator } from './ast.ts';
import { parseExpression } from './parse.ts';

/** Conditions as chips show them: comparisons joined by one word. Both ways without loss; anything else stays text. */

export const COMPARISONS = ['=', '!=', '<', '<=', '>', '>='] as const;

export type Comparison = (typeof COMPARISONS)[number];

export interface Clause {
  /** What is asked about: a stored reference such as `‹id›.selected`, or `frame.name`. */
  readonly left: string;
  /** `is` and `is not` ask about a yes/no by itself. */
  readonly how: Comparison | 'is' | 'is not';
  /** The stored expression it is compared with; null for `is` and `is not`. */
  readonly right: string | null;
}

export interface Clauses {
  readonly join: 'and' | 'or';
  readonly list: readonly Clause[];
}

/** A stored condition as clauses; null where it is more than clauses can say. */
export function clausesOf(stored: string): Clauses | null {
  const parsed = parseExpression(stored);
  if (!parsed.ok) return null;
  const ast = parsed.value;
  const join = ast.k === 'op' && (ast.op === 'and' || ast.op === 'or') ? ast.op : 'and';
  const list = leaves(ast, join).map((leaf) => clauseOf(leaf, stored));
  const whole = list.every((clause) => clause !== null) ? { join, list: list as Clause[] } : null;
  return whole && parsesAlike(writeClauses(whole), ast) ? whole : null;
}

const leaves = (ast: Ast, join: 'and' | 'or'): Ast[] =>
  ast.k === 'op' && ast.op === join ? [...leaves(ast.a, join), ...leaves(ast.b, join)] : [ast];

function clauseOf(ast: Ast, stored: string): Clause | null {
  const text = (part: Ast) => (part.from === undefined || part.to === undefined ? null : stored.slice(part.from, part.to));
  if (ast.k === 'ref') return clause(text(ast), 'is', null);
  if (ast.k === 'call' && ast.fn === 'not' && ast.args[0]?.k === 'ref') return clause(text(ast.args[0]), 'is not', null);
  if (ast.k !== 'op' || !isComparison(ast.op) || (ast.a.k !== 'ref' && ast.a.k !== 'special')) return null;
  const right = text(ast.b);
  return right === null || /\b(and|or)\b/.test(right.replace(/"(?:[^"\\]|\\.)*"/g, '')) ? null : clause(text(ast.a), ast.op, right);
}

const clause = (left: string | null, how: Clause['how'], right: string | null): Clause | null => (left === null ? null : { left, how, right });

const isComparison = (op: BinaryOperator): op is Comparison => (COMPARISONS as readonly string[]).includes(op);

/** The stored condition that clauses say. */
export function writeClauses({ join, list }: Clauses): string {
  if (list.length === 0) return 'true';
  return list.map(({ left, how, right }) => (how === 'is' ? left : how === 'is not' ? `not(${left})` : `${left} ${how} ${right}`)).join(` ${join} `);
}

/** Slices of the text may have lost brackets: what is written has to mean the same. */
function parsesAlike(written: string, ast: Ast): boolean {
  const again = parseExpression(written);
  return again.ok && JSON.stringify(again.value, withoutPlaces) === JSON.stringify(ast, withoutPlaces);
}

const withoutPlaces = (key: string, value: unknown): unknown => (key === 'from' || key === 'to' ? undefined : value);
