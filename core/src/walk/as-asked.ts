import { partsOf, withParts, type Ast, type BinaryOperator, type Value } from '../expression/ast.ts';
import { compileAst, type Environment } from '../expression/compile.ts';
import { LENGTH } from './compared.ts';
import { isComparison } from './linear.ts';
import { answerIn } from './values.ts';

/** Conditions on texts, written as what they ask of them: so that it is known of each text in which way it comes out. */

/**
 * An expression that comes out as another one does, whatever is read. `substring(Code, 1, 2) = "KL"` asks whether the code starts with
 * these letters, `"No. " + Berth = "No. 4"` whether the berth is 4, and `contains("abc", Code)` whether it is one of seven texts.
 */
export function asAsked(ast: Ast): Ast {
  const own = asGiven(withParts(ast, asAsked));
  if (own.k === 'op' && (own.op === '=' || own.op === '!=')) {
    const asked = heldAgainst(own.a, own.b) ?? heldAgainst(own.b, own.a);
    if (asked !== null) return own.op === '=' ? asked : { k: 'call', fn: 'not', args: [asked] };
  }
  if (isComparison(own)) return asLength(own);
  if (own.k === 'in') return asOneOf(own) ?? own;
  if (own.k === 'call' && own.fn === 'contains') return asPartOf(own.args) ?? own;
  return own;
}

const value = (of: Value): Ast => ({ k: 'value', value: of });
const same = (of: Ast, text: string): Ast => asAsked({ k: 'op', op: '=', a: of, b: value(text) });
const ask = (fn: 'starts with' | 'ends with', of: Ast, text: string): Ast => ({ k: 'call', fn, args: [of, value(text)] });

/** What speaks of nothing, as the value that it has. */
function asGiven(ast: Ast): Ast {
  const parts = partsOf(ast);
  if (parts.length === 0 || parts.some(({ k }) => k !== 'value')) return ast;
  const given = answerIn(compileAst(ast), NOTHING);
  return given === null ? ast : value(given);
}

const NOTHING: Environment = { read: () => 0, nameOf: () => '', special: () => 0 };

/** How long a text is, with so many more or times as many: held against so many by itself. */
function asLength(ast: Ast & { readonly k: 'op' }): Ast {
  const [a, b] = [lengthIn(ast.a), lengthIn(ast.b)];
  if (a && ast.b.k === 'value') return heldBy(ast, a, Number(ast.b.value));
  return b && ast.a.k === 'value' ? heldBy({ ...ast, op: TURNED[ast.op] ?? ast.op }, b, Number(ast.a.value)) : ast;
}

/** `length * times + plus`. */
interface LengthIn {
  readonly length: Ast;
  readonly times: number;
  readonly plus: number;
}

function heldBy(ast: Ast & { readonly k: 'op' }, { length, times, plus }: LengthIn, against: number): Ast {
  return { k: 'op', op: times < 0 ? (TURNED[ast.op] ?? ast.op) : ast.op, a: length, b: value((against - plus) / times) };
}

const TURNED: Readonly<Partial<Record<BinaryOperator, BinaryOperator>>> = { '<': '>', '<=': '>=', '>': '<', '>=': '<=' };

function lengthIn(ast: Ast): LengthIn | null {
  if (ast.k === 'call') return ast.fn === LENGTH ? lengthOf(ast.args[0]!) : null;
  if (ast.k === 'minus') return scaled(lengthIn(ast.a), -1);
  if (ast.k !== 'op') return null;
  const [of, given, isFirst] =
    ast.b.k === 'value' ? [ast.a, ast.b.value, true] : ast.a.k === 'value' ? [ast.b, ast.a.value, false] : [ast, null, true];
  if (typeof given !== 'number' || !Number.isInteger(given)) return null;
  const inside = lengthIn(of);
  if (inside === null) return null;
  if (ast.op === '+') return { ...inside, plus: inside.plus + given };
  if (ast.op === '*') return scaled(inside, given);
  if (ast.op !== '-') return null;
  return isFirst ? { ...inside, plus: inside.plus - given } : scaled({ ...inside, plus: inside.plus - given }, -1);
}

const scaled = (one: LengthIn | null, by: number): LengthIn | null =>
  one && by !== 0 ? { length: one.length, times: one.times * by, plus: one.plus * by } : null;

/** How long a text is to which given ones are added. */
function lengthOf(ast: Ast): LengthIn {
  const [before, after] = ast.k === 'op' && ast.op === '+' ? [textOf(ast.a), textOf(ast.b)] : [null, null];
  const given = before ?? after;
  if (ast.k !== 'op' || given === null) return { length: { k: 'call', fn: LENGTH, args: [ast] }, times: 1, plus: 0 };
  const inside = lengthOf(before === null ? ast.a : ast.b);
  return { ...inside, plus: inside.plus + [...given].length };
}

const textOf = (ast: Ast | undefined): string | null => (ast?.k === 'value' && typeof ast.value === 'string' ? ast.value : null);

const wholeOf = (ast: Ast | undefined): number | null => {
  const of = ast?.k === 'minus' ? ast.a : ast;
  if (of?.k !== 'value' || typeof of.value !== 'number' || !Number.isInteger(of.value)) return null;
  return of === ast ? of.value : -of.value;
};

/** What it asks that an expression is a given text; null where that can be written in no other way. */
function heldAgainst(ast: Ast, given: Ast): Ast | null {
  const text = textOf(given);
  if (text === null) return null;
  if (ast.k === 'call' && ast.fn === 'substring') return partIs(ast.args, text);
  if (ast.k !== 'op' || ast.op !== '+') return null;
  const [before, after] = [textOf(ast.a), textOf(ast.b)];
  if (after !== null && before === null) return text.endsWith(after) ? same(ast.a, text.slice(0, text.length - after.length)) : value(false);
  if (before !== null && after === null) return text.startsWith(before) ? same(ast.b, text.slice(before.length)) : value(false);
  return null;
}

/** A part at the beginning or at the end of a text is a given one. */
function partIs([of, start, count]: readonly Ast[], text: string): Ast | null {
  const [from, many] = [wholeOf(start), count === undefined ? Infinity : wholeOf(count)];
  if (!of || from === null || many === null || many < 0) return null;
  const long = [...text].length;
  // From the end on, a part that is not cut off is as long as it is counted; of shorter texts it is all.
  const isAtEnd = from < 0 && many >= -from;
  if (from !== 1 && !isAtEnd) return null;
  const most = isAtEnd ? -from : many;
  if (long > most) return value(false);
  return long < most ? same(of, text) : ask(isAtEnd ? 'ends with' : 'starts with', of, text);
}

/** `in` given texts, where what is held against them can be written in another way. */
function asOneOf({ a, tests }: Ast & { readonly k: 'in' }): Ast | null {
  const asked = tests.map((test) => (test.k === 'equal' ? heldAgainst(a, test.value) : null));
  return asked.reduce((all, one) => all && one && { k: 'op', op: 'or', a: all, b: one });
}

/** Of a given text with so many signs all parts are few enough to be named. */
const MOST_SIGNS = 5;

function asPartOf([given, of]: readonly Ast[]): Ast | null {
  const text = textOf(given);
  if (text === null || !of || of.k === 'value') return null;
  const signs = [...text];
  if (signs.length > MOST_SIGNS) return null;
  const parts = signs.flatMap((_, from) => signs.slice(from).map((_, i) => signs.slice(from, from + i + 1).join('')));
  return { k: 'in', a: of, tests: [...new Set(['', ...parts])].map((part) => ({ k: 'equal', value: value(part) })) };
}
