import type { Ast, BinaryOperator, Test } from './ast.ts';

/** Expressions as ECMAScript, for formats that hold scripts. Null for what has no plain counterpart there. */
export function toScript(
  ast: Ast,
  nameOf: (id: string, property: string | null) => string | null,
  constantOf: (id: string) => string | null = () => null
): string | null {
  const sub = (part: Ast) => toScript(part, nameOf, constantOf);
  const all = (parts: readonly Ast[], join: (texts: string[]) => string) => {
    const texts = parts.map(sub);
    return texts.every((text) => text !== null) ? join(texts) : null;
  };
  switch (ast.k) {
    case 'value':
      return JSON.stringify(ast.value);
    case 'ref':
      return nameOf(ast.id, ast.property);
    case 'name': {
      const name = constantOf(ast.id);
      return name === null ? null : JSON.stringify(name);
    }
    case 'minus':
      return all([ast.a], ([a]) => `(-${a})`);
    case 'op':
      return all([ast.a, ast.b], ([a, b]) => `(${a} ${operators[ast.op]} ${b})`);
    case 'if':
      return all([ast.test, ast.yes, ast.no], ([test, yes, no]) => `(${test} ? ${yes} : ${no})`);
    case 'between':
      return all([ast.a, ast.low, ast.high], ([a, low, high]) => `(${a} >= ${low} && ${a} <= ${high})`);
    case 'in': {
      const value = sub(ast.a);
      const tests = ast.tests.map((test) => testScript(test, value, sub));
      return value !== null && tests.every((test) => test !== null) ? `(${tests.join(' || ')})` : null;
    }
    case 'call': {
      const write = calls[ast.fn];
      return write ? all(ast.args, write) : null;
    }
    default:
      return null;
  }
}

const operators: Record<BinaryOperator, string> = {
  '+': '+',
  '-': '-',
  '*': '*',
  '/': '/',
  '**': '**',
  '=': '===',
  '!=': '!==',
  '<': '<',
  '<=': '<=',
  '>': '>',
  '>=': '>=',
  and: '&&',
  or: '||',
};

function testScript(test: Test, value: string | null, sub: (part: Ast) => string | null): string | null {
  if (test.k === 'range') {
    const [low, high] = [sub(test.low), sub(test.high)];
    return low !== null && high !== null ? `(${value} ${test.openLow ? '>' : '>='} ${low} && ${value} ${test.openHigh ? '<' : '<='} ${high})` : null;
  }
  const other = sub(test.value);
  return other === null ? null : `${value} ${test.k === 'equal' ? '===' : test.op} ${other}`;
}

const calls: Record<string, (args: string[]) => string> = {
  not: ([a]) => `!${a}`,
  abs: ([a]) => `Math.abs(${a})`,
  min: (args) => `Math.min(${args.join(', ')})`,
  max: (args) => `Math.max(${args.join(', ')})`,
  floor: ([a, scale]) => (scale === undefined ? `Math.floor(${a})` : 'NaN'),
  ceiling: ([a, scale]) => (scale === undefined ? `Math.ceil(${a})` : 'NaN'),
  modulo: ([a, b]) => `(${a} - ${b} * Math.floor(${a} / ${b}))`,
  'string length': ([a]) => `${a}.length`,
  'upper case': ([a]) => `${a}.toUpperCase()`,
  'lower case': ([a]) => `${a}.toLowerCase()`,
  contains: ([a, b]) => `(${a}.indexOf(${b}) >= 0)`,
  'starts with': ([a, b]) => `(${a}.indexOf(${b}) === 0)`,
  string: ([a]) => `String(${a})`,
};
