import { onceFor } from '../once.ts';
import {
  ExpressionError,
  typeOf,
  type Ast,
  type At,
  type BinaryOperator,
  type ExpressionFault,
  type Property,
  type Special,
  type Test,
  type Value,
  type ValueType,
} from './ast.ts';
import { asDecimal } from './decimal.ts';
import { callFunction } from './functions.ts';

/** Where an expression gets the values of what it names. */
export interface Environment {
  readonly read: (id: string, property: Property | null, at: Partial<At>) => Value;
  readonly nameOf: (id: string, at: Partial<At>) => string;
  readonly special: (what: Special) => Value;
}

/** Computes an expression. Throws an ExpressionError where it has no value. */
export type Compiled = (environment: Environment) => Value;

/** The closure of an expression; the same tree gives the same closure. */
export const compileAst = onceFor((ast: Ast): Compiled => make(ast));

const refuse = (code: ExpressionFault['code'], sentence: string, at: Partial<At>): never => {
  throw new ExpressionError({ code, sentence, from: at.from ?? 0, to: at.to ?? 0 });
};

const wants = (value: Value, type: ValueType, at: Partial<At>): Value =>
  typeOf(value) === type ? value : refuse('wrong-type', `A ${type} is wanted here, and this is a ${typeOf(value)}.`, at);

function make(ast: Ast): Compiled {
  switch (ast.k) {
    case 'value':
      return () => ast.value;
    case 'ref':
      return (environment) => environment.read(ast.id, ast.property, ast);
    case 'name':
      return (environment) => environment.nameOf(ast.id, ast);
    case 'special':
      return (environment) => environment.special(ast.what);
    case 'minus': {
      const a = compileAst(ast.a);
      return (environment) => -(wants(a(environment), 'number', ast.a) as number);
    }
    case 'op':
      return operator(ast.op, ast);
    case 'call': {
      const args = ast.args.map(compileAst);
      return (environment) =>
        callFunction(
          ast.fn,
          args.map((arg) => arg(environment)),
          ast
        );
    }
    case 'if': {
      const [test, yes, no] = [compileAst(ast.test), compileAst(ast.yes), compileAst(ast.no)];
      return (environment) => (wants(test(environment), 'yes/no', ast.test) ? yes(environment) : no(environment));
    }
    case 'between': {
      const [a, low, high] = [compileAst(ast.a), compileAst(ast.low), compileAst(ast.high)];
      return (environment) => {
        const value = a(environment);
        return compare('>=', value, low(environment), ast) && compare('<=', value, high(environment), ast);
      };
    }
    case 'in': {
      const a = compileAst(ast.a);
      const tests = ast.tests.map((test) => makeTest(test, ast));
      return (environment) => {
        const value = a(environment);
        return tests.some((test) => test(value, environment));
      };
    }
  }
}

function operator(op: BinaryOperator, ast: Ast & { k: 'op' }): Compiled {
  const [a, b] = [compileAst(ast.a), compileAst(ast.b)];
  if (op === 'and') return (environment) => wants(a(environment), 'yes/no', ast.a) === true && wants(b(environment), 'yes/no', ast.b) === true;
  if (op === 'or') return (environment) => wants(a(environment), 'yes/no', ast.a) === true || wants(b(environment), 'yes/no', ast.b) === true;
  if (op === '=' || op === '!=' || op === '<' || op === '<=' || op === '>' || op === '>=')
    return (environment) => compare(op, a(environment), b(environment), ast);
  return (environment) => calculate(op, a(environment), b(environment), ast);
}

function compare(op: '=' | '!=' | '<' | '<=' | '>' | '>=', a: Value, b: Value, at: Partial<At>): boolean {
  if (typeof a !== typeof b) return refuse('wrong-type', `A ${typeOf(a)} cannot be compared with a ${typeOf(b)}.`, at);
  if (op === '=') return a === b;
  if (op === '!=') return a !== b;
  if (typeof a === 'boolean') return refuse('wrong-type', 'Yes and no have no order.', at);
  switch (op) {
    case '<':
      return a < b;
    case '<=':
      return a <= b;
    case '>':
      return a > b;
    case '>=':
      return a >= b;
  }
}

function calculate(op: '+' | '-' | '*' | '/' | '**', a: Value, b: Value, at: Partial<At>): Value {
  if (op === '+' && typeof a === 'string' && typeof b === 'string') return a + b;
  if (typeof a !== 'number' || typeof b !== 'number')
    return refuse('wrong-type', `“${op}” cannot be used between a ${typeOf(a)} and a ${typeOf(b)}.`, at);
  if (op === '/' && b === 0) return refuse('division-by-zero', 'This divides by zero.', at);
  const value = { '+': () => a + b, '-': () => a - b, '*': () => a * b, '/': () => a / b, '**': () => a ** b }[op]();
  const scale = op === '+' || op === '-' ? Math.max(Math.abs(a), Math.abs(b), Math.abs(value)) : Math.abs(value);
  return Number.isFinite(value) ? asDecimal(value, scale) : refuse('out-of-range', 'This number is too large.', at);
}

function makeTest(test: Test, at: Partial<At>): (value: Value, environment: Environment) => boolean {
  if (test.k === 'range') {
    const [low, high] = [compileAst(test.low), compileAst(test.high)];
    return (value, environment) =>
      compare(test.openLow ? '>' : '>=', value, low(environment), at) && compare(test.openHigh ? '<' : '<=', value, high(environment), at);
  }
  const other = compileAst(test.value);
  const op = test.k === 'equal' ? '=' : test.op;
  return (value, environment) => compare(op, value, other(environment), at);
}
