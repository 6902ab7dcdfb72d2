import type { RunEvent } from '../run/state.ts';
import type { Here } from './asking.ts';
import type { AtWill } from './at-will.ts';
import type { Clock } from './clock.ts';
import type { Effects } from './effects.ts';
import { MOST_ALIKE } from './hurry.ts';
import type { Memory } from './memory.ts';
import type { Met } from './met.ts';
import type { Reader } from './reader.ts';
import type { Outcome } from './outcome.ts';
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
  /** What came of events in all of them. */
  readonly came: () => Iterable<readonly [event: number, outcome: Outcome]>;
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
  private known: { readonly met: number; readonly isNothing: boolean } | null = null;

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
    const { length } = this.explored.met;
    if (this.known?.met !== length) this.known = { met: length, isNothing: leadsToNothingNew(this.explored, this.leftIn) };
    return this.known.isNothing;
  }
}

/** A row in which nothing is said of what waits, and what does, in order, the same at most so often as is followed. */
interface Kind {
  readonly bare: number;
  readonly waits: readonly number[];
}

/**
 * Whether nothing new comes of what is started more often than is followed before what it started has ended. As often as is followed stands
 * for any number of times as well, then: what is due of it is gone from there, or not; and time is left out, all that waits may be due
 * next. That is more than can be (an abstraction of counters by *many*, and of zones). Where all that comes of anything even so is what was
 * met already, so is all that can come.
 */
function leadsToNothingNew(explored: Explored, leftIn: Iterable<number>): boolean {
  const { met, reader } = explored;
  const known = new Set(Array.from(explored.came(), ([event, outcome]) => wordsOf(explored, event, outcome)));
  const { column } = explored.memory.times;
  const queue = new Map<string, Kind>();
  for (const state of leftIn) {
    const row = reader.rowOf.at(state);
    const kind = { bare: column < 0 ? row : reader.rows.with(row, [column], [0]), waits: many(reader.zoneOf(state).waits) };
    queue.set(keyOf(kind), kind);
  }
  const tops = new Map<string, Set<string>>();
  for (let state = 0; state < met.length; state++) {
    const [frame, top] = [met.frameOf(state), reader.stacks.topOf(reader.stackOf.at(state))];
    tops.set(frame, (tops.get(frame) ?? new Set<string>()).add(top));
  }
  for (const kind of queue.values())
    for (const next of kindsAfter(explored, kind, { tops, known })) {
      if (next === null || queue.size > MOST_KINDS) return false;
      const key = keyOf(next);
      if (!queue.has(key)) queue.set(key, next);
    }
  return true;
}

/** Of more it takes long. */
const MOST_KINDS = 10_000;

const keyOf = ({ bare, waits }: Kind): string => `${bare} ${waits.join()}`;

const isMany = (waits: readonly number[], wait: number): boolean => waits.filter((one) => one === wait).length >= MOST_ALIKE;

/** In order, none more often than stands for any number of times. */
function many(waits: readonly number[]): readonly number[] {
  const sorted = waits.toSorted((a, b) => a - b);
  return sorted.filter((wait, i) => i < MOST_ALIKE || sorted[i - MOST_ALIKE] !== wait);
}

/** By frames what lies on the top of back stacks there, and all that came of events, as texts to compare. */
interface Known {
  readonly tops: ReadonlyMap<string, ReadonlySet<string>>;
  readonly known: ReadonlySet<string>;
}

/** All that can come of one, whatever its frame was come to from; null for what did not come before, or cannot be said. */
function* kindsAfter(explored: Explored, kind: Kind, { tops, known }: Known): Iterable<Kind | null> {
  const { reader } = explored;
  for (const top of tops.get(reader.frameIn(kind.bare)) ?? []) yield* kindsOver(explored, kind, reader.hereOf(kind.bare, EMPTY, null, top), known);
}

function* kindsOver(explored: Explored, { bare, waits }: Kind, here: Here, known: ReadonlySet<string>): Iterable<Kind | null> {
  const { memory, reader, clock, effects, atWill, isAllowed } = explored;
  const led = function* (event: number, left: readonly (readonly number[])[]): Iterable<Kind | null> {
    const effect = effects.of(atWill.outcomeOf(event, here));
    const { outcome, columns, values } = effect;
    if (effects.isOutside(effect) || outcome.leaves) return;
    if (outcome.endless.length > 0 || outcome.isHurry || outcome.isDeep) return yield null;
    if (!effect.isUsed && !known.has(wordsOf(explored, event, outcome))) return yield null;
    const row = reader.rows.with(bare, columns, values);
    for (const one of left) yield { bare: row, waits: many(clock.waitsAfter(outcome, one)) };
  };
  for (const event of atWill.eventsIn(here, bare)) if (isAllowed(memory.events[event]!)) yield* led(event, [waits]);
  for (const wait of new Set(waits)) {
    const without = waits.toSpliced(waits.indexOf(wait), 1);
    yield* led(memory.dueNumber(wait), isMany(waits, wait) ? [without, waits] : [without]);
  }
}

/** What came of an event, as a text to compare: what was forgotten, and asked again, is another answer. */
const wordsOf = ({ atWill }: Explored, event: number, outcome: Outcome): string => {
  const { branches, acted, clearing, entered } = outcome;
  return JSON.stringify([event, branches, acted, clearing, entered, atWill.wordsFor(outcome, NOTHING)]);
};

const NOTHING: ReadonlySet<number> = new Set();
