import { keyOf } from './compared.ts';
import { heldIn } from './held.ts';
import { linearOf, type Linear } from './linear.ts';
import type { Read } from './reads.ts';
import { isVariable, mentions } from './uses.ts';

/**
 * Numbers that are set to given ones, to sums of each other, and to what they hold and something more, and of which nothing is asked but
 * how they, and sums of them, stand to given numbers.
 */

/** A number of which that may be so. */
export interface Numbered {
  readonly id: string;
  readonly initial: number;
  /** It belongs to a part, which can be placed more than once. */
  readonly isPlaced: boolean;
  /** Something waits for it to change. */
  readonly isHeard: boolean;
}

/** One of which it is so, or two that are held against each other. */
export interface Counted {
  readonly numbers: readonly Numbered[];
  /** What is added to them. */
  readonly steps: readonly number[];
  /** It is computed from others alone, so what it holds decides over nothing but what is asked of it. */
  readonly isComputed: boolean;
  /** What they begin with, and are set to. */
  readonly given: ReadonlySet<number>;
  /** The least and the most of what they are held against. */
  readonly low: number;
  readonly high: number;
  /** How much one may be more than the other, for that to be asked. */
  readonly near: number;
  /** What lies whole periods apart leaves the same when it is divided; 0 where nothing asks for that. */
  readonly period: number;
  /** What is said of sums of them holds as long as they are never less than this. */
  readonly floors: ReadonlyMap<string, number>;
}

/** So many that are held against each other are followed. */
const MOST_TOGETHER = 3;

/** By so many numbers, one computed from another, what is asked is followed. */
const MOST_FLOWS = 6;

/** Of the numbers those of which it is so. */
export function countedIn(read: readonly Read[], numbers: readonly Numbered[]): Counted[] {
  const left = new Map(numbers.map((one) => [one.id, one] as const));
  while (left.size) {
    const lost = new Set<string>();
    const counted = new Said(read, left, (id) => lost.add(id)).together();
    if (lost.size === 0) return counted;
    for (const id of lost) left.delete(id);
  }
  return [];
}

/** What is said of one number. */
interface Of {
  readonly steps: number[];
  readonly given: Set<number>;
  /** What it is set to that is computed from others. */
  readonly sources: Sum[];
  /** Where what is asked of it comes out otherwise. */
  readonly ends: number[];
  readonly periods: number[];
  /** Those that it is held against, or set to, and how much one may be more than the other for that to be asked. */
  readonly beside: Set<string>;
  near: number;
  /** It is never less than this; null where nothing depends on that. */
  floor: number | null;
}

interface Sum extends Pick<Linear, 'plus' | 'slack'> {
  readonly terms: readonly { readonly id: string; readonly times: number; readonly of: Of }[];
}

class Said {
  private readonly of: ReadonlyMap<string, Of>;

  constructor(
    read: readonly Read[],
    private readonly numbers: ReadonlyMap<string, Numbered>,
    /** Told of a number with which something else is done, or of which something else is asked. */
    private readonly lose: (id: string) => void
  ) {
    this.of = new Map([...numbers].map(([id, { initial }]) => [id, begun(initial)]));
    const sums: Sum[] = [];
    for (const one of read) {
      if (one.sets !== null) this.readStep(one, one.sets);
      else
        for (const held of heldIn(
          one.ast,
          (path) => this.of.has(keyOf(path, null)),
          (path) => lose(keyOf(path, null))
        )) {
          if (held.kind === 'sum') sums.push(this.sumOf(held.sum)!);
          else this.of.get(keyOf(held.path, null))!.periods.push(held.period);
        }
    }
    for (const sum of sums.filter(({ terms }) => terms.length < 2)) this.hold(sum);
    for (const sum of sums.filter(({ terms }) => terms.length > 1)) this.hold(sum);
    this.followSources();
  }

  private readStep({ ast }: Read, sets: string): void {
    const own = this.of.get(sets);
    const linear = linearOf(ast);
    const sum = linear && this.sumOf(linear);
    const [term] = sum?.terms ?? [];
    const isOfItself = sum?.terms.some(({ id }) => id === sets) ?? false;
    const isStep = isOfItself && sum!.terms.length === 1 && term!.times === 1 && sum!.slack === 0;
    if (!own || !sum || (isOfItself && !isStep)) {
      for (const id of this.of.keys()) if (id === sets || mentions(ast, isVariable(id))) this.lose(id);
    } else if (!term && sum.slack === 0) own.given.add(sum.plus);
    else if (!isStep) own.sources.push(sum);
    else if (sum.plus !== 0) own.steps.push(sum.plus);
  }

  /** A sum of these numbers; null where there is anything else in it. */
  private sumOf({ terms, plus, slack }: Linear): Sum | null {
    const all = [...terms.values()].map(({ ref, times }) => ({
      id: keyOf(ref.id, ref.property),
      times,
      of: this.of.get(keyOf(ref.id, ref.property))!,
    }));
    return all.every(({ of }) => of) ? { terms: all, plus, slack } : null;
  }

  /** A sum is held against 0. */
  private hold(sum: Sum): void {
    const { terms, plus, slack } = sum;
    const [one, other] = terms;
    if (!one) return;
    const ids = new Set(terms.map(({ id }) => id));
    const way = Math.sign(one.times);
    if (!other) one.of.ends.push(...endsOf(one.times, plus, slack));
    else if (ids.size === terms.length && terms.every(({ times }) => Math.sign(times) === way)) {
      // So far as one of them alone takes the sum beyond 0, none of the others takes it back.
      const least = terms.map(({ times, of }) => times * floorOf(of));
      const all = least.reduce((a, b) => a + b, plus);
      for (const [i, { times, of }] of terms.entries()) of.ends.push(...endsOf(times, all - least[i]!, slack));
    } else if (ids.size === 2 && terms.length === 2 && one.times === -other.times) beside(one, other, (Math.abs(plus) + slack) / Math.abs(one.times));
    else for (const id of ids) this.lose(id);
  }

