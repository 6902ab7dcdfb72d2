import { ExpressionError, readsOf, valueWords, type Ast, type Value } from './ast.ts';
import { compileAst, type Environment } from './compile.ts';
import { displayExpression, writeThing, type ExpressionScope } from './names.ts';

export interface FailingClause {
  /** As people read it. */
  readonly clause: string;
  /** What it read: names with their values. */
  readonly reads: readonly { readonly name: string; readonly value: string }[];
}

/** The first clause of a condition that does not hold, with what it read; the error's sentence where it has no value. */
export function failingClause(stored: string, ast: Ast, environment: Environment, scope: ExpressionScope): FailingClause {
  const clause = firstFalse(ast, environment);
  const text = stored.slice(clause.from ?? 0, clause.to ?? stored.length);
  const reads = [...readsOf(clause)].map((key) => {
    const [id, property] = key.split('.') as [string, string | undefined];
    const isSpecial = key === 'frame.name' || key === 'pad.button';
    const thing = scope.things.find((candidate) => candidate.id === id);
    const name = isSpecial ? key : `${thing ? writeThing(thing.name) : id}${property ? `.${property}` : ''}`;
    const value = tried(() => (isSpecial ? environment.special(key) : environment.read(id, (property ?? null) as never, clause)));
    return { name, value };
  });
  return { clause: displayExpression(text, scope).text, reads };
}

function firstFalse(ast: Ast, environment: Environment): Ast {
  if (ast.k !== 'op' || ast.op !== 'and') return ast;
  return firstFalse(isTrue(ast.a, environment) ? ast.b : ast.a, environment);
}

const isTrue = (ast: Ast, environment: Environment): boolean => {
  try {
    return compileAst(ast)(environment) === true;
  } catch (error) {
    if (error instanceof ExpressionError) return false;
    throw error;
  }
};

function tried(read: () => Value): string {
  try {
    return valueWords(read());
  } catch (error) {
    if (error instanceof ExpressionError) return 'not there';
    throw error;
  }
}
