import type { Leads } from './edges.ts';
import type { Effect } from './effects.ts';
import { Ints } from './ints.ts';
import { fixedFor, LaneTable, UNKNOWN, type Way } from './lane-table.ts';
import type { Look } from './looks.ts';
import type { Memory } from './memory.ts';
import type { Met } from './met.ts';
import type { Reader } from './reader.ts';
import type { Returns } from './returns.ts';
import { EMPTY } from './stacks.ts';

/** What becomes of a row over a stack: it goes on there, a frame is put on the stack, or what is on its top is gone back to. */
interface Stride extends Way {
  readonly goes: 'on' | 'up' | 'down';
  readonly effect: Effect;
  /** The frame that is put on the stack, with its number; '' where none is. */
  readonly frame: string;
  readonly top: number;
  /** Whether anybody asks there what was come from. */
  readonly isAsked: boolean;
}

/** What is known of the states that are explored, as far as stairs are made of it. */
export interface Climbed {
  readonly memory: Memory;
  readonly reader: Reader;
  readonly met: Met;
  readonly returns: Returns;
  /** Whether anybody asks what a row was come from. */
  readonly isBackAsked: (row: number) => boolean;
}

/** A lane over back stacks, with the same frame on their tops: where all leads that can be done, on them, up and down. */
export class Stair extends LaneTable<Stride> implements Leads {
  constructor(
    events: readonly number[],
    private readonly known: Climbed,
    fixed: ReadonlySet<number>
  ) {
    super(events, known.memory, known.reader.rows, fixed);
  }

  /** Follows all that can be done in a state; false where it is not known of all of it where that leads. */
  go(state: number, row: number, last: Int32Array): boolean {
    const { rows, plain, column, stride, leaps } = this;
    const { met, returns, reader } = this.known;
    const stack = reader.stackOf.at(state);
    const { ordered } = rows;
    for (let i = 0; i < plain.length; i++) {
      const first = plain[i]!;
      const at = first < 0 ? this.notedAt(i, row, last) : first + rows.at(row, column[i]!) * stride[i]!;
      if (at < 0) return false;
      const leap = leaps[at]!;
      if (leap === UNKNOWN) return false;
      const way = this.ways[at]!;
      const next = rows.leapTo(row, leap, way.columns, way.values);
      // With one row more they may count anew, and nothing is known of how far it leads.
      if (rows.ordered !== ordered) return false;
      if (way.goes === 'down') {
        if (!returns.isFollowed(stack, next)) returns.follow({ state, row: next, isAsked: true, deed: this.deeds[at]!, effect: way.effect });
      } else if (way.goes === 'up' && way.isAsked) this.climb(state, next, stack, way, this.deeds[at]!);
      else {
        const over = way.isAsked ? stack : EMPTY;
        if (!returns.isMet(next, over)) met.comeAnew(next, over, state, this.deeds[at]!);
      }
    }
    return true;
  }

  private climb(from: number, row: number, below: number, { frame, top }: Stride, deed: number): void {
    const { met, returns, reader } = this.known;
    const { stacks } = reader;
    const stack = stacks.place(row, 0, frame, top);
    if (!returns.isMet(row, stack)) met.comeAnew(row, stack, from, deed);
    if (!stacks.isLaid(stack, below)) stacks.lay(stack, below, from, deed, met.standing(row, stack));
  }

  each(state: number, visit: (to: number, how: number) => void): void {
    const { rows } = this;
    const { met, reader } = this.known;
    const { stacks } = reader;
    const row = reader.rowOf.at(state);
    const stack = reader.stackOf.at(state);
    this.events.forEach((_, i) => {
      const at = this.placeOf(i, row);
      const { columns, values, goes, frame, top, isAsked } = this.ways[at]!;
      const next = rows.with(row, columns, values);
      const come = (over: number, isBack: boolean) => {
        const to = met.standing(next, over);
        if (to !== state) visit(to, this.deeds[at]! * 2 + (isBack ? 1 : 0));
      };
      if (goes === 'down') stacks.eachBelow(stack, (below, isPut) => come(below, isPut || below !== stack));
      else if (!isAsked) come(EMPTY, false);
      else come(goes === 'up' ? stacks.place(next, 0, frame, top) : stack, false);
    });
  }

  /** Keeps where the event with a place in it leads from a row, where there is nothing more to be told of it. */
  keepAs(i: number, row: number, looked: Iterable<number>, effect: Effect, isFull: boolean): void {
    const { rows } = this;
    const { memory, isBackAsked } = this.known;
    const { outcome, number, columns, values, deed } = effect;
    const isAsked = isBackAsked(rows.with(row, columns, values));
    // Who goes back to where nobody asks for it goes there over nothing, which is listened for.
    if (deed < 0 || (outcome.isTaken && !isAsked)) return;
    const [frame = ''] = outcome.pushed;
    const goes = outcome.isTaken ? 'down' : frame === '' ? 'on' : 'up';
    const leap = rows.leapFrom(row, columns, values);
    if (leap !== null)
      this.keep(i, row, looked, leap, { number, columns, values, goes, effect, frame, top: memory.topNumber(frame), isAsked }, deed, isFull);
  }
}

/** Stairs by what can be done, and what lies on the top of the stack. */
export class Stairs {
  private readonly all = new Map<Look, (Stair | undefined)[]>();
  private readonly tops = new Ints();

  constructor(private readonly known: Climbed) {}

  for(look: Look, stack: number): Stair {
    let stairs = this.all.get(look);
    if (!stairs) this.all.set(look, (stairs = []));
    const top = this.topOf(stack);
    const stair = stairs[top];
    if (stair?.isNow) return stair;
    const { memory, reader } = this.known;
    return (stairs[top] = new Stair(look.events, this.known, fixedFor(look.events, memory, reader)));
  }

  /** The number of the frame on the top of a stack. */
  private topOf(stack: number): number {
    const { memory, reader } = this.known;
    while (this.tops.length <= stack) this.tops.push(memory.topNumber(reader.stacks.topOf(this.tops.length)));
    return this.tops.at(stack);
  }
}
