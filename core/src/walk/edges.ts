import type { RunEvent } from '../run/state.ts';
import { Ints } from './ints.ts';
import type { Timed } from './moves.ts';

/** What is done, or due, and the threads that fire: the same for many edges. */
export interface Deed {
  readonly event: RunEvent;
  readonly threads: readonly string[];
  /** The same with what time has to do with it. */
  readonly step: Timed;
}

/** What knows edges that need not be kept: where the first of those of a state end, and how, as they are kept. */
export interface Leads {
  each(state: number, visit: (to: number, how: number) => void): void;
}

export interface Edge extends Deed {
  readonly to: number;
  /** It goes back over where the frame was come from. */
  readonly back?: true;
}

/**
 * The edges of a graph of states, as numbers: for each its end, and what is done. Those of one state stand together. They are made
 * into objects where somebody asks for those of one state.
 */
export class Edges {
  /** Where those of each state begin, and how many there are. */
  private readonly begins = new Ints();
  private readonly counts = new Ints();
  /** Those that were found after others of another state: as they stand in the list of all. */
  private readonly later = new Map<number, number[]>();
  /** For states with edges that are not kept: what knows them, by numbers, and 1. */
  private readonly ways = new Ints();
  private readonly leads: Leads[] = [];
  /** Edge by edge: where it ends; twice the number of what is done, and one more where it goes back over where the frame was come from. */
  private readonly all = new Ints();
  /** The state with those at the end of the list. */
  private open = -1;

  constructor(
    /** What is done, by its numbers: graphs of the same states may have it together. */
    private readonly deeds: Deed[],
    /** How many states there are. */
    private readonly count: () => number
  ) {}

  /** So many states there are. */
  get length(): number {
    return this.count();
  }

  /** The numbers of all states. */
  get states(): number[] {
    return Array.from({ length: this.length }, (_, state) => state);
  }

  /** What is done as a number for edges. */
  deed(step: Timed, threads: readonly string[]): number {
    this.deeds.push({ event: step.event, threads, step });
    return this.deeds.length - 1;
  }

  add(from: number, to: number, deed: number, isBack = false): void {
    const how = deed * 2 + (isBack ? 1 : 0);
    if (from !== this.open && !this.begin(from)) this.later.get(from)!.push(to, how);
    else {
      this.all.push2(to, how);
      this.counts.put(from, this.counts.at(from) + 1);
    }
  }

  /** Knows edges of states that have those of other ones. */
  likeThoseOf = (other: (state: number) => number): Leads => ({ each: (state, visit) => this.visit(other(state), visit) });

  /** The first edges of a state are known by something else. */
  leadAs(state: number, leads: Leads): void {
    if (this.leads.at(-1) !== leads) this.leads.push(leads);
    while (this.ways.length <= state) this.ways.push(0);
    this.ways.put(state, this.leads.length);
  }

  /** Begins those of a state; false where there are some that others followed. */
  private begin(from: number): boolean {
    while (this.counts.length <= from) {
      this.counts.push(0);
      this.begins.push(0);
    }
    if (this.counts.at(from) > 0) {
      if (!this.later.has(from)) this.later.set(from, []);
      return false;
    }
    this.open = from;
    this.begins.put(from, this.all.length);
    return true;
  }

  /** Goes over the edges of a state as numbers, in the order in which they were found. */
  private visit(state: number, visit: (to: number, how: number) => void): void {
    const way = state < this.ways.length ? this.ways.at(state) : 0;
    if (way > 0) this.leads[way - 1]!.each(state, visit);
    if (state >= this.counts.length) return;
    const begin = this.begins.at(state);
    const end = begin + 2 * this.counts.at(state);
    for (let at = begin; at < end; at += 2) visit(this.all.at(at), this.all.at(at + 1));
    const later = this.later.get(state) ?? [];
    for (let at = 0; at < later.length; at += 2) visit(later[at]!, later[at + 1]!);
  }

  /** Goes over the edges of a state, in the order in which they were found. */
  each(state: number, visit: (to: number, deed: Deed, isBack: boolean) => void): void {
    this.visit(state, (to, how) => visit(to, this.deeds[how >> 1]!, (how & 1) === 1));
  }

  /** The edges of a state, in the order in which they were found. */
  of(state: number): Edge[] {
    const all: Edge[] = [];
    this.each(state, (to, { event, threads, step }, isBack) =>
      all.push(isBack ? { to, event, threads, step, back: true } : { to, event, threads, step })
    );
    return all;
  }

  /** Where the edges of a state end. */
  endsOf(state: number): number[] {
    const ends: number[] = [];
    this.visit(state, (to) => ends.push(to));
    return ends;
  }

  /** For each state those from which an edge leads to it, once for each edge. */
  sources(): number[][] {
    const { states } = this;
    const sources: number[][] = states.map(() => []);
    for (const from of states) this.visit(from, (to) => sources[to]!.push(from));
    return sources;
  }
}
