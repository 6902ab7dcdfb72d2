import type { Ast } from '../expression/ast.ts';
import type { Program } from '../program/program.ts';
import { isComputedWith, patternsIn } from './asked-of.ts';
import type { Compared } from './compared.ts';
import { linearOf } from './linear.ts';
import { mentionsIn } from './mentions.ts';
import type { Read } from './reads.ts';
import { isVariable, mentions, type IsIt } from './uses.ts';

/**
 * A number that steps add to, or take from, or set to given ones, and that is only held against given ones: from the last of these on,
 * whatever it has come to, what can come next is the same.
 */
interface Count {
  readonly side: 'over' | 'under';
  readonly last: number;
}

/**
 * A text that steps put given ones behind, as keys of a pad do, and of which is only asked whether it is a given one, and how long it is:
 * where none of these begins with it, nothing is left of it but its length, up to the last that is asked for.
 */
interface Spelling {
  readonly side: 'else';
  readonly texts: readonly string[];
  readonly longest: number;
}

export type Counter = Count | Spelling;

/** How a counter stands that is beyond all that it is held against, as far as that is told; null for one that is not. */
export function beyondOf(counter: Counter, value: unknown): { readonly side: Counter['side']; readonly length?: number } | null {
  const { side } = counter;
  if (side !== 'else') return typeof value === 'number' && (side === 'over' ? value > counter.last : value < counter.last) ? { side } : null;
  if (typeof value !== 'string' || counter.texts.some((text) => text.startsWith(value))) return null;
  return { side, length: Math.min([...value].length, counter.longest + 1) };
}

/** The same in words. */
export const beyondWords = (counter: Counter): string =>
  counter.side === 'else' ? 'something else' : `${counter.side === 'over' ? 'more' : 'less'} than ${counter.last}`;

/** A number that steps of one size are added to and taken from, else as a counter: it is followed some steps beyond on either side. */
export interface Swing {
  readonly low: number;
  readonly high: number;
  readonly step: number;
  readonly initial: number;
  /** What it begins with, and is set to as such. */
  readonly given: ReadonlySet<number>;
}

/** The variables that only count one way, and those that count both ways. */
export function countersIn(
  program: Program,
  read: readonly Read[],
  compared: Compared
): { readonly counters: ReadonlyMap<string, Counter>; readonly swings: ReadonlyMap<string, Swing> } {
  const counters = new Map<string, Counter>();
  const swings = new Map<string, Swing>();
  const { mirrored } = mentionsIn(program);
  for (const { id, type, min, max, initial } of program.variables.values()) {
    if (min !== undefined || max !== undefined || mirrored.has(id)) continue;
    const isIt = isVariable(id);
    if (type === 'text' && isSpelt(read, id, isIt)) {
      const known = [initial, ...compared.valuesOf(id)];
      const texts = known.filter((value) => typeof value === 'string');
      const longest = Math.max(-1, ...(compared.asksLengthOf(id) ? known.filter((value) => typeof value === 'number') : []));
      counters.set(id, { side: 'else', texts, longest });
    }
    if (type !== 'number') continue;
    const steps = stepsIn(read, id, isIt)?.filter((step) => step !== 0) ?? [];
    if (steps.length === 0) continue;
    const numbers = [initial, ...compared.valuesOf(id)].filter((value) => typeof value === 'number');
    const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
    const sizes = new Set(steps.map(Math.abs));
    if (steps.every((step) => step > 0)) counters.set(id, { side: 'over', last: high });
    else if (steps.every((step) => step < 0)) counters.set(id, { side: 'under', last: low });
    else if (sizes.size === 1)
      swings.set(id, { low, high, step: [...sizes][0]!, initial: initial as number, given: givenTo(read, id).add(initial as number) });
  }
  return { counters, swings };
}

const givenTo = (read: readonly Read[], id: string): Set<number> =>
  new Set(read.flatMap(({ ast, sets }) => (sets === id && ast.k === 'value' && typeof ast.value === 'number' ? [ast.value] : [])));

/** What is added to a variable wherever something is; null where it is set to, or asked about, anything else but given numbers. */
function stepsIn(read: readonly Read[], id: string, isIt: IsIt): number[] | null {
  const steps: number[] = [];
  for (const { ast, sets } of read) {
    if (sets === id) {
      if (ast.k === 'value') continue;
      const step = stepOf(ast, isIt);
      if (step === null) return null;
      steps.push(step);
    } else if (mentions(ast, isIt) && (sets !== null || isComputedWith(ast, isIt))) return null;
  }
  return steps;
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
      if (sets !== null || isComputedWith(ast, isIt) || patternsIn(ast, isIt).some(({ asks }) => asks !== 'is')) return false;
    }
  }
  return isAdded;
}

function stepOf(ast: Ast, isIt: IsIt): number | null {
  const linear = linearOf(ast);
  return linear?.of && linear.times === 1 && isIt(linear.of.id, linear.of.property) ? linear.plus : null;
}
