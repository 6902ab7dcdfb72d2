import type { Leads } from './edges.ts';
import type { Effect } from './effects.ts';
import { longer } from './ints.ts';
import type { Memory } from './memory.ts';
import type { Met } from './met.ts';
import type { Reader } from './reader.ts';
import type { Rows } from './rows.ts';
import { EMPTY } from './stacks.ts';

/** So many columns tell apart what comes of an event, at most. */
const COLUMNS = 3;
/** Nothing is known of what comes of an event, or where it leads; or nothing will be, as too much tells it apart. */
const UNKNOWN = -0x80000000;
const SLOW = -1;
/** So many numbers are kept in a lane, at most. */
const MOST = 1 << 16;
/** So often the same is waited for, with the same to be done, before it is kept where that leads: most of what waits is met but now and then. */
const OFTEN = 3;

/** What can be done, of which there is one where the same is seen and can be done. */
interface Doable {
  readonly events: readonly number[];
}

/** What becomes of a row: an effect of which all else was told, or one with what waits then. */
export type Way = Pick<Effect, 'number' | 'columns' | 'values'>;

/**
 * Where all leads that can be done in states in which the same can be, as far as all else of it was told: how far among rows, by the
 * numbers in a few columns. Most moves by far are such: this goes along them by lists of numbers and nothing else, and they need not be
 * kept as edges, since they can be found here again. It says what was learned, and nothing by itself.
 */
export class Lane implements Leads {
  /** For each event the columns that tell apart what comes of it, and by how much a number there counts. */
  private readonly columns: Int32Array;
  private readonly strides: Int32Array;
  /** Where what is known of each event begins; or UNKNOWN, or SLOW. */
  private readonly bases: Int32Array;
  /** How far it leads, the number of what came of it (-1 - that, where account is still kept of it), and what that was. */
  private leaps = new Int32Array(0);
  private outcomes = new Int32Array(0);
  private readonly ways: (Way | undefined)[] = [];
  private deeds = new Int32Array(0);
  private length = 0;
  /** For each event of how many that are known of it account is still kept. */
  private readonly open: Int32Array;
  /** The same as bases where that is none, and one column tells all apart; else -1. That column, and how a number there counts. */
  private readonly plain: Int32Array;
  private readonly column: Int32Array;
  private readonly stride: Int32Array;
  /** The event that was come to, and where what is known of it stands. */
  at = 0;
  private place = 0;
  /** In a state where the same is seen and can be done, and the same waits, account was kept of all but moves. */
  isLooked = false;

  constructor(
    /** What can be done, and what is due. */
    private readonly events: readonly number[],
    private readonly reader: Reader,
    private readonly met: Met,
    /** As of what leaps are so, and nothing else is known. */
    private readonly asOf: readonly number[],
    /** Columns in which the same stands all along it. */
    private readonly fixed: ReadonlySet<number>
  ) {
    this.columns = new Int32Array(events.length * COLUMNS);
    this.strides = new Int32Array(events.length * COLUMNS);
    this.open = new Int32Array(events.length);
    this.plain = new Int32Array(events.length).fill(-1);
    this.column = new Int32Array(events.length);
    this.stride = new Int32Array(events.length);
    this.bases = new Int32Array(events.length).fill(UNKNOWN);
  }

  /** Whether it can be gone along as of these. */
  isOf(version: number, ordered: number): boolean {
    const { asOf } = this;
    return asOf[0] === version && asOf[1] === ordered;
  }

