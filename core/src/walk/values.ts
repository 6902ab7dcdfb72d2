import type { Value } from '../expression/ast.ts';
import type { Layer } from '../piece/piece.ts';
import { textsFor, type Pattern } from './texts.ts';

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

/** Whether every value that a person can put into a field is tried, though something is computed with it. */
export const areAllTried = (field: Field): boolean => (stepsOf(field)?.count ?? Infinity) <= MOST_VALUES;

/** What is asked of the value of a field. */
export interface Asked {
  /** The values that it is held against. */
  readonly values: readonly Value[];
  /** Whether it is asked how long a text is. */
  readonly asksLength: boolean;
  /** Something is computed with it. */
  readonly isComputed: boolean;
  readonly patterns: readonly Pattern[];
}

/** One value for each class that comparing with given values can tell apart; where something is computed with it, as many as can be. */
export function* valuesFor(field: Field, { values, asksLength, isComputed, patterns }: Asked): Iterable<Value> {
  if (field.kind === 'choice') return yield* field.options ?? [];
  const numbers = values.filter((value) => typeof value === 'number').sort((a, b) => a - b);
  if (field.kind === 'text')
    return yield* new Set(['', 'abc', ...values.filter((value) => typeof value === 'string'), ...textsFor(patterns, asksLength ? numbers : [])]);
  const between = numbers.slice(1).map((value, i) => (value + numbers[i]!) / 2);
  const near = [...numbers.flatMap((value) => [value - 1, value, value + 1]), ...between];
  const steps = stepsOf(field);
  if (steps) {
    const asked = near.flatMap((value) => [-1, 0, 1, 2].map((more) => Math.floor((value - steps.at(0)) / field.step! + 1e-9) + more));
    const tried = isComputed ? spreadTo(steps.count) : [0, steps.count, ...asked];
    return yield* new Set(tried.map(steps.at));
  }
  const isSlider = field.kind === 'slider';
  const least = field.min ?? (isSlider ? SLIDER.least : Math.min(0, ...near));
  const most = field.max ?? (isSlider ? SLIDER.most : Math.max(10, ...near));
  const whole = Math.floor(most) - Math.ceil(least);
  const more = isComputed && whole >= 0 ? spreadTo(Math.min(whole, MOST_WHOLE)).map((count) => Math.ceil(least) + count) : [];
  yield* new Set([least, most, ...more, ...near.filter((value) => value >= least && value <= most)]);
}

/** Whole numbers beyond these are not tried. */
const MOST_WHOLE = 10_000;

/** The whole numbers from 0 to a greatest one; where these are too many, some that lie evenly between. */
const spreadTo = (most: number): readonly number[] =>
  most <= MOST_VALUES ? Array.from({ length: most + 1 }, (_, i) => i) : Array.from({ length: SPREAD + 1 }, (_, i) => Math.round((i * most) / SPREAD));
