import type { Leads } from './edges.ts';
import type { Effect } from './effects.ts';
import { Incidence, isIn, type Set32 } from './incidence.ts';
import { Ints } from './ints.ts';
import type { Met } from './met.ts';
import { Pairs } from './pairs.ts';
import type { Reader } from './reader.ts';
import { EMPTY } from './stacks.ts';

/** A way back from a state: the row that it leads to, whether what then lies on the stack makes a difference there, and what is done. */
export interface Return {
  readonly state: number;
  readonly row: number;
  readonly isAsked: boolean;
  readonly deed: number;
  readonly effect: Effect;
}

/**
 * Where *back* leads from states: to one row over each of the stacks that can lie below, which may be very many, and most of them met
 * long ago. Which rows were met over which stacks is held as bits, so that what is new of a whole stack, or of all rows that are gone
 * back to over it, is found at one look.
 */
export class Returns implements Leads {
  private readonly all: Return[] = [];
  /** By states: where the last of theirs stands among all, and 1; and for each of these where the one before it does. */
  private readonly last = new Ints();
  private readonly before = new Ints();
  /** The rows over stacks that were met, where anything goes back at all. */
  private kept: Incidence | null = null;
  /** By what lies on the top: the rows that it is gone back to, and what lies below. */
  private readonly rows: Set32[] = [];
  private readonly belows: Set32[] = [];
  /** The same: the first way back to each row, and where it stands among those. */
  private readonly over: Return[][] = [];
  private readonly first = new Pairs();
  /** By what lies on the top: ways back that did not lead to another state yet. */
  private readonly unmoved: Return[][] = [];

  constructor(
    private readonly reader: Pick<Reader, 'rowOf' | 'stackOf' | 'stacks'>,
    private readonly met: Pick<Met, 'length' | 'standing' | 'tell'>,
    /** Comes to a state over what lies below, where that may be a new one, or is. */
    private readonly come: (from: Return, below: number, isNew: boolean) => void,
    private readonly mostKept?: number
  ) {}

  /** The states that were met, from now on too. */
  private get known(): Incidence {
    if (this.kept) return this.kept;
    const { rowOf, stackOf } = this.reader;
    const known = (this.kept = new Incidence(this.mostKept));
    for (let state = 0; state < this.met.length; state++) known.put(rowOf.at(state), stackOf.at(state));
    this.met.tell((row, stack) => known.put(row, stack));
    return known;
  }

  /** Whether all that was met is held as bits. */
  get isWhole(): boolean {
    return this.known.isWhole;
  }

  /** Whether a row over a stack was met. */
  isMet(row: number, stack: number): boolean {
    const { known } = this;
    return known.isWhole ? known.has(row, stack) : this.met.standing(row, stack) >= 0;
  }

  /** Whether all that lies below a stack, now and later, is come to with a row already. */
  isFollowed(stack: number, row: number): boolean {
    return this.known.isWhole && isIn(this.rows[stack], row);
  }

  /** Goes back from a state, to all that lies below, now and as it is found. */
  add(to: Return): void {
    this.note(to);
    this.follow(to);
  }

  /** The same, where it is known elsewhere that there is a way back from the state. */
  follow(to: Return): void {
    const { known } = this;
    const { stacks, stackOf } = this.reader;
    const stack = stackOf.at(to.state);
    if (!to.isAsked || !known.isWhole) return stacks.whatLiesBelow(stack, (below) => this.come(to, below, false));
    if (!this.unmoved[stack]) this.listen(stack);
    if (to.effect.hasMoved) known.eachOther(this.belows[stack], to.row, (below) => this.come(to, below, true));
    else stacks.eachBelow(stack, (below) => this.come(to, below, false));
    if (!to.effect.hasMoved) this.unmoved[stack]!.push(to);
    if (this.first.get(stack, to.row) >= 0) return;
    this.first.set(stack, to.row, this.over[stack]!.push(to) - 1);
    known.add(this.rows, stack, to.row);
  }

  private note(to: Return): void {
    const { last, before, all } = this;
    while (last.length <= to.state) last.push(0);
    before.push(last.at(to.state));
    last.put(to.state, all.push(to));
  }

  private listen(stack: number): void {
    const { known, first } = this;
    const { stacks } = this.reader;
    const over: Return[] = (this.over[stack] = []);
    this.unmoved[stack] = [];
    for (const below of stacks.belowOf(stack)) known.add(this.belows, stack, below);
    stacks.hear(stack, (below) => {
      const unmoved = this.unmoved[stack]!;
      for (const one of unmoved) this.come(one, below, false);
      if (unmoved.length) this.unmoved[stack] = unmoved.filter(({ effect }) => !effect.hasMoved);
      known.add(this.belows, stack, below);
      if (known.isWhole) known.eachOtherWith(this.rows[stack], below, (row) => this.come(over[first.get(stack, row)]!, below, true));
      else for (const one of over) this.come(one, below, false);
    });
  }

  each(state: number, visit: (to: number, how: number) => void): void {
    const { stacks, stackOf } = this.reader;
    const stack = stackOf.at(state);
    const ways: Return[] = [];
    if (state < this.last.length) for (let at = this.last.at(state); at > 0; at = this.before.at(at - 1)) ways.push(this.all[at - 1]!);
    for (const { row, isAsked, deed } of ways.reverse())
      stacks.eachBelow(stack, (below, isPut) => {
        const to = this.met.standing(row, isAsked ? below : EMPTY);
        if (to !== state) visit(to, deed * 2 + (isPut || below !== stack ? 1 : 0));
      });
  }
}
