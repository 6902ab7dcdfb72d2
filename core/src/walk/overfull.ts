import type { RunEvent, RunState } from '../run/state.ts';
import type { Here } from './asking.ts';
import type { AtWill } from './at-will.ts';
import type { Clock } from './clock.ts';
import type { Effects } from './effects.ts';
import { MOST_ALIKE } from './hurry.ts';
import type { Memory } from './memory.ts';
import type { Met } from './met.ts';
import type { Reader } from './reader.ts';
import { coreWords, type Outcome, type Started } from './outcome.ts';
import { INITIAL } from './slots.ts';
import { EMPTY } from './stacks.ts';

/** What is known of the states that were explored. */
export interface Explored {
  readonly memory: Memory;
  readonly reader: Reader;
  readonly met: Met;
  readonly clock: Clock;
  readonly effects: Effects;
  readonly atWill: AtWill;
  readonly isAllowed: (event: RunEvent) => boolean;
  /** Whether all that is seen in a row while something waits is known. */
  readonly isSeen: (row: number, here: Here, waits: readonly Started[]) => boolean;
  /** What came of events in all of them. */
  readonly came: () => Iterable<Outcome>;
}

/** A row that has to be met otherwise, as what leads to it would start something more often than is followed; -1 for what cannot be. */
export interface Owed {
  readonly state: number;
  readonly row: number;
}

/** What would be started more often than is followed: in which states, and whether anything new could come of that. */
export class Overfull {
  private owed: Owed[] = [];
  private readonly leftIn = new Set<number>();
  private known: { readonly met: number; readonly graph: Graph | null } | null = null;
  private told: { readonly graph: Graph; readonly beyond: ReadonlyMap<number, readonly number[]> } | null = null;

  constructor(private readonly explored: Explored) {}

  /** Something is not followed in a state. */
  leave(state: number): void {
    this.leftIn.add(state);
  }

  /** The same, unless the row that it leads to is met otherwise: no more would wait in it. */
  owe(owed: Owed): void {
    this.owed.push(owed);
  }

  /** What was owed and is not met, once all was followed. */
  settle(isMet: (owed: Owed) => boolean): readonly Owed[] {
    const left = this.owed.filter((one) => one.row < 0 || !isMet(one));
    this.owed = [];
    return left;
  }

  /** Whether all that could come of it is known, as of now. */
  get isNothingNew(): boolean {
    return this.graph !== null;
  }

  private get graph(): Graph | null {
    const { length } = this.explored.met;
    if (this.known?.met !== length) this.known = { met: length, graph: graphFrom(this.explored, this.leftIn) };
    return this.known.graph;
  }

  /**
   * For states in which something is not followed, others that are at least like all that it can lead to, but for what waits; without those
   * of which that cannot be said. Nobody may go back anywhere in the piece.
   */
  beyond(states: () => Iterable<number>): ReadonlyMap<number, readonly number[]> {
    const { graph } = this;
    if (!graph) return NOTHING_BEYOND;
    // Asked for after every edit: the same as long as nothing more was met.
    if (this.told?.graph !== graph) this.told = { graph, beyond: beyondOf(this.explored, graph, states()) };
    return this.told.beyond;
  }
}

export const NOTHING_BEYOND: ReadonlyMap<number, readonly number[]> = new Map();

/**
 * A row in which nothing is said of what waits for its time, nor how far playheads have come, and what does, in order, the same at most so
 * often as is followed. Of playheads it is said how long they take to their stop, of all else only whether it is due at once.
 */
interface Kind {
  readonly bare: number;
  readonly waits: readonly Started[];
}

/**
 * All that comes of what is started more often than is followed before what it started has ended, if nothing new does; null where anything
 * new could, or where that cannot be said. As often as is followed stands for any number of times as well, then: what is due of it is gone
 * from there, or not; and time is left out, all that waits may be due next, but for what begins to wait for no time at all. That is more
 * than can be (an abstraction of counters by *many*, and of zones). Where all that comes of anything even so is what was met already, so is
 * all that can come.
 */
function graphFrom(explored: Explored, leftIn: Iterable<number>): Graph | null {
  const { met, reader } = explored;
  const words = new Set(['']);
  const written = new Map<number, Set<number>>();
  for (const outcome of explored.came()) {
    for (const one of wordsOf(explored, outcome)) words.add(one);
    outcome.columns.forEach((column, i) => written.set(column, (written.get(column) ?? new Set<number>()).add(outcome.values[i]!)));
  }
  const graph = new Map<string, Come>();
  const add = (kind: Kind): string => {
    const key = keyOf(kind);
    if (!graph.has(key)) graph.set(key, { kind, next: new Set() });
    return key;
  };
  for (const state of leftIn) add(kindIn(explored, state));
  const tops = new Map<string, Set<string>>();
  for (let state = 0; state < met.length; state++) {
    const [frame, top] = [met.frameOf(state), reader.stacks.topOf(reader.stackOf.at(state))];
    tops.set(frame, (tops.get(frame) ?? new Set<string>()).add(top));
  }
  for (const { kind, next } of graph.values())
    for (const after of kindsAfter(explored, kind, { tops, words, written })) {
      if (after === null || graph.size > MOST_KINDS) return null;
      next.add(add(after));
    }
  return graph;
}

