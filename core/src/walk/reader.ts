import { scenesOn } from '../run/environment.ts';
import type { Overlay, RunState } from '../run/state.ts';
import type { Here } from './asking.ts';
import { Ints, MostlyZero } from './ints.ts';
import type { Memory } from './memory.ts';
import { Rows } from './rows.ts';
import { INITIAL, type Follows, type Slot } from './slots.ts';
import { EMPTY, Stacks } from './stacks.ts';
import { unitsIn, withWaits } from './waits.ts';
import { soonest, type Zone } from './zones.ts';

/** A row over a place on a back stack as it is read, with what follows in it. */
class RowRead implements Here {
  constructor(
    private readonly rows: Rows,
    /** What values follow from, by their columns. */
    private readonly following: readonly (Follows | null)[],
    public row: number,
    public stack: number,
    public back: string,
    public top: number,
    /** Playheads as far as is said, where it is. */
    private readonly passed: ReadonlyMap<number, number> | null = null
  ) {}

  at(column: number): number {
    const follows = this.following[column];
    if (follows) return follows.find(this);
    return this.passed?.get(column) ?? this.rows.at(this.row, column);
  }
}

/** Ways in which frames lie over others, at most. */
const MOST_LAID = 2 ** 21;

/** States as they are read: each a row, over a place on a back stack. */
export class Reader {
  readonly rows = new Rows();
  readonly stacks = new Stacks();
  readonly rowOf = new Ints();
  /** Most pieces ask for no back stack. */
  readonly stackOf = new MostlyZero();
  private readonly frame: Slot;
  private readonly overlays: Slot;
  private readonly glance: RowRead;

  constructor(private readonly memory: Memory) {
    this.frame = memory.slots.named('frame');
    this.overlays = memory.slots.named('overlays');
    this.glance = new RowRead(this.rows, memory.slots.following, 0, EMPTY, '', 0);
  }

  /** A row over a stack as it is read; playheads as far as is said, where it is. */
  hereOf(row: number, stack: number, passed: ReadonlyMap<number, number> | null = null, back = this.stacks.topOf(stack)): Here {
    return new RowRead(this.rows, this.memory.slots.following, row, stack, back, this.memory.topNumber(back), passed?.size ? passed : null);
  }

  hereIn = (state: number, passed: ReadonlyMap<number, number> | null = null): Here =>
    this.hereOf(this.rowOf.at(state), this.stackOf.at(state), passed);

  /** A state as it is read: one at a time, until the next one is. */
  glanceAt(state: number): RowRead {
    const { glance } = this;
    const stack = this.stackOf.at(state);
    glance.row = this.rowOf.at(state);
    if (stack !== glance.stack) {
      glance.stack = stack;
      glance.back = this.stacks.topOf(stack);
      glance.top = this.memory.topNumber(glance.back);
    }
    return glance;
  }

  /** The number of what waits in a row. */
  zoneIn(row: number): number {
    const { column } = this.memory.times;
    return column < 0 ? 0 : this.rows.at(row, column);
  }

  /** In which ways time can have passed for what waits in a state. */
  zoneOf(state: number): Zone {
    return this.memory.times.zone(this.zoneIn(this.rowOf.at(state)));
  }

  /** A run that is in a state, at rest; of its back stack only what lies on its top. */
  runOf(state: number): RunState {
    const { slots, times } = this.memory;
    const here = this.hereIn(state);
    const run = slots.runOf(here, here.back === '' ? [] : [here.back]);
    const zone = this.zoneOf(state);
    const units = unitsIn(this.memory.watched);
    return withWaits(
      run,
      zone.waits.map((wait) => times.waits[wait]!),
      soonest(zone).map((left) => left / units)
    );
  }

  /** What a column of a row says. */
  private valueIn(row: number, slot: Slot): unknown {
    return slot.column < 0 ? undefined : slot.values[this.numberIn(row, slot)];
  }

  frameIn(row: number): string {
    return this.valueIn(row, this.frame) as string;
  }

  /** The frame that a number stands for. */
  frameNamed = (number: number): string => this.frame.values[number] as string;

  overlaysIn(row: number): readonly Overlay[] {
    return (this.valueIn(row, this.overlays) ?? []) as readonly Overlay[];
  }

  private numberIn(row: number, { column }: Slot): number {
    return column < 0 ? INITIAL : this.rows.at(row, column);
  }

  get frameColumn(): number {
    return this.frame.column;
  }

  get overlaysColumn(): number {
    return this.overlays.column;
  }

  /** A number for the frame of a row. */
  frameNumberIn(row: number): number {
    return this.numberIn(row, this.frame);
  }

  /** A number for the frame of a row and what is laid over it. */
  laidIn(row: number): number {
    return this.frameNumberIn(row) * MOST_LAID + this.numberIn(row, this.overlays);
  }

  private readonly roots = new Map<number, readonly string[]>();

  /** The scenes on the screen, from back to front. */
  rootsIn(row: number): readonly string[] {
    const key = this.laidIn(row);
    let roots = this.roots.get(key);
    if (!roots) this.roots.set(key, (roots = scenesOn(this.memory.watched, { frame: this.frameIn(row), overlays: this.overlaysIn(row) })));
    return roots;
  }
}
