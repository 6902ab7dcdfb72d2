import type { RunEvent } from '../run/state.ts';
import type { Asking, Here } from './asking.ts';
import type { Memory } from './memory.ts';
import type { Due } from './clock.ts';
import { coreWords, type Outcome } from './outcome.ts';
import type { Reader } from './reader.ts';
import { INITIAL } from './slots.ts';
import { EMPTY } from './stacks.ts';

/**
 * What can be set at will where one is: what a field holds, a box that is checked or not. While nothing else changes, and without any time,
 * it can be brought from each of its values to each other one. A state and those that differ from it in nothing else are one then: whatever
 * can be done in one of them can be done in all, after what it takes to bring it about. This is the weak bisimulation of the field, where
 * what only sets such things is silent.
 */

/** Columns that belong together; none of them says that something waits. */
export type Group = ReadonlySet<number>;

/** What comes of an event in a row, as one text to compare. */
type WordsOf = (event: number, row: number, stack: number, passed?: ReadonlyMap<number, number> | null) => string;

/** So many values of what is set at will are followed. */
const MOST_ROWS = 256;

export class AtWill {
  private readonly silent = new Map<Group, (boolean | undefined)[]>();
  private readonly known = new Map<Group, Map<number, readonly number[] | null>>();
  /** As of what all this is known. */
  private version = -1;

  constructor(
    private readonly memory: Memory,
    private readonly reader: Reader,
    private readonly asking: () => Asking,
    private readonly isAllowed: (event: RunEvent) => boolean
  ) {}

  /** The groups of which anything can be set in a row. */
  setIn(row: number, groups: readonly Group[]): readonly Group[] {
    if (groups.length === 0) return groups;
    this.asOfNow();
    const here = this.reader.hereOf(row, EMPTY);
    const outcomes = this.eventsIn(here, row).flatMap((event) => (this.isAllowed(this.memory.events[event]!) ? this.outcomeOf(event, here) : []));
    return groups.filter((group) => outcomes.some((outcome) => this.isSilent(outcome, group)));
  }

  /** The rows that can be come to from one by what changes nothing but a group, that row first; null where they are too many. */
  rowsFrom(row: number, group: Group): readonly number[] | null {
    this.asOfNow();
    let known = this.known.get(group);
    if (!known) this.known.set(group, (known = new Map<number, readonly number[] | null>()));
    let rows = known.get(row);
    if (rows === undefined) known.set(row, (rows = this.followed(row, group)));
    return rows;
  }

  /**
   * Holds rows against each other: gives for a row the columns of a group that are not set at will in it, none where all are. They are where
   * the same can come about as where they are as they begin, once they are set to whatever they can be set to from there, and the same
   * comes of what is due.
   */
  heldAgainst(group: Group, duesIn: (row: number) => readonly Pick<Due, 'event' | 'passed'>[]): (row: number, stack: number) => readonly number[] {
    const { rows } = this.reader;
    const columns = [...group];
    const words = new Map<Outcome, string>();
    const wordsOf: WordsOf = (event, row, stack, passed = null) => {
      const outcome = this.outcomeOf(event, this.reader.hereOf(row, stack, passed));
      let found = words.get(outcome);
      if (found === undefined) words.set(outcome, (found = this.wordsFor(outcome, group)));
      return found;
    };
    const isAllOne = (row: number, other: number, stack: number): boolean => {
      const dues = duesIn(row);
      if (dues.some(({ event, passed }) => wordsOf(event, row, stack, passed) !== wordsOf(event, other, stack, passed))) return false;
      const [own, others] = [row, other].map((one) => this.comingFrom(one, stack, group, wordsOf));
      return !!own && !!others && own.size === others.size && [...own].every((one) => others.has(one));
    };
    const asBegun = (row: number, columns: readonly number[]) => rows.with(row, columns, Array<number>(columns.length).fill(INITIAL));
    return (row, stack) => {
      const first = asBegun(row, columns);
      if (first === row || isAllOne(row, first, stack)) return [];
      const unlike = columns.filter((column) => rows.at(row, column) !== INITIAL && !isAllOne(row, asBegun(row, [column]), stack));
      return unlike.length ? unlike : columns;
    };
  }