/** What leads to what, by its words. */
type Graph = ReadonlyMap<string, Come>;

interface Come {
  readonly kind: Kind;
  readonly next: Set<string>;
}

/** So many steps are taken at most to tell what states lead to. */
const MOST_TOLD = 3_000_000;

function beyondOf(explored: Explored, graph: Graph, states: Iterable<number>): ReadonlyMap<number, readonly number[]> {
  const found = new Map<number, readonly number[]>();
  const likes = likesOf(explored);
  const known = new Map<string, readonly number[] | null>();
  for (const state of states) {
    const key = keyOf(kindIn(explored, state));
    if (!known.has(key)) known.set(key, graph.has(key) && known.size * graph.size < MOST_TOLD ? likesFrom(explored, graph, key, likes) : null);
    const ends = known.get(key);
    if (ends) found.set(state, ends);
  }
  return found;
}

/** A state for each row in which nothing is said of what waits for whatever it does: one in which nothing waits, if there is any. */
function likesOf(explored: Explored): ReadonlyMap<number, number> {
  const { met, reader } = explored;
  const likes = new Map<number, number>();
  for (let state = 0; state < met.length; state++) {
    const row = reader.rowOf.at(state);
    const plain = plainRow(explored, row);
    if (plain === row || !likes.has(plain)) likes.set(plain, state);
  }
  return likes;
}

/** The columns that say nothing but what waits, and how far playheads have come. */
const waitingColumns = ({ memory: { slots, times } }: Explored): readonly number[] =>
  [times.column, slots.activities.column, ...slots.passing.map(({ column }) => column)].filter((column) => column >= 0);

function plainRow(explored: Explored, row: number): number {
  const columns = waitingColumns(explored);
  return explored.reader.rows.with(row, columns, Array<number>(columns.length).fill(INITIAL));
}

/** Those like all that one leads to, however far; null where one of them is like none. */
function likesFrom(explored: Explored, graph: Graph, from: string, likes: ReadonlyMap<number, number>): readonly number[] | null {
  const reached = new Set([from]);
  const found = new Set<number>();
  for (const key of reached) {
    const { kind, next } = graph.get(key)!;
    for (const one of next) reached.add(one);
    // While something is due at once nobody is there.
    if (explored.clock.firstAtOnce(kind.waits)) continue;
    const like = likes.get(plainRow(explored, kind.bare));
    if (like === undefined) return null;
    found.add(like);
  }
  return [...found];
}

function kindIn(explored: Explored, state: number): Kind {
  const { reader } = explored;
  const { waits, spans } = reader.zoneOf(state);
  return kindOf(
    explored,
    reader.rowOf.at(state),
    waits.map((wait, i) => ({ wait, span: Math.max(1, spans[i]!) }))
  );
}

/** Of more it takes long. */
const MOST_KINDS = 10_000;

const keyOf = ({ bare, waits }: Kind): string => `${bare} ${waits.map(({ wait, span }) => `${wait} ${span}`).join()}`;

/** Of what waits for the end of a section it is left out in which order it began to, and how often beyond what stands for any number of times. */
function kindOf(explored: Explored, row: number, waits: readonly Started[]): Kind {
  const { memory, reader, clock } = explored;
  const { activities } = memory.slots;
  const { column, values } = activities;
  const plain = plainRow(explored, row);
  const number = column < 0 ? INITIAL : reader.rows.at(row, column);
  const ending = () => memory.slots.numberOf(activities, inAnyOrder(values[number] as RunState['activities']));
  return {
    bare: number === INITIAL ? plain : reader.rows.with(plain, [column], [ending()]),
    waits: many(waits.map(({ wait, span }) => ({ wait, span: clock.isOfHead(wait) ? span : Math.min(1, span) }))),
  };
}

function inAnyOrder(activities: RunState['activities']): RunState['activities'] {
  const sorted = activities.map((one) => [JSON.stringify({ ...one, id: 0 }), one] as const).sort(([a], [b]) => (a < b ? -1 : 1));
  return sorted.flatMap(([words, one], i) => (i < MOST_ALIKE || sorted[i - MOST_ALIKE]![0] !== words ? [one] : []));
}

