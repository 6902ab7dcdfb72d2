import { valueWords, type Value } from '../expression/ast.ts';
import type { Program } from '../program/program.ts';
import { isComputedWith, patternsIn } from './asked-of.ts';
import { choiceOf } from './choices.ts';
import type { Compared } from './compared.ts';
import { countedIn, type Counted } from './counted.ts';
import { mentionsIn } from './mentions.ts';
import type { Read } from './reads.ts';
import { heardOf } from './shown-only.ts';
import { isVariable, mentions, type IsIt } from './uses.ts';

/**
 * A number that counts one way, or is computed from others, and is only held against given ones: beyond the least and the most of these,
 * whatever it has come to, what can come next is the same; but for what is left of it when it is divided by `period`, where that is asked.
 */
interface Count {
  readonly kind: 'count';
  /** Infinite where it does not count that way. */
  readonly low: number;
  readonly high: number;
  /** 0 where nothing asks what is left of it. */
  readonly period: number;
}

/**
 * A text that steps put given ones behind, as keys of a pad do, and of which is only asked whether it is a given one, and how long it is:
 * where none of these begins with it, nothing is left of it but its length, up to the last that is asked for.
 */
interface Spelling {
  readonly kind: 'spelling';
  readonly texts: readonly string[];
  readonly longest: number;
}

export type Counter = Count | Spelling;

/** How a counter stands that is beyond all that it is held against, as far as that is told; null for one that is not. */
export function beyondOf(counter: Counter, value: unknown): { readonly side: 'over' | 'under' | 'else'; readonly told?: number } | null {
  if (counter.kind === 'spelling') {
    if (typeof value !== 'string' || counter.texts.some((text) => text.startsWith(value))) return null;
    return { side: 'else', told: Math.min([...value].length, counter.longest + 1) };
  }
  const { low, high, period } = counter;
  if (typeof value !== 'number' || (value >= low && value <= high)) return null;
  const side = value > high ? 'over' : 'under';
  return period ? { side, told: restOf(value, period) } : { side };
}

/** What is left of a number, without what binary fractions add. */
const restOf = (value: number, period: number): number => Math.round((value - period * Math.floor(value / period + EPSILON)) * 1e6) / 1e6;

const EPSILON = 1e-9;

/** The same in words, for a value of it; where more is told of it than that it is beyond, the value says it. */
export function beyondWords(counter: Counter, value: Value): string {
  if (counter.kind === 'spelling') return 'something else';
  if (counter.period) return valueWords(value);
  return (value as number) > counter.high ? `more than ${counter.high}` : `less than ${counter.low}`;
}

/**
 * Numbers that are counted up and down, or held against each other, else as counters are: they are followed some steps beyond on either
 * side. `low` and `high` are the least and the most of what they are held against, and `near` how much one may be more than another for
 * that to be asked. A `step` is no smaller than what is added at once, and what lies whole steps apart comes out alike.
 */
export interface Swing {
  readonly low: number;
  readonly high: number;
  readonly near: number;
  readonly step: number;
  /** By ids; two where they are held against each other. */
  readonly initial: ReadonlyMap<string, number>;
  /** What they begin with, and are set to as such. */
  readonly given: ReadonlySet<number>;
}

interface CountersIn {
  readonly counters: ReadonlyMap<string, Counter>;
  readonly swings: readonly Swing[];
  /** What is told of them holds as long as none is less than this. */
  readonly floors: ReadonlyMap<string, number>;
}

/** The variables that only count one way, or are computed, and those that count both ways or are held against another one. */
export function countersIn(program: Program, read: readonly Read[], compared: Compared): CountersIn {
  const counters = new Map<string, Counter>();
  const { mirrored } = mentionsIn(program);
  const free = [...program.variables.values()].filter(({ id, min, max }) => min === undefined && max === undefined && !mirrored.has(id));
  for (const { id, type, initial } of free) {
    if (type !== 'text' || !isSpelt(read, id, isVariable(id))) continue;
    const known = [initial, ...compared.valuesOf(id)];
    const texts = known.filter((value) => typeof value === 'string');
    const longest = Math.max(-1, ...(compared.asksLengthOf(id) ? known.filter((value) => typeof value === 'number') : []));
    counters.set(id, { kind: 'spelling', texts, longest });
  }
  const heard = heardOf(program);
  const numbers = free.flatMap(({ id, type, initial, scene }) =>
    type === 'number' ? { id, initial: initial as number, isPlaced: scene !== null, isHeard: heard.has(id) } : []
  );
  const all = countedIn(read.flatMap(chosenIn), numbers);
  const swings: Swing[] = [];
  for (const counted of all) {
    const count = countOf(counted);
    if (count) counters.set(counted.numbers[0]!.id, count);
    else if (counted.steps.length > 0 || counted.numbers.length > 1) swings.push(swingOf(counted));
  }
  return { counters, swings, floors: new Map(all.flatMap(({ floors }) => [...floors])) };
}

/** What is set to one of several is set to each, and it is asked which. */
function chosenIn(read: Read): readonly Read[] {
  const choice = read.sets === null ? null : choiceOf(read.ast);
  if (!choice) return [read];
  const asked = choice.asked.map((ast): Read => ({ ast, sets: null, isPose: false }));
  return [...asked, ...choice.chosen.flatMap((ast) => chosenIn({ ...read, ast }))];
}

/** A number that counts one way, or is computed; null for any other. */
function countOf({ numbers, steps, isComputed, low, high, period }: Counted): Count | null {
  if (isComputed) return { kind: 'count', low, high, period };
  const ways = new Set(steps.map(Math.sign));
  if (numbers.length > 1 || ways.size !== 1) return null;
  return { kind: 'count', low: ways.has(1) ? -Infinity : low, high: ways.has(1) ? high : Infinity, period };
}

function swingOf({ numbers, steps, given, low, high, near, period }: Counted): Swing {
  const most = Math.max(...steps.map(Math.abs), 0) || 1;
  const step = period ? period * Math.ceil(most / period - EPSILON) : most;
  const initial = new Map(numbers.map(({ id, initial }) => [id, initial] as const));
  // One that is set to what another one was stays a step or two from it.
  return { low, high, near: numbers.length > 1 ? near + 2 * most : near, step, initial, given };
}

/** Whether given texts are put behind it, and nothing is asked of it but what it is and how long. */
function isSpelt(read: readonly Read[], id: string, isIt: IsIt): boolean {
  let isAdded = false;
  for (const { ast, sets } of read) {
    if (sets === id) {
      if (ast.k === 'value') continue;
      const isMore = ast.k === 'op' && ast.op === '+' && ast.a.k === 'ref' && isIt(ast.a.id, ast.a.property) && ast.b.k === 'value';
      if (!isMore) return false;
      isAdded = true;
    } else if (mentions(ast, isIt)) {
      if (sets !== null || isComputedWith(ast, isIt) || patternsIn(ast, isIt).some(({ asks, fold }) => asks !== 'is' || fold)) return false;
    }
  }
  return isAdded;
}