  /** What can come about from a row on, once a group is set to whatever it can be: events, with what they come to in words; null for too much. */
  private comingFrom(row: number, stack: number, group: Group, wordsOf: WordsOf): ReadonlySet<string> | null {
    const rows = this.rowsFrom(row, group);
    if (!rows) return null;
    const coming = new Set<string>();
    for (const one of rows)
      for (const event of this.eventsIn(this.reader.hereOf(one, stack), one)) {
        const words = this.isAllowed(this.memory.events[event]!) ? wordsOf(event, one, stack) : '';
        if (words !== '') coming.add(`${event} ${words}`);
      }
    return coming;
  }

  /** What an outcome does to all but some of what there is, as one text to compare. */
  wordsFor(outcome: Outcome, but: Group): string {
    const isOwn = (column: number) => !but.has(column);
    return coreWords(outcome, isOwn, () => this.memory.times.endedBy(outcome, isOwn));
  }

  /** What is known may be so no more since something was forgotten. */
  private asOfNow(): void {
    if (this.version === this.memory.version) return;
    this.version = this.memory.version;
    this.known.clear();
    this.silent.clear();
  }

  private followed(row: number, group: Group): readonly number[] | null {
    const rows = new Set([row]);
    for (const one of rows)
      for (const { to } of this.movesIn(this.reader.hereOf(one, EMPTY), one, [group])) if (rows.add(to).size > MOST_ROWS) return null;
    return [...rows];
  }

  /** What can be done from a row on until something is so that is asked of rows as they are read; null where nothing brings that about. */
  wayTo(row: number, back: string, groups: readonly Group[], isIt: (here: Here) => boolean): RunEvent[] | null {
    const came = new Map<number, { readonly from: number; readonly event: RunEvent } | null>([[row, null]]);
    for (const at of came.keys()) {
      const here = this.reader.hereOf(at, EMPTY, null, back);
      if (isIt(here)) {
        const events: RunEvent[] = [];
        for (let last = came.get(at); last; last = came.get(last.from)) events.push(last.event);
        return events.reverse();
      }
      if (came.size > MOST_ROWS) return null;
      for (const { to, event } of this.movesIn(here, at, groups)) if (!came.has(to)) came.set(to, { from: at, event: this.memory.events[event]! });
    }
    return null;
  }

  /** What changes nothing but some groups. */
  private *movesIn(here: Here, row: number, groups: readonly Group[]): Iterable<{ readonly event: number; readonly to: number }> {
    const { memory, reader } = this;
    for (const event of this.eventsIn(here, row)) {
      if (!this.isAllowed(memory.events[event]!)) continue;
      const outcome = this.outcomeOf(event, here);
      if (!groups.some((group) => this.isSilent(outcome, group))) continue;
      const to = reader.rows.with(row, outcome.columns, outcome.values);
      if (to !== row) yield { event, to };
    }
  }

  /** What can be done in a row, whether it is allowed or not. */
  eventsIn(here: Here, row: number): readonly number[] {
    return this.memory.eventsOf(this.reader.frameIn(row), here, () => this.asking().find(here));
  }

  outcomeOf(event: number, here: Here): Outcome {
    return this.memory.outcomeOf(event, here, () => this.asking().learn(here, event));
  }

  private isSilent(outcome: Outcome, group: Group): boolean {
    let known = this.silent.get(group);
    if (!known) this.silent.set(group, (known = []));
    return (known[this.memory.numberOf(outcome)] ??= this.saysNothing(outcome, group));
  }

  /** Nothing comes of it but to a group, whatever time has passed and whatever lies on the back stack. */
  private saysNothing(outcome: Outcome, group: Group): boolean {
    const { leaves, isTaken, isHurry, isDeep, pushed, endless, starts, cleared, columns } = outcome;
    if (leaves || isTaken || isHurry || isDeep || pushed.length + endless.length + starts.length + cleared.length > 0) return false;
    if (columns.length === 0 || columns.some((column) => !group.has(column))) return false;
    const { times, slots } = this.memory;
    if (times.endedBy(outcome, (column) => !group.has(column)).length > 0) return false;
    return this.memory.readsOf(outcome).every((column) => column >= 0 && slots.columns[column]?.kind !== 'since');
  }
}