const isOne = (one: Started, other: Started): boolean => one.wait === other.wait && one.span === other.span;

const isMany = (waits: readonly Started[], one: Started): boolean => waits.filter((other) => isOne(one, other)).length >= MOST_ALIKE;

/** In order, none more often than stands for any number of times. */
function many(waits: readonly Started[]): readonly Started[] {
  const sorted = waits.toSorted((a, b) => a.wait - b.wait || a.span - b.span);
  return sorted.filter((one, i) => i < MOST_ALIKE || !isOne(one, sorted[i - MOST_ALIKE]!));
}

/** What was met. */
interface Known {
  /** By frames what lies on the top of back stacks there. */
  readonly tops: ReadonlyMap<string, ReadonlySet<string>>;
  /** All that came of events, as texts to compare. */
  readonly words: ReadonlySet<string>;
  /** All that it wrote, by columns. */
  readonly written: ReadonlyMap<number, ReadonlySet<number>>;
}

/** All that can come of one, whatever its frame was come to from; null for what did not come before, or cannot be said. */
function* kindsAfter(explored: Explored, kind: Kind, known: Known): Iterable<Kind | null> {
  for (const top of known.tops.get(explored.reader.frameIn(kind.bare)) ?? []) yield* kindsOver(explored, kind, top, known);
}

function* kindsOver(explored: Explored, { bare, waits }: Kind, top: string, known: Known): Iterable<Kind | null> {
  const { memory, reader, clock, effects, atWill, isAllowed, isSeen } = explored;
  const here = reader.hereOf(bare, EMPTY, null, top);
  const atOnce = clock.firstAtOnce(waits);
  if (!atOnce && !isSeen(bare, here, waits)) return yield null;
  const led = function* (event: number, here: Here, left: readonly (readonly Started[])[]): Iterable<Kind | null> {
    const effect = effects.of(atWill.outcomeOf(event, here));
    const { outcome, columns, values } = effect;
    if (effects.isOutside(effect) || outcome.leaves) return;
    if (outcome.endless.length > 0 || outcome.isDeep) return yield null;
    for (const one of left) if (clock.isAnyAsked(one, outcome, here)) return yield null;
    if (!effect.isUsed && !isKnown(explored, known, outcome) && !isKnown(explored, known, changesOf(explored, bare, outcome))) return yield null;
    const row = reader.rows.with(bare, columns, values);
    for (const one of left) yield kindOf(explored, row, clock.waitsAfter(outcome, one));
  };
  if (!atOnce) for (const event of atWill.eventsIn(here, bare)) if (isAllowed(memory.events[event]!)) yield* led(event, here, [waits]);
  for (const [at, one] of waits.entries()) {
    if ((at > 0 && isOne(one, waits[at - 1]!)) || (atOnce && !atOnce.some((first) => isOne(first, one)))) continue;
    const without = waits.toSpliced(at, 1);
    const passed = clock.passedBy(one);
    const then = passed ? reader.hereOf(bare, EMPTY, passed, top) : here;
    yield* led(memory.dueNumber(one.wait), then, isMany(waits, one) ? [without, waits] : [without]);
  }
}

/** An outcome without what it leaves as it is in a row: what was asked before more was told apart does not say that of what is told since. */
function changesOf({ reader: { rows } }: Explored, row: number, outcome: Outcome): Outcome {
  const changed = outcome.columns.flatMap((column, i) => (rows.at(row, column) === outcome.values[i] ? [] : i));
  return { ...outcome, columns: changed.map((i) => outcome.columns[i]!), values: changed.map((i) => outcome.values[i]!) };
}

function isKnown(explored: Explored, { words, written }: Known, outcome: Outcome): boolean {
  const { columns, values } = outcome;
  const waiting = waitingColumns(explored);
  const isMet = (column: number, i: number) => waiting.includes(column) || values[i] === INITIAL || written.get(column)?.has(values[i]!);
  return wordsOf(explored, outcome).every((one) => words.has(one)) && columns.every(isMet);
}

/** All that is told of what came of an event, as texts to compare, but for what it writes. */
function wordsOf({ reader }: Explored, outcome: Outcome): readonly string[] {
  const { branches, acted, clearing, entered, failed } = outcome;
  const isAsked = (column: number) => column === reader.frameColumn || column === reader.overlaysColumn;
  const told = Object.entries({ branches, acted, clearing, entered, failed }).flatMap(([what, all]) => all.map((one) => `${what} ${String(one)}`));
  return [...told, coreWords({ ...outcome, isHurry: false }, isAsked, () => [])];
}