  /**
   * Goes along from an event on, in a state with nothing on its stack, up to one that leads to what was not met yet: gives what comes of
   * that; null where it leads to what is not known, or at the end.
   */
  along(from: number, row: number, last: Int32Array): Way | null {
    const { plain, column, stride, leaps } = this;
    const { cells, width, sums, marks, isDense } = this.reader.rows;
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

  /** Where what is known of an event stands that more columns tell apart, or of which account is kept; -1 where there is more to be told of it. */
  private notedAt(i: number, row: number, last: Int32Array): number {
    if (this.bases[i]! < 0) return -1;
    const at = this.placeOf(i, this.reader.rows, row);
    if (this.leaps[at] === UNKNOWN) return -1;
    const outcome = this.outcomes[at]!;
    const event = this.events[i]!;
    // Of what came otherwise the last time account is kept, where that is not full.
    if (outcome < 0) return last[event] === ~outcome ? at : -1;
    last[event] = outcome;
    return at;
  }

  private isMet(row: number, leap: number, { columns, values }: Way): boolean {
    const next = this.reader.rows.leapt(row, leap, columns, values);
    return next >= 0 && this.met.alone(next) >= 0;
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
    const { rows, rowOf } = this.reader;
    const row = rowOf.at(state);
    for (let i = 0; i < end; i++) {
      const at = this.placeOf(i, rows, row);
      const { columns, values } = this.ways[at]!;
      const to = this.met.alone(rows.with(row, columns, values));
      if (to !== state) visit(to, this.deeds[at]! * 2);
    }
  }

  /** Whether it is not kept where an event leads: too much tells that apart. */
  isSlow(i: number): boolean {
    return this.bases[i] === SLOW;
  }

  /** Keeps how far an event leads from a row, by the columns that were looked at or are set. */
  keep(i: number, row: number, looked: Iterable<number>, leap: number, way: Way, deed: number, isFull: boolean): void {
    if (this.isSlow(i)) return;
    const { rows } = this.reader;
    const outcome = isFull ? way.number : ~way.number;
    if (this.bases[i]! >= 0) {
      const at = this.placeOf(i, rows, row);
      if (this.leaps[at] !== UNKNOWN && this.outcomes[at] === outcome) return;
    }
    // In others there is but one number.
    const told = [...looked, ...way.columns].filter((column) => !this.fixed.has(column) && rows.rangeOf(column) > 1);
    const known = this.columnsOf(i);
    const isApart = this.bases[i]! >= 0 && told.every((column) => known.includes(column));
    if (!isApart && !this.layOut(i, [...new Set([...known, ...told])])) return;
    const at = this.placeOf(i, rows, row);
    this.open[i]! += (outcome < 0 ? 1 : 0) - this.openIn(at, 1);
    this.leaps[at] = leap;
    this.outcomes[at] = outcome;
    this.ways[at] = way;
    this.deeds[at] = deed;
    this.plain[i] = this.open[i] === 0 && this.strides[i * COLUMNS + 1] === 0 ? this.bases[i]! : -1;
  }

  /** Of so many from a place on, those that are known and have account still kept of them. */
  private openIn(at: number, count: number): number {
    let open = 0;
    for (let i = at; i < at + count; i++) if (this.leaps[i] !== UNKNOWN && this.outcomes[i]! < 0) open++;
    return open;
  }

  private placeOf(i: number, rows: Rows, row: number): number {
    let at = this.bases[i]!;
    for (let k = i * COLUMNS; k < (i + 1) * COLUMNS; k++) at += rows.at(row, this.columns[k]!) * this.strides[k]!;
    return at;
  }

  private columnsOf(i: number): number[] {
    return [...this.columns.subarray(i * COLUMNS, (i + 1) * COLUMNS)].filter((_, k) => this.strides[i * COLUMNS + k]! > 0);
  }

  /** Makes room for all numbers in some columns, first among them those that it had; what was known is so whatever the others say. */
  private layOut(i: number, all: readonly number[]): boolean {
    const { rows } = this.reader;
    const [from, before] = [this.bases[i]!, this.columnsOf(i).reduce((product, column) => product * rows.rangeOf(column), 1)];
    const size = all.reduce((product, column) => product * rows.rangeOf(column), 1);
    if (all.length > COLUMNS || this.length + size > MOST) {
      // What was known already is gone on with.
      if (from === UNKNOWN) this.bases[i] = SLOW;
      return false;
    }
    let stride = 1;
    all.forEach((column, k) => {
      this.columns[i * COLUMNS + k] = column;
      this.strides[i * COLUMNS + k] = stride;
      stride *= rows.rangeOf(column);
    });
    this.column[i] = this.columns[i * COLUMNS]!;
    this.stride[i] = this.strides[i * COLUMNS]!;
    const base = this.length;
    this.length += size;
    if (this.length > this.leaps.length) {
      this.leaps = longer(this.leaps, this.length);
      this.outcomes = longer(this.outcomes, this.length);
      this.deeds = longer(this.deeds, this.length);
    }
    for (let at = 0; at < size; at++) {
      const was = from + (at % before);
      const isKnown = from >= 0 && this.leaps[was] !== UNKNOWN;
      this.leaps[base + at] = isKnown ? this.leaps[was]! : UNKNOWN;
      if (!isKnown) continue;
      this.outcomes[base + at] = this.outcomes[was]!;
      this.ways[base + at] = this.ways[was];
      this.deeds[base + at] = this.deeds[was]!;
    }
    this.open[i] = this.openIn(base, size);
    this.bases[i] = base;
    return true;
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
    if (!lane || !this.isNow(lane)) lanes.set(events, (lane = this.made(events, this.fixedFor(events))));
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
    if (typeof known !== 'number' && this.isNow(known)) return known;
    const fixed = new Set([...this.fixedFor(look.events), this.memory.times.column]);
    const lane = this.made([...look.events, ...dues()], fixed);
    lanes.set(key, lane);
    return lane;
  }

  /** Columns in which the same stands wherever the same was found to be done: the frame, and what was looked at for that. */
  private fixedFor(events: readonly number[]): ReadonlySet<number> {
    const looked = this.memory.pathOf(events).flatMap(({ of }) => (typeof of === 'number' ? of : []));
    return new Set([this.reader.frameColumn, ...looked]);
  }

  private made(events: readonly number[], fixed: ReadonlySet<number>): Lane {
    this.met.markAll();
    return new Lane(events, this.reader, this.met, [this.memory.version, this.reader.rows.ordered], fixed);
  }

  isNow(lane: Lane): boolean {
    return lane.isOf(this.memory.version, this.reader.rows.ordered);
  }

  /** Goes along a lane in a state, as far as it is known where that leads; new states are met on the way. */
  go(lane: Lane, state: number, row: number, last: Int32Array): void {
    const { reader, met } = this;
    const { rows } = reader;
    for (let way = lane.along(0, row, last); way; way = lane.along(lane.at + 1, row, last)) {
      const next = rows.areAllMarked ? rows.another(row, way.columns, way.values, lane.leap) : rows.with(row, way.columns, way.values);
      if (reader.zoneIn(next) === 0) met.comeAnew(next, state, lane.deed);
      else met.come(next, EMPTY, state, lane.deed, null, false);
    }
  }
}
