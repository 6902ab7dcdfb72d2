import type { Effect } from './effects.ts';
import { longer } from './ints.ts';
import type { Memory } from './memory.ts';
import type { Reader } from './reader.ts';
import type { Rows } from './rows.ts';

/** So many columns tell apart what comes of an event, at most. */
const COLUMNS = 3;
/** Nothing is known of what comes of an event, or where it leads; or nothing will be, as too much tells it apart. */
export const UNKNOWN = -0x80000000;
const SLOW = -1;
/** So many numbers are kept in a lane, at most. */
const MOST = 1 << 16;
/** What becomes of a row: an effect of which all else was told, or one with what waits then. */
export type Way = Pick<Effect, 'number' | 'columns' | 'values'>;

/**
 * Of all that can be done in states in which the same can be, how far it leads among rows, by the numbers in a few columns, as far as all
 * else of it was told. It says what was learned, and nothing by itself.
 */
export class LaneTable<W extends Way> {
  /** For each event the columns that tell apart what comes of it, and by how much a number there counts. */
  private readonly columns: Int32Array;
  private readonly strides: Int32Array;
  /** Where what is known of each event begins; or UNKNOWN, or SLOW. */
  private readonly bases: Int32Array;
  /** How far it leads, the number of what came of it (-1 - that, where account is still kept of it), and what that was. */
  protected leaps = new Int32Array(0);
  private outcomes = new Int32Array(0);
  protected readonly ways: (W | undefined)[] = [];
  protected deeds = new Int32Array(0);
  private room = 0;
  /** For each event of how many that are known of it account is still kept. */
  private readonly open: Int32Array;
  /** As of what leaps are so, and nothing else is known. */
  private readonly version: number;
  private readonly ordered: number;
  /** Of something it is not kept where that leads. */
  isSlowSomewhere = false;
  /** The same as bases where that is none, and one column tells all apart; else -1. That column, and how a number there counts. */
  protected readonly plain: Int32Array;
  protected readonly column: Int32Array;
  protected readonly stride: Int32Array;

  constructor(
    /** What can be done, and what is due. */
    protected readonly events: readonly number[],
    private readonly memory: Memory,
    protected readonly rows: Rows,
    /** Columns in which the same stands all along it. */
    private readonly fixed: ReadonlySet<number>
  ) {
    this.version = memory.version;
    this.ordered = rows.ordered;
    this.columns = new Int32Array(events.length * COLUMNS);
    this.strides = new Int32Array(events.length * COLUMNS);
    this.open = new Int32Array(events.length);
    this.plain = new Int32Array(events.length).fill(-1);
    this.column = new Int32Array(events.length);
    this.stride = new Int32Array(events.length);
    this.bases = new Int32Array(events.length).fill(UNKNOWN);
  }

  /** Whether it can be gone along as of now: else leaps are no more so, or there is more to be told. */
  get isNow(): boolean {
    return this.version === this.memory.version && this.ordered === this.rows.ordered;
  }

  /** Where what is known of an event stands that more columns tell apart, or of which account is kept; -1 where there is more to be told of it. */
  protected notedAt(i: number, row: number, last: Int32Array): number {
    if (this.bases[i]! < 0) return -1;
    const at = this.placeOf(i, row);
    if (this.leaps[at] === UNKNOWN) return -1;
    const outcome = this.outcomes[at]!;
    const event = this.events[i]!;
    // Of what came otherwise the last time account is kept, where that is not full.
    if (outcome < 0) return last[event] === ~outcome ? at : -1;
    last[event] = outcome;
    return at;
  }

  /** So many events there are. */
  get length(): number {
    return this.events.length;
  }

  /** Whether it is not kept where an event leads: too much tells that apart. */
  isSlow(i: number): boolean {
    return this.bases[i] === SLOW;
  }

  /** Keeps how far an event leads from a row, by the columns that were looked at or are set. */
  keep(i: number, row: number, looked: Iterable<number>, leap: number, way: W, deed: number, isFull: boolean): void {
    if (this.isSlow(i)) return;
    const outcome = isFull ? way.number : ~way.number;
    if (this.bases[i]! >= 0) {
      const at = this.placeOf(i, row);
      if (this.leaps[at] !== UNKNOWN && this.outcomes[at] === outcome) return;
    }
    // In others there is but one number.
    const told = [...looked, ...way.columns].filter((column) => !this.fixed.has(column) && this.rows.rangeOf(column) > 1);
    const known = this.columnsOf(i);
    const isApart = this.bases[i]! >= 0 && told.every((column) => known.includes(column));
    if (!isApart && !this.layOut(i, [...new Set([...known, ...told])])) return;
    const at = this.placeOf(i, row);
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

  protected placeOf(i: number, row: number): number {
    const { rows } = this;
    let at = this.bases[i]!;
    for (let k = i * COLUMNS; k < (i + 1) * COLUMNS; k++) at += rows.at(row, this.columns[k]!) * this.strides[k]!;
    return at;
  }

  private columnsOf(i: number): number[] {
    return [...this.columns.subarray(i * COLUMNS, (i + 1) * COLUMNS)].filter((_, k) => this.strides[i * COLUMNS + k]! > 0);
  }

  /** Makes room for all numbers in some columns, first among them those that it had; what was known is so whatever the others say. */
  private layOut(i: number, all: readonly number[]): boolean {
    const { rows } = this;
    const [from, before] = [this.bases[i]!, this.columnsOf(i).reduce((product, column) => product * rows.rangeOf(column), 1)];
    const size = all.reduce((product, column) => product * rows.rangeOf(column), 1);
    if (all.length > COLUMNS || this.room + size > MOST) {
      // What was known already is gone on with.
      if (from === UNKNOWN) {
        this.bases[i] = SLOW;
        this.isSlowSomewhere = true;
      }
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
    const base = this.room;
    this.room += size;
    if (this.room > this.leaps.length) {
      this.leaps = longer(this.leaps, this.room);
      this.outcomes = longer(this.outcomes, this.room);
      this.deeds = longer(this.deeds, this.room);
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

/** Columns in which the same stands wherever the same was found to be done: the frame, and what was looked at for that. */
export function fixedFor(events: readonly number[], memory: Memory, reader: Reader): ReadonlySet<number> {
  const looked = memory.pathOf(events).flatMap(({ of }) => (typeof of === 'number' ? of : []));
  return new Set([reader.frameColumn, ...looked]);
}
