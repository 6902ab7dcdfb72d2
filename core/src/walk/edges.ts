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

export interface Edge extends Deed {
  readonly to: number;
  /** It goes back over where the frame was come from. */
  readonly back?: true;
}

/** No further edge. */
const END = -1;

/** Where these stand in an edge. */
const [HOW, NEXT] = [1, 2];

/**
 * The edges of a graph of states, as numbers: for each its end, what is done, and the next one from where it begins. They are made
 * into objects where somebody asks for those of one state.
 */
export class Edges {
  private count = 0;
  /** The first and the last edge of each state, as far as there were any. */
  private readonly first = new Ints();
  private readonly last = new Ints();
  /**
   * Edge by edge: where it ends; twice the number of what is done, and one more where it goes back over where the frame was come from;
   * the next one.
   */
  private readonly all = new Ints();

  constructor(
    /** What is done, by its numbers: graphs of the same states may have it together. */
    private readonly deeds: Deed[] = []
  ) {}

  /** The numbers of all states. */
  get states(): number[] {
    return Array.from({ length: this.count }, (_, state) => state);
  }

  /** A state more, with no edges yet. */
  grow(): void {
    this.count++;
  }

  /** What is done as a number for edges. */
  deed(step: Timed, threads: readonly string[]): number {
    this.deeds.push({ event: step.event, threads, step });
    return this.deeds.length - 1;
  }

  add(from: number, to: number, deed: number, isBack = false): void {
    const edge = this.all.length;
    this.all.push3(to, deed * 2 + (isBack ? 1 : 0), END);
    while (this.first.length <= from) {
      this.first.push(END);
      this.last.push(END);
    }
    const last = this.last.at(from);
    if (last === END) this.first.put(from, edge);
    else this.all.put(last + NEXT, edge);
    this.last.put(from, edge);
  }

  private firstOf(state: number): number {
    return state < this.first.length ? this.first.at(state) : END;
  }

  /** Goes over the edges of a state, in the order in which they were found. */
  each(state: number, visit: (to: number, deed: Deed, isBack: boolean) => void): void {
    for (let edge = this.firstOf(state); edge !== END; edge = this.all.at(edge + NEXT)) {
      const how = this.all.at(edge + HOW);
      visit(this.all.at(edge), this.deeds[how >> 1]!, (how & 1) === 1);
    }
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
    for (let edge = this.firstOf(state); edge !== END; edge = this.all.at(edge + NEXT)) ends.push(this.all.at(edge));
    return ends;
  }

  /** For each state those from which an edge leads to it, once for each edge. */
  sources(): number[][] {
    const { states } = this;
    const sources: number[][] = states.map(() => []);
    for (const from of states)
      for (let edge = this.firstOf(from); edge !== END; edge = this.all.at(edge + NEXT)) sources[this.all.at(edge)]!.push(from);
    return sources;
  }
}
