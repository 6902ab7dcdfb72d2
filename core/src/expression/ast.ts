/**
 * Expressions: the subset of FEEL (OMG, DMN 1.4) that conditions, bindings, assignments and texts are written in.
 * Positions are offsets in the stored text.
 */

export type Value = number | string | boolean;

export type ValueType = 'number' | 'text' | 'yes/no';

/** A reference in stored text: `‹id›`, or `‹=scene/state›` for the name of what the ids mean. */
export const REFERENCE = /‹(=?)([0-9A-Za-z][0-9A-Za-z_/-]*)›/g;

/** What a stored text names, as ids and paths, whether for its value or for its name. */
export const namesIn = (stored: string): string[] => Array.from(stored.matchAll(REFERENCE), ([, , id]) => id!);

/** What can be read of the thing an id names; null for a variable itself. */
export const PROPERTIES = ['selected', 'enabled', 'shown', 'value', 'x', 'y', 'state', 'section'] as const;

export type Property = (typeof PROPERTIES)[number];

/** What can be read without naming anything in the piece. */
export const SPECIALS = ['frame.name', 'pad.button'] as const;

export type Special = (typeof SPECIALS)[number];

export type BinaryOperator = '+' | '-' | '*' | '/' | '**' | '=' | '!=' | '<' | '<=' | '>' | '>=' | 'and' | 'or';

export interface At {
  readonly from: number;
  readonly to: number;
}

/** A test of `in`: a value to be equal to, a comparison, or a range with or without its ends. */
export type Test =
  | { readonly k: 'equal'; readonly value: Ast }
  | { readonly k: 'compare'; readonly op: '<' | '<=' | '>' | '>='; readonly value: Ast }
  | { readonly k: 'range'; readonly low: Ast; readonly high: Ast; readonly openLow: boolean; readonly openHigh: boolean };

export type Ast = Partial<At> &
  (
    | { readonly k: 'value'; readonly value: Value }
    | { readonly k: 'ref'; readonly id: string; readonly property: Property | null }
    | { readonly k: 'name'; readonly id: string }
    | { readonly k: 'special'; readonly what: Special }
    | { readonly k: 'op'; readonly op: BinaryOperator; readonly a: Ast; readonly b: Ast }
    | { readonly k: 'minus'; readonly a: Ast }
    | { readonly k: 'call'; readonly fn: string; readonly args: readonly Ast[] }
    | { readonly k: 'if'; readonly test: Ast; readonly yes: Ast; readonly no: Ast }
    | { readonly k: 'between'; readonly a: Ast; readonly low: Ast; readonly high: Ast }
    | { readonly k: 'in'; readonly a: Ast; readonly tests: readonly Test[] }
  );

/** Why an expression cannot be read or computed, with the place in its text. */
export interface ExpressionFault extends At {
  readonly code: 'syntax' | 'unknown-name' | 'wrong-type' | 'not-supported' | 'division-by-zero' | 'out-of-range' | 'missing';
  readonly sentence: string;
}

/** Thrown while computing, so that an error never turns into a silent nothing. */
export class ExpressionError extends Error {
  constructor(readonly fault: ExpressionFault) {
    super(fault.sentence);
  }
}

export const typeOf = (value: Value): ValueType => (typeof value === 'number' ? 'number' : typeof value === 'string' ? 'text' : 'yes/no');

/** A value as people read it. */
export const valueWords = (value: Value): string => (typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value));

const NO_TESTS: readonly Test[] = [];

/** The parts of an expression, in order. */
export function partsOf(ast: Ast): readonly Ast[] {
  switch (ast.k) {
    case 'op':
      return [ast.a, ast.b];
    case 'minus':
      return [ast.a];
    case 'call':
      return ast.args;
    case 'if':
      return [ast.test, ast.yes, ast.no];
    case 'between':
      return [ast.a, ast.low, ast.high];
    case 'in':
      return [ast.a, ...(ast.tests ?? NO_TESTS).flatMap((test) => (test.k === 'range' ? [test.low, test.high] : [test.value]))];
    default:
      return [];
  }
}

/** An expression with other ones in the place of what it reads. */
export const replaceRefs = (ast: Ast, by: (ref: Ast & { readonly k: 'ref' }) => Ast): Ast =>
  ast.k === 'ref' ? by(ast) : withParts(ast, (part) => replaceRefs(part, by));

/** An expression with another one in the place of a part of it. */
export const replacePart = (ast: Ast, part: Ast, by: Ast): Ast => (ast === part ? by : withParts(ast, (one) => replacePart(one, part, by)));

/** An expression with its parts as they come out. */
export function withParts(ast: Ast, inside: (part: Ast) => Ast): Ast {
  switch (ast.k) {
    case 'op':
      return { ...ast, a: inside(ast.a), b: inside(ast.b) };
    case 'minus':
      return { ...ast, a: inside(ast.a) };
    case 'call':
      return { ...ast, args: ast.args.map(inside) };
    case 'if':
      return { ...ast, test: inside(ast.test), yes: inside(ast.yes), no: inside(ast.no) };
    case 'between':
      return { ...ast, a: inside(ast.a), low: inside(ast.low), high: inside(ast.high) };
    case 'in':
      return {
        ...ast,
        a: inside(ast.a),
        tests: ast.tests.map((test) =>
          test.k === 'range' ? { ...test, low: inside(test.low), high: inside(test.high) } : { ...test, value: inside(test.value) }
        ),
      };
    default:
      return ast;
  }
}

/** What an expression reads, as keys: `id`, `id.property` or a special. */
export function readsOf(ast: Ast, found = new Set<string>()): Set<string> {
  if (ast.k === 'ref') found.add(ast.property === null ? ast.id : `${ast.id}.${ast.property}`);
  if (ast.k === 'special') found.add(ast.what);
  for (const part of partsOf(ast)) readsOf(part, found);
  return found;
}
