import type { Ast } from '../expression/ast.ts';

/** What an expression chooses between, and what is asked for that. */
export interface Choice {
  readonly asked: readonly Ast[];
  readonly chosen: readonly Ast[];
}

/** Functions that give one of what they are given. */
const CHOOSES: ReadonlySet<string> = new Set(['min', 'max']);

/** Null for an expression that gives nothing but its own. Which of some is the least or the most depends on how each stands to each. */
export function choiceOf(ast: Ast): Choice | null {
  if (ast.k === 'if') return { asked: [ast.test], chosen: [ast.yes, ast.no] };
  if (ast.k !== 'call' || !CHOOSES.has(ast.fn)) return null;
  const { args } = ast;
  return { asked: args.flatMap((b, i) => args.slice(0, i).map((a): Ast => ({ k: 'op', op: '<', a, b }))), chosen: args };
}
