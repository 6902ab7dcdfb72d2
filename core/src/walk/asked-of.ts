import { partsOf, type Ast } from '../expression/ast.ts';
import { LENGTH } from './compared.ts';
import { heldAgainst } from './linear.ts';
import { FOLDS, PATTERNS, type Fold, type Pattern } from './texts.ts';
import type { IsIt } from './uses.ts';

/** What an expression asks of one thing that it speaks of. */

/** Operators that ask whether two things are the same. */
export const EQUALS: ReadonlySet<string> = new Set(['=', '!=']);
const ORDERS: ReadonlySet<string> = new Set(['<', '<=', '>', '>=']);

/** Whether something is read in an expression other than by comparing it with a given value, or a text with another one of a field. */
export function isComputedWith(ast: Ast, isIt: IsIt, areHeld: (ast: Ast) => boolean = () => false, isCompared = false): boolean {
  if (ast.k === 'ref') return !isCompared && isIt(ast.id, ast.property);
  if (isCompared && (isLengthOf(ast) || isNumberOf(ast, isIt))) return false;
  const inside = isCompared ? foldedIn(ast) : null;
  if (inside) return isComputedWith(inside.ast, isIt, areHeld, true);
  if (heldAgainst(ast) || areHeld(ast)) return false;
  if (ast.k === 'call' && patternOf(ast)) return isComputedWith(ast.args[0]!, isIt, areHeld, true);
  const isHeld = holdsAgainstGiven(ast);
  return partsOf(ast).some((part) => isComputedWith(part, isIt, areHeld, isHeld));
}

/** Whether an expression holds something against given values: any for being equal, numbers for which is more. */
function holdsAgainstGiven(ast: Ast): boolean {
  const isNumber = (one: Ast) => one.k === 'value' && typeof one.value === 'number';
  const [, ...others] = partsOf(ast);
  if (ast.k === 'op') {
    const sides = [ast.a, ast.b];
    return EQUALS.has(ast.op) ? sides.some(({ k }) => k === 'value') : ORDERS.has(ast.op) && sides.some(isNumber);
  }
  if (ast.k === 'in' && ast.tests.every(({ k }) => k === 'equal')) return others.every(({ k }) => k === 'value');
  return (ast.k === 'between' || ast.k === 'in') && others.every(isNumber);
}

/** What a call asks of a text, where it asks that with a given one. */
export function patternOf(ast: Ast): (Pattern & { readonly of: Ast }) | null {
  if (ast.k !== 'call' || !(PATTERNS as readonly string[]).includes(ast.fn)) return null;
  const [of, given] = ast.args;
  return of && given?.k === 'value' && typeof given.value === 'string' ? { asks: ast.fn as Pattern['asks'], text: given.value, of } : null;
}

/** What is written in capitals, or without any, before something is asked of it; null for any other expression. */
const foldedIn = (ast: Ast): { readonly ast: Ast; readonly fold: Fold } | null =>
  ast.k === 'call' && (FOLDS as readonly string[]).includes(ast.fn) ? { ast: ast.args[0]!, fold: ast.fn as Fold } : null;

/** Whether an expression is how long a text is, of which nothing is left out and to which nothing is added. */
const isLengthOf = (ast: Ast): boolean => ast.k === 'call' && ast.fn === LENGTH && (foldedIn(ast.args[0]!)?.ast ?? ast.args[0]!).k === 'ref';

/** Whether an expression is the number that a text is. */
const isNumberOf = (ast: Ast, isIt: IsIt): boolean =>
  ast.k === 'call' && ast.fn === 'number' && ast.args[0]?.k === 'ref' && isIt(ast.args[0].id, ast.args[0].property);

/** Whether an expression asks which number a text is. */
export const asksNumber = (ast: Ast, isIt: IsIt): boolean => isNumberOf(ast, isIt) || partsOf(ast).some((part) => asksNumber(part, isIt));

/** All that an expression asks of a text by given ones. */
export function patternsIn(ast: Ast, isIt: IsIt): Pattern[] {
  const isRef = (one: Ast | undefined): boolean => one?.k === 'ref' && isIt(one.id, one.property);
  const isAsked = (one: Ast | undefined): boolean => isRef(one && (foldedIn(one)?.ast ?? one));
  const called = ast.k === 'call' && isAsked(ast.args[0]) ? patternOf(ast) : null;
  const own = called ? [{ asks: called.asks, text: called.text }] : comparesWith(ast, isAsked).map((text): Pattern => ({ asks: 'is', text }));
  const fold = partsOf(ast).flatMap((part) => (isAsked(part) ? (foldedIn(part)?.fold ?? []) : []))[0];
  return [...own.map((one) => (fold ? { ...one, fold } : one)), ...partsOf(ast).flatMap((part) => patternsIn(part, isIt))];
}

/** The texts that something is held against. */
function comparesWith(ast: Ast, isRef: (one: Ast | undefined) => boolean): string[] {
  const textOf = (one: Ast) => (one.k === 'value' && typeof one.value === 'string' ? [one.value] : []);
  if (ast.k === 'op' && !EQUALS.has(ast.op)) return [];
  if (ast.k === 'op') return isRef(ast.a) ? textOf(ast.b) : isRef(ast.b) ? textOf(ast.a) : [];
  return ast.k === 'in' && isRef(ast.a) ? partsOf(ast).slice(1).flatMap(textOf) : [];
}
