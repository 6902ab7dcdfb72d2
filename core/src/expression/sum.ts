import { ExpressionError } from './ast.ts';
import { compileAst, type Environment } from './compile.ts';
import { parseExpression } from './parse.ts';

const refuse = (): never => {
  throw new ExpressionError({ code: 'unknown-name', sentence: 'A sum is made of numbers alone.', from: 0, to: 0 });
};

/** Nothing has a name in a sum. */
const NOTHING: Environment = { read: refuse, nameOf: refuse, special: refuse };

/** What people write for what the language of expressions writes otherwise. */
const SIGNS: readonly (readonly [RegExp, string])[] = [
  [/[×·]/g, '*'],
  [/[÷:]/g, '/'],
  [/[−–]/g, '-'],
  [/(\d),(\d)/g, '$1.$2'],
  [/(\d)\s*(?:px|%|°|ms)(?![\p{L}\d])/gu, '$1'],
];

/**
 * The number that is written in a field that holds one: a number, a sum (`100 - 16`), or one that goes on from what is there (`+ 8`,
 * `/ 2`; `+ -8` takes away, since `-8` is a number). Null where it is none.
 */
export function sumIn(written: string, from: number): number | null {
  let text = written.trim();
  for (const [sign, own] of SIGNS) text = text.replace(sign, own);
  const parsed = parseExpression(/^[+*/]/.test(text) ? `(${from}) ${text}` : text);
  if (!parsed.ok) return null;
  try {
    const value = compileAst(parsed.value)(NOTHING);
    return typeof value === 'number' && Number.isFinite(value) ? value : null;
  } catch (error) {
    if (error instanceof ExpressionError) return null;
    throw error;
  }
}
