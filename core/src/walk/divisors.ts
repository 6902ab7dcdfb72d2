import { partsOf, type Ast } from '../expression/ast.ts';

/** What an expression divides by, but for what is given: its value is asked for nowhere, and there is none where that is 0. */
export const divisorsIn = (ast: Ast): readonly Ast[] => {
  const by = ast.k === 'op' && ast.op === '/' ? ast.b : ast.k === 'call' && ast.fn === 'modulo' ? ast.args[1] : undefined;
  return [...(by && by.k !== 'value' ? [by] : []), ...partsOf(ast).flatMap(divisorsIn)];
};

/** Whether a divisor is nothing, as a question. */
export const isNothing = (divisor: Ast): Ast => ({ k: 'op', op: '=', a: divisor, b: { k: 'value', value: 0 } });