  /** What is asked of a number that is computed is asked of what it is computed from. */
  private followSources(): void {
    const known = new Map<string, string>();
    for (let round = 0; ; round++) {
      let isNew = false;
      for (const [id, of] of this.of) {
        if (of.sources.length === 0) continue;
        const [low, high] = boundsOf([of]);
        if (known.get(id) === `${low} ${high}`) continue;
        if (round === MOST_FLOWS) this.lose(id);
        known.set(id, `${low} ${high}`);
        isNew = true;
        for (const source of of.sources) this.follow(id, of, source, [low, high]);
      }
      if (!isNew || round === MOST_FLOWS) return;
    }
  }

  private follow(id: string, of: Of, source: Sum, ends: readonly number[]): void {
    const [one, other] = source.terms;
    // Two of which one is what the other was, and that are held against each other, or counted on from there, are followed together.
    const isCounted = of.steps.length > 0 || (one !== undefined && of.beside.has(one.id));
    if (!isCounted && of.beside.size === 0 && of.periods.length === 0 && !this.numbers.get(id)!.isHeard)
      for (const end of ends) this.hold({ ...source, plus: source.plus - end });
    else if (one && !other && one.times === 1 && source.slack === 0) beside({ id, of }, one, Math.abs(source.plus));
    else for (const lost of [id, ...source.terms.map((term) => term.id)]) this.lose(lost);
  }

  /** The numbers by those that are held against each other. */
  together(): Counted[] {
    const done = new Set<string>();
    return [...this.of.keys()].flatMap((id): readonly Counted[] => {
      if (done.has(id)) return [];
      // The list grows while it is gone through.
      const ids = [id];
      for (const at of ids) for (const next of this.of.get(at)!.beside) if (!ids.includes(next)) ids.push(next);
      for (const at of ids) done.add(at);
      const counted = this.countedOf(ids);
      if (!counted) ids.forEach(this.lose);
      return counted ? [counted] : [];
    });
  }

  private countedOf(ids: readonly string[]): Counted | null {
    const numbers = ids.map((at) => this.numbers.get(at)!);
    const all = ids.map((at) => this.of.get(at)!);
    const floors = new Map(ids.flatMap((id, i) => (all[i]!.floor === null ? [] : [[id, all[i]!.floor] as const])));
    const isJoint = ids.length > 1;
    const areFollowed = all.every(({ sources }) =>
      sources.every(({ terms }) => terms.length === 1 && terms[0]!.times === 1 && ids.includes(terms[0]!.id))
    );
    if (isJoint && (ids.length > MOST_TOGETHER || numbers.some(({ isPlaced }) => isPlaced) || floors.size > 0 || !areFollowed)) return null;
    const period = all.flatMap(({ periods }) => periods).reduce(commonPeriod, 0);
    if (period > MOST_PERIOD) return null;
    const [low, high] = boundsOf(all);
    return {
      numbers,
      steps: all.flatMap(({ steps }) => steps),
      isComputed: !isJoint && all[0]!.sources.length > 0,
      given: new Set(all.flatMap(({ given }) => [...given])),
      low,
      high,
      near: Math.max(...all.map(({ near }) => near)),
      period,
      floors,
    };
  }
}

const begun = (initial: number): Of => ({
  steps: [],
  given: new Set([initial]),
  sources: [],
  ends: [],
  periods: [],
  beside: new Set(),
  near: 0,
  floor: null,
});

interface Named {
  readonly id: string;
  readonly of: Of;
}

function beside(one: Named, other: Named, near: number): void {
  one.of.beside.add(other.id);
  other.of.beside.add(one.id);
  one.of.near = Math.max(one.of.near, near);
}

/** What a number is taken never to be less than. */
const floorOf = (of: Of): number => (of.floor ??= boundsOf([of])[0]);

/** The least and the most that numbers are given, and are held against. */
function boundsOf(all: readonly Of[]): [low: number, high: number] {
  const ends = all.flatMap(({ given, ends }) => [...given, ...ends]);
  return [Math.min(...ends), Math.max(...ends)];
}

const EPSILON = 1e-9;

/** Where so many times a number, and something more or less, is about 0. */
function endsOf(times: number, plus: number, slack: number): number[] {
  const at = -plus / times;
  const away = slack / Math.abs(times);
  // As a person would write it, too.
  return away ? [at - away - EPSILON, at + away + EPSILON] : [at, Number(at.toPrecision(12))];
}

/** Longer ones are not followed. */
const MOST_PERIOD = 1000;

/** The least that is a whole number of times both, to thousandths; Infinity where there is none. */
function commonPeriod(a: number, b: number): number {
  if (a === 0 || a === b) return b;
  const [x, y] = [a * 1000, b * 1000].map(Math.round) as [number, number];
  if ([x / 1000 - a, y / 1000 - b].some((off) => Math.abs(off) > EPSILON)) return Infinity;
  return (x * y) / divisorOf(x, y) / 1000;
}

const divisorOf = (a: number, b: number): number => (b === 0 ? a : divisorOf(b, a % b));
