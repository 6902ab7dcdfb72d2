import type { Ast, Value } from '../expression/ast.ts';
import { compileAst, type Compiled, type Environment } from '../expression/compile.ts';
import type { Layer } from '../piece/piece.ts';
import { textsFor, USUAL, type Pattern } from './texts.ts';

/** What a person can put into fields, as far as it is tried. */

export type Field = NonNullable<Layer['field']>;

/** So many values of a field are tried one by one, where something is computed with them. */
const MOST_VALUES = 100;

/** Of more, so many that lie evenly between the least and the greatest. */
const SPREAD = 20;

/** As browsers have it for sliders of which nobody says how far they go. */
const SLIDER = { least: 0, most: 100 };

/** The values of a slider that goes by steps: the least, a step, and how many steps there are; null for what goes anywhere. */
function stepsOf({
  kind,
  min = SLIDER.least,
  max = SLIDER.most,
  step,
}: Field): { readonly at: (count: number) => number; readonly count: number } | null {
  if (kind !== 'slider' || step === undefined) return null;
  const count = Math.max(0, Math.floor((max - min) / step + 1e-9));
  // Without what binary fractions add.
  return { at: (many) => Number((min + Math.min(count, Math.max(0, many)) * step).toFixed(10)), count };
}

/** What a person can put into a field for a number: from the least to the most where these are given, and by which steps. */
export interface Range {
  readonly least: number | undefined;
  readonly most: number | undefined;
  readonly steps: { readonly at: (count: number) => number; readonly count: number } | null;
}

export function rangeOf(field: Field): Range {
  const isSlider = field.kind === 'slider';
  const steps = stepsOf(field);
  const [least, most] = [field.min ?? (isSlider ? SLIDER.least : undefined), field.max ?? (isSlider ? SLIDER.most : undefined)];
  return { least, most: steps ? steps.at(steps.count) : most, steps };
}

/** Whether every value that a person can put into a field is tried, though something is computed with it. */
export const areAllTried = (field: Field, isOfMany: boolean): boolean => (stepsOf(field)?.count ?? Infinity) <= mostTried(isOfMany);

const mostTried = (isOfMany: boolean): number => (isOfMany ? SPREAD : MOST_VALUES);

/** What is asked of the value of a field. */
export interface Asked {
  /** The values that it is held against. */
  readonly values: readonly Value[];
  /** Whether it is asked how long a text is. */
  readonly asksLength: boolean;
  /** Of a text: which number it is. */
  readonly isNumber: boolean;
  /** Something is computed with it. */
  readonly isComputed: boolean;
  readonly patterns: readonly Pattern[];
  /** One value for each way in which all that is asked of it comes out, where that is known. */
  readonly classes: readonly Value[] | null;
  /** Something is computed with others, too, of which not all that counts is known: then fewer values of each are tried. */
  readonly isOfMany: boolean;
  /** So many other texts that a person writes is it held against. */
  readonly others: number;
  /** Something stands, is as large or is seen by it: places between the ends are tried, too. */
  readonly isPlacing: boolean;
}

/** What something only stands by is tried in so many even steps from the least to the most. */
const PLACES = 4;

/** One value for each class that comparing with given values can tell apart; where something is computed with it, as many as can be. */
export function* valuesFor(field: Field, asked: Asked): Iterable<Value> {
  if (!asked.isPlacing) return yield* valuesAsked(field, asked);
  const values = [...valuesAsked(field, asked)];
  const numbers = values.filter((value) => typeof value === 'number');
  const [least, most] = [Math.min(...numbers), Math.max(...numbers)];
  const { steps } = rangeOf(field);
  const placed = Array.from({ length: PLACES + 1 }, (_, i) =>
    steps ? steps.at(Math.round((steps.count * i) / PLACES)) : least + ((most - least) * i) / PLACES
  );
  yield* new Set([...values, ...placed]);
}

function* valuesAsked(field: Field, { values, asksLength, isComputed, isNumber, isOfMany, patterns, classes, others }: Asked): Iterable<Value> {
  if (field.kind === 'choice') return yield* field.options ?? [];
  if (classes) return yield* classes;
  const numbers = values.filter((value) => typeof value === 'number').sort((a, b) => a - b);
  const between = numbers.slice(1).map((value, i) => (value + numbers[i]!) / 2);
  const near = [...numbers.flatMap((value) => [value - 1, value, value + 1]), ...between];
  if (field.kind === 'text')
    return yield* new Set([
      '',
      USUAL,
      ...textsIn(values),
      ...textsFor(patterns, asksLength ? numbers : [], others + 1),
      ...(isNumber ? near.map(String) : []),
      ...othersThan(textsIn(values), others),
    ]);
  const { steps, least = Math.min(0, ...near), most = Math.max(10, ...near) } = rangeOf(field);
  if (steps) {
    const asked = near.flatMap((value) => [-1, 0, 1, 2].map((more) => Math.floor((value - steps.at(0)) / field.step! + 1e-9) + more));
    const tried = isComputed ? spreadTo(steps.count, isOfMany) : [0, steps.count, ...asked];
    return yield* new Set(tried.map(steps.at));
  }
  const whole = Math.floor(most) - Math.ceil(least);
  const more = isComputed && whole >= 0 ? spreadTo(Math.min(whole, MOST_WHOLE), isOfMany).map((count) => Math.ceil(least) + count) : [];
  yield* new Set([least, most, ...more, ...near.filter((value) => value >= least && value <= most)]);
}

const textsIn = (values: readonly Value[]): string[] => values.flatMap((value) => (typeof value === 'string' ? value : []));

/** Texts that nothing names, one more than there are others: so all of them can hold different ones that are named nowhere. */
function othersThan(named: readonly string[], others: number): string[] {
  if (others === 0) return [];
  const free = [USUAL, 'Skarra', 'Inne', 'Tolm', ...Array.from({ length: named.length + others }, (_, i) => `abc ${i}`)];
  return free.filter((text) => !named.includes(text)).slice(0, others + 1);
}

/** So many values of a slider are asked, to find one for each way in which what is asked of them comes out. */
const MOST_ASKED = 10_000;

/** One value of a field for each way in which expressions that speak of it alone come out; null where there are too many. */
export function classesOf(field: Field, asked: readonly Ast[]): readonly Value[] | null {
  const steps = stepsOf(field);
  if (!steps || steps.count > MOST_ASKED) return null;
  const computed = asked.map(compileAst);
  const found = new Map<string, number>();
  for (let count = 0; count <= steps.count; count++) {
    const value = steps.at(count);
    const answers = JSON.stringify(computed.map((compute) => answerIn(compute, { read: () => value, nameOf: () => '', special: () => 0 })));
    if (found.has(answers)) continue;
    found.set(answers, value);
    if (found.size > MOST_VALUES) return null;
  }
  return [...new Set([steps.at(0), steps.at(steps.count), ...found.values()])];
}

/** What an expression gives; null where it gives none. */
export function answerIn(compute: Compiled, environment: Environment): Value | null {
  try {
    return compute(environment);
  } catch {
    return null;
  }
}

/** Whole numbers beyond these are not tried. */
const MOST_WHOLE = 10_000;

/** The whole numbers from 0 to a greatest one; where these are too many, some that lie evenly between. */
const spreadTo = (most: number, isOfMany: boolean): readonly number[] =>
  most <= mostTried(isOfMany)
    ? Array.from({ length: most + 1 }, (_, i) => i)
    : Array.from({ length: SPREAD + 1 }, (_, i) => Math.round((i * most) / SPREAD));
