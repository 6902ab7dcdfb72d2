import { ExpressionError, typeOf, type At, type Value, type ValueType } from './ast.ts';
import { asDecimal } from './decimal.ts';

/** The functions of FEEL that can be used, by name. Sources: DMN 1.4, 10.3.4.3 (strings) and 10.3.4.5 (numbers). */
export interface FunctionKind {
  readonly takes: readonly ValueType[];
  /** How many of `takes` must be given; all if not said. */
  readonly least?: number;
  /** Any number of the last kind may follow. */
  readonly many?: true;
  readonly gives: ValueType;
  readonly run: (args: readonly Value[], at: Partial<At>) => Value;
}

const fail = (sentence: string, at: Partial<At>): never => {
  throw new ExpressionError({ code: 'out-of-range', sentence, from: at.from ?? 0, to: at.to ?? 0 });
};

const numbers = (args: readonly Value[]) => args as readonly number[];
const texts = (args: readonly Value[]) => args as readonly string[];
const signs = (text: string) => [...text];

/** Rounds at a number of decimals; written so that 1.005 at 2 is what people expect of it. */
const atScale = (value: number, scale: number, round: (n: number) => number): number => {
  if (!Number.isInteger(scale) || Math.abs(scale) > 15) return value;
  const shifted = Number(`${value}e${scale}`);
  return Number.isNaN(shifted) ? value : Number(`${round(shifted)}e${-scale}`) + 0;
};

const number = (gives: (args: readonly number[]) => number, count: number, least = count): FunctionKind => ({
  takes: Array.from({ length: count }, () => 'number' as const),
  least,
  gives: 'number',
  run: (args) => gives(numbers(args)),
});

/** What is left of one number once another one is taken off as often as can be. */
function modulo(x: number, y: number): number {
  const whole = asDecimal(y * Math.floor(asDecimal(x / y)));
  return asDecimal(x - whole, Math.max(Math.abs(x), Math.abs(whole)));
}

const awayFromZero = (n: number) => Math.sign(n) * Math.ceil(Math.abs(n));
const towardsZero = (n: number) => Math.trunc(n);
const halfUp = (n: number) => Math.sign(n) * Math.floor(Math.abs(n) + 0.5);

export const functions: Readonly<Record<string, FunctionKind>> = {
  not: { takes: ['yes/no'], gives: 'yes/no', run: ([a]) => !a },
  contains: {
    takes: ['text', 'text'],
    gives: 'yes/no',
    run: (args) => texts(args)[0]!.includes(texts(args)[1]!),
  },
  'starts with': {
    takes: ['text', 'text'],
    gives: 'yes/no',
    run: (args) => texts(args)[0]!.startsWith(texts(args)[1]!),
  },
  'ends with': {
    takes: ['text', 'text'],
    gives: 'yes/no',
    run: (args) => texts(args)[0]!.endsWith(texts(args)[1]!),
  },
  'string length': { takes: ['text'], gives: 'number', run: ([a]) => signs(a as string).length },
  substring: {
    takes: ['text', 'number', 'number'],
    least: 2,
    gives: 'text',
    run: ([text, from, length], at) => {
      const all = signs(text as string);
      const start = from as number;
      if (start === 0) return fail('Places in a text are counted from 1.', at);
      const begin = start > 0 ? start - 1 : Math.max(0, all.length + start);
      return all.slice(begin, length === undefined ? undefined : begin + Math.max(0, length as number)).join('');
    },
  },
  'upper case': { takes: ['text'], gives: 'text', run: ([a]) => (a as string).toUpperCase() },
  'lower case': { takes: ['text'], gives: 'text', run: ([a]) => (a as string).toLowerCase() },
  number: {
    takes: ['text'],
    gives: 'number',
    run: ([a], at) => (/^\s*-?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?\s*$/i.test(a as string) ? Number(a) : fail(`“${String(a)}” is no number.`, at)),
  },
  string: { takes: [], least: 1, gives: 'text', run: ([a]) => String(a) },
  floor: {
    takes: ['number', 'number'],
    least: 1,
    gives: 'number',
    run: ([a, s = 0]) => atScale(a as number, s as number, Math.floor),
  },
  ceiling: {
    takes: ['number', 'number'],
    least: 1,
    gives: 'number',
    run: ([a, s = 0]) => atScale(a as number, s as number, Math.ceil),
  },
  'round up': number(([a, s]) => atScale(a!, s!, awayFromZero), 2),
  'round down': number(([a, s]) => atScale(a!, s!, towardsZero), 2),
  'round half up': number(([a, s]) => atScale(a!, s!, halfUp), 2),
  abs: number(([a]) => Math.abs(a!), 1),
  min: { takes: ['number'], many: true, gives: 'number', run: (args) => Math.min(...numbers(args)) },
  max: { takes: ['number'], many: true, gives: 'number', run: (args) => Math.max(...numbers(args)) },
  modulo: {
    takes: ['number', 'number'],
    gives: 'number',
    run: ([a, b], at) => {
      const [x, y] = [a as number, b as number];
      if (y === 0) throw new ExpressionError({ code: 'division-by-zero', sentence: 'This divides by zero.', from: at.from ?? 0, to: at.to ?? 0 });
      return modulo(x, y);
    },
  },
};

/** What a call has wrong, or null. */
export function argumentProblem(name: string, types: readonly (ValueType | null)[]): string | null {
  const kind = functions[name];
  if (!kind) return `There is no function “${name}”.`;
  const least = kind.least ?? kind.takes.length;
  const most = name === 'string' ? 1 : kind.many ? Infinity : kind.takes.length;
  if (types.length < least || types.length > most)
    return `“${name}” takes ${least === most ? least : `${least} to ${most === Infinity ? 'many' : most}`} values, not ${types.length}.`;
  for (const [i, type] of types.entries()) {
    const wanted = name === 'string' ? null : kind.takes[Math.min(i, kind.takes.length - 1)]!;
    if (type !== null && wanted !== null && type !== wanted) return `“${name}” wants a ${wanted} here, and this is a ${type}.`;
  }
  return null;
}

export const callFunction = (name: string, args: readonly Value[], at: Partial<At>): Value => {
  const problem = argumentProblem(name, args.map(typeOf));
  if (problem) throw new ExpressionError({ code: 'wrong-type', sentence: problem, from: at.from ?? 0, to: at.to ?? 0 });
  return functions[name]!.run(args, at);
};
