import type { Leads } from './edges.ts';
import { fixedFor, LaneTable, UNKNOWN, type Way } from './lane-table.ts';
import type { Memory } from './memory.ts';
import type { Met } from './met.ts';
import type { Reader } from './reader.ts';
import { EMPTY } from './stacks.ts';

/** So often the same is waited for, with the same to be done, before it is kept where that leads: most of what waits is met but now and then. */
const OFTEN = 3;

/** What can be done, of which there is one where the same is seen and can be done. */
interface Doable {
  readonly events: readonly number[];
}

/**
 * Where all leads that can be done in states in which the same can be, as far as all else of it was told: how far among rows, by the
 * numbers in a few columns. Most moves by far are such: this goes along them by lists of numbers and nothing else, and they need not be
 * kept as edges, since they can be found here again.
 */
export class Lane extends LaneTable<Way> implements Leads {
  /** The event that was come to, and where what is known of it stands. */
  at = 0;
  private place = 0;
  /** In a state where the same is seen and can be done, and the same waits, account was kept of all but moves. */
  isLooked = false;

  constructor(
    events: readonly number[],
    private readonly reader: Reader,
    private readonly met: Met,
    memory: Memory,
    fixed: ReadonlySet<number>
  ) {
    super(events, memory, reader.rows, fixed);
  }

  /**
   * Goes along from an event on, in a state with nothing on its stack, up to one that leads to what was not met yet: gives what comes of
   * that; null where it leads to what is not known, or at the end.
   */
  along(from: number, row: number, last: Int32Array): Way | null {
    const { plain, column, stride, leaps } = this;
    const { cells, width, sums, marks, isDense } = this.rows;
    const base = row * width;
    const sum = sums[row]!;
    let i = from;
    for (; i < plain.length; i++) {
      const first = plain[i]!;
      const at = first < 0 ? this.notedAt(i, row, last) : first + cells[base + column[i]!]! * stride[i]!;
      if (at < 0) break;
      const leap = leaps[at]!;
      if (leap === UNKNOWN) break;
      if (isDense) {
        const to = sum + leap;
        if ((marks[to >> 5]! & (1 << (to & 31))) !== 0) continue;
      } else if (this.isMet(row, leap, this.ways[at]!)) continue;
      this.at = i;
      this.place = at;
      return this.ways[at]!;
    }
    this.at = i;
    return null;
  }

  private isMet(row: number, leap: number, { columns, values }: Way): boolean {
    const next = this.rows.leapt(row, leap, columns, values);
    return next >= 0 && this.met.alone(next) >= 0;
  }

  /** Goes no further than behind where it was come to. */
  stop(): void {
    this.at++;
  }

  get isAtEnd(): boolean {
    return this.at === this.events.length;
  }

  /** How far among rows it leads where it was come to. */
  get leap(): number {
    return this.leaps[this.place]!;
  }

  /** What is done where it was come to, as a number for edges. */
  get deed(): number {
    return this.deeds[this.place]!;
  }

  each(state: number, visit: (to: number, how: number) => void, end = this.events.length): void {
    const { rows } = this;
    const row = this.reader.rowOf.at(state);
    for (let i = 0; i < end; i++) {
      const at = this.placeOf(i, row);
      const { columns, values } = this.ways[at]!;
      const to = this.met.alone(rows.with(row, columns, values));
      if (to !== state) visit(to, this.deeds[at]! * 2);
    }
  }
}

/** Lanes by what can be done, as far as it is known now where that leads. */
export class Lanes {
  private readonly still = new Map<readonly number[], Lane>();
  /** The same while something waits, whatever that is; and for each that waits often: before that, how often it did. */
  private readonly inTime = new Map<readonly number[], Lane>();
  private readonly waiting = new Map<Doable, Map<number, Lane | number>>();

  constructor(
    private readonly memory: Memory,
    private readonly reader: Reader,
    private readonly met: Met
  ) {}

  for(events: readonly number[], zone: number): Lane {
    const lanes = zone === 0 ? this.still : this.inTime;
    let lane = lanes.get(events);
    if (!lane?.isNow) lanes.set(events, (lane = this.made(events, fixedFor(events, this.memory, this.reader))));
    return lane;
  }

  /** The lane of what waits and what is on the screen in a row, which goes over what is due as well; null where that is not met often. */
  waitingIn(row: number, look: Doable, dues: () => readonly number[]): Lane | null {
    const { reader } = this;
    let lanes = this.waiting.get(look);
    if (!lanes) this.waiting.set(look, (lanes = new Map<number, Lane | number>()));
    const key = reader.laidIn(row) + reader.zoneIn(row) * 2 ** 32;
    const known = lanes.get(key) ?? 0;
    if (typeof known === 'number' && known < OFTEN) {
      lanes.set(key, known + 1);
      return null;
    }
    if (typeof known !== 'number' && known.isNow) return known;
    const fixed = new Set([...fixedFor(look.events, this.memory, reader), this.memory.times.column]);
    const lane = this.made([...look.events, ...dues()], fixed);
    lanes.set(key, lane);
    return lane;
  }

  private made(events: readonly number[], fixed: ReadonlySet<number>): Lane {
    this.met.markAll();
    return new Lane(events, this.reader, this.met, this.memory, fixed);
  }

  /** Goes along a lane in a state, as far as it is known where that leads; new states are met on the way. */
  go(lane: Lane, state: number, row: number, last: Int32Array): void {
    const { reader, met } = this;
    const { rows } = reader;
    const { ordered } = rows;
    for (let way = lane.along(0, row, last); way; way = lane.along(lane.at + 1, row, last)) {
      const next = rows.leapTo(row, lane.leap, way.columns, way.values);
      if (reader.zoneIn(next) === 0) met.comeAnew(next, EMPTY, state, lane.deed);
      else met.come(next, EMPTY, state, lane.deed, null, false);
      // With one row more they may count anew, and nothing is known of how far the rest leads.
      if (rows.ordered !== ordered) return lane.stop();
    }
  }
}
