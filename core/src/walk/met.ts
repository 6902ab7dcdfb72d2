import type { Deed } from './edges.ts';
import type { State } from './exploration.ts';
import { Ints } from './ints.ts';
import { joined } from './joining.ts';
import { Joins, type Ways } from './joins.ts';
import type { Timed } from './moves.ts';
import { Pairs } from './pairs.ts';
import type { Reader } from './reader.ts';
import { EMPTY, type Push } from './stacks.ts';
import type { Times } from './times.ts';
import { isInside } from './zones.ts';

/** A start was come to from nowhere, by nothing; and no state has a row. */
const NONE = -1;

const NOBODY = () => undefined;

/** A zone is held against so many others that were met last of what is like it but for time. */
const MOST_HELD = 32;
/** So many zones held against each other are remembered: where there are more, each is met but once. */
const MOST_PAIRS = 1 << 12;

/**
 * States by the numbers in the order in which they were met, each a row over a stack, with how it was come to: as numbers, since there
 * are many.
 */
export class Met {
  private readonly parents = new Ints();
  /** Twice the number of what was done, and one more for states that *back* led to, over their own stacks. */
  private readonly cameBy = new Ints();
  /** Where their routes begin; -1 where that was not asked yet. Of all but the first where that can differ. */
  private readonly begun = new Ints();
  /** Start frames by their numbers. */
  private readonly starts: string[] = [];
  private readonly listed: State[] = [];
  /** States by their rows, with nothing on the back stack; and by both. */
  private readonly byRow = new Ints();
  private readonly byBoth = new Pairs();
  /** States by their rows but for how time has passed for what waits in them, and what is on their back stacks. */
  private readonly timeless = new Pairs();
  private readonly likeButForTime: number[][] = [];
  /** Scenes on the screen, with the state in which each was first. */
  readonly reached = new Map<string, number>();
  private readonly laid = new Set<number>();
  private shown = NONE;
  private told: (row: number, stack: number) => void = NOBODY;
  /** For other states that *back* led to: what was gone back over. */
  private readonly backOver = new Map<number, Push>();

  constructor(
    private readonly reader: Reader,
    private readonly times: Times,
    /** What is done, by its numbers. */
    private readonly deeds: readonly Deed[],
    /** Whether states can be one that are alike but for time. */
    private readonly canJoin: () => boolean
  ) {}

  get length(): number {
    return this.parents.length;
  }

  /** Tells of every state that is new from now on. */
  tell(told: (row: number, stack: number) => void): void {
    this.told = told;
  }

  /** The state with a row and nothing on its stack; -1 for none. */
  alone(row: number): number {
    return row < this.byRow.length ? this.byRow.at(row) : NONE;
  }

  /** The state with a row and a stack. */
  at(row: number, stack: number): number | undefined {
    const state = this.standing(row, stack);
    return state === NONE ? undefined : state;
  }

  /** The same; -1 for none. */
  standing(row: number, stack: number): number {
    return stack === EMPTY ? this.alone(row) : this.byBoth.get(row, stack);
  }

  /** The state that somebody begins in, new or known. */
  begin(frame: string, row: number, stack: number, isItself: boolean): void {
    if (this.knownAs(row, stack, isItself) !== undefined) return;
    const state = this.add(row, stack, NONE, NONE);
    this.begun.put(state, this.starts.push(frame) - 1);
  }

  /**
   * The state with a row and a stack, to which a deed leads from another one, new or known. One in which time has passed in fewer ways than
   * in another is that one, unless it has to be itself.
   */
  come(row: number, stack: number, parent: number, deed: number, over: Push | null, isItself: boolean): number {
    const known = this.knownAs(row, stack, isItself);
    if (known !== undefined) return known;
    const whole = over === null && stack === EMPTY && !isItself ? this.joinedWith(row, parent, deed) : NONE;
    if (whole !== NONE) return whole;
    const state = this.add(row, stack, parent, deed * 2);
    if (over) this.backOver.set(state, over);
    return state;
  }

  /** The state with a row in which nothing waits, and a stack, which was not met before. */
  comeAnew(row: number, stack: number, parent: number, deed: number): void {
    this.add(row, stack, parent, deed * 2);
  }

  /** The same, where it is gone back to from its parent over what lies below there. */
  comeBack(row: number, stack: number, parent: number, deed: number): number {
    return this.add(row, stack, parent, deed * 2 + 1);
  }

  /** For states that *back* led to: what was gone back over. */
  overOf(state: number): Push | null {
    const { stacks, stackOf } = this.reader;
    const isReturn = this.cameBy.at(state) > 0 && (this.cameBy.at(state) & 1) === 1;
    return isReturn ? stacks.pushOn(stackOf.at(this.parents.at(state)), stackOf.at(state)) : (this.backOver.get(state) ?? null);
  }

  private knownAs(row: number, stack: number, isItself: boolean): number | undefined {
    const known = this.at(row, stack);
    if (known !== undefined || isItself) return known;
    const { rowOf } = this.reader;
    const zone = this.reader.zoneIn(row);
    const alike = zone === 0 ? NONE : this.alikeTo(row, stack);
    if (alike === NONE) return undefined;
    const others = this.likeButForTime[alike]!;
    for (let i = Math.max(0, others.length - MOST_HELD); i < others.length; i++) {
      const wider = others[i]!;
      if (!this.isWider(this.reader.zoneIn(rowOf.at(wider)), zone)) continue;
      if (stack === EMPTY) this.stand(row, wider);
      return wider;
    }
    return undefined;
  }

  /** The state that is followed now: those after it are not followed yet. */
  following = 0;
  readonly joins = new Joins();

  /**
   * A state that is not followed yet and like a row but for time, if all ways in which time can have passed in both are one zone: it is
   * both from now on. So it is all one in which order several things were set off. -1 for none.
   */
  private joinedWith(row: number, from: number, deed: number): number {
    const { reader, times } = this;
    const number = reader.zoneIn(row);
    const alike = number === 0 || !this.canJoin() ? NONE : this.alikeTo(row, EMPTY);
    if (alike === NONE) return NONE;
    const zoneOf = (state: number) => reader.zoneOf(state);
    const start = this.startOf(from);
    const all = this.likeButForTime[alike]!;
    const like = all.slice(-MOST_HELD).filter((state) => this.parents.at(state) !== NONE && this.startOf(state) === start);
    const ahead = like.filter((state) => state > this.following);
    if (ahead.length === 0) return NONE;
    const wide = joined(times.zone(number), ahead.map(zoneOf), like.map(zoneOf));
    const within = new Set(like.filter((state) => isInside(zoneOf(state), wide)));
    const whole = ahead.find((state) => within.has(state));
    if (whole === undefined) return NONE;
    const wider = reader.rows.with(row, [times.column], [times.zoneNumber(wide)]);
    const ways = [...within].map((state) => this.waysTo(state));
    const others = like.filter((state) => !within.has(state)).map((state) => this.waysTo(state));
    this.joins.join(whole, {
      whole: [...ways.flatMap((one) => one.whole), { from, deed }],
      partly: [...ways.flatMap(({ partly }) => partly), ...others.flatMap((one) => [...one.whole, ...one.partly])],
    });
    for (const state of within)
      if (state > whole) {
        this.joins.take(state, whole);
        this.stand(reader.rowOf.at(state), whole);
      }
    this.likeButForTime[alike] = all.filter((state) => state === whole || !within.has(state));
    reader.rowOf.put(whole, wider);
    for (const one of [wider, row]) this.stand(one, whole);
    return whole;
  }

  /** How a state was come to that is no start. */
  waysTo(state: number): Ways {
    const way = { from: this.parents.at(state), deed: this.cameBy.at(state) >> 1 };
    return this.joins.waysTo(state) ?? { whole: [way], partly: [] };
  }

  /** Whether time can have passed in one zone in all ways in which it can in another: these are held against each other again and again. */
  private isWider(wide: number, narrow: number): boolean {
    const key = wide * 2 ** 26 + narrow;
    const known = this.wider.get(key);
    if (known !== undefined) return known;
    const [out, within] = [this.times.zone(wide), this.times.zone(narrow)];
    const isWider = isInside(within, out);
    if (this.wider.size < MOST_PAIRS) this.wider.set(key, isWider);
    return isWider;
  }

  private readonly wider = new Map<number, boolean>();

  /** Where the states stand among those that are alike but for time that are so to a row over a stack; -1 for none. */
  private alikeTo(row: number, stack: number): number {
    if (row !== this.asked || stack !== this.askedOver) {
      this.asked = row;
      this.askedOver = stack;
      this.untimed = this.reader.rows.with(row, [this.times.column], [this.times.kindOf(this.reader.zoneIn(row))]);
      this.alike = this.timeless.get(this.untimed, stack);
    }
    return this.alike;
  }

  /** What that was asked of last, that row as it is whatever time has passed, and what came of it. */
  private asked = NONE;
  private askedOver = NONE;
  private untimed = NONE;
  private alike = NONE;

  /** One state more. */
  private add(row: number, stack: number, parent: number, cameBy: number): number {
    const { reader } = this;
    const state = this.length;
    this.parents.push(parent);
    this.cameBy.push(cameBy);
    if (this.starts.length !== 1 || parent === NONE) this.begun.push(NONE);
    if (stack === EMPTY) this.stand(row, state);
    else this.byBoth.set(row, stack, state);
    if (reader.zoneIn(row) !== 0) {
      const alike = this.alikeTo(row, stack);
      if (alike !== NONE) this.likeButForTime[alike]!.push(state);
      else this.timeless.set(this.untimed, stack, (this.alike = this.likeButForTime.push([state]) - 1));
    }
    reader.rowOf.push(row);
    reader.stackOf.push(stack);
    this.told(row, stack);
    this.show(state, row);
    return state;
  }

  /** Notes which state a row with nothing on its stack is. */
  private stand(row: number, state: number): void {
    const { byRow } = this;
    while (byRow.length < row) byRow.push(NONE);
    if (byRow.length === row) byRow.push(state);
    else byRow.put(row, state);
    this.reader.rows.mark(row);
  }

  /** Marks all rows that are states with nothing on their stacks, where that has to be done anew. */
  markAll(): void {
    const { rows } = this.reader;
    if (this.markedAs === rows.ordered) return;
    this.markedAs = rows.ordered;
    for (let row = 0; row < this.byRow.length; row++) if (this.byRow.at(row) !== NONE) rows.mark(row);
  }

  private markedAs = NONE;

  /** Notes which scenes are on the screen. */
  private show(state: number, row: number): void {
    const { reader } = this;
    const laid = reader.laidIn(row);
    if (laid === this.shown || this.laid.has(laid)) return;
    this.shown = laid;
    this.laid.add(laid);
    for (const frame of [reader.frameIn(row), ...reader.overlaysIn(row).map((overlay) => overlay.frame)])
      if (!this.reached.has(frame)) this.reached.set(frame, state);
  }

  frameOf(state: number): string {
    return this.reader.frameIn(this.reader.rowOf.at(state));
  }

  parentOf(state: number): number {
    return this.parents.at(state);
  }

  /** The frame where the route to a state begins. */
  startOf(state: number): string {
    if (this.starts.length === 1) return this.starts[0]!;
    const passed: number[] = [];
    let at = state;
    for (; this.begun.at(at) === NONE; at = this.overOf(at)?.from ?? this.parents.at(at)) passed.push(at);
    const begun = this.begun.at(at);
    for (const one of passed) this.begun.put(one, begun);
    return this.starts[begun]!;
  }

  /** What it was come to by from its parent; null for a start. */
  stepOf(state: number): Timed | null {
    const cameBy = this.cameBy.at(state);
    return cameBy === NONE ? null : this.stepBy(cameBy >> 1);
  }

  /** What is done, by its number. */
  stepBy(deed: number): Timed {
    return this.deeds[deed]!.step;
  }

  /** All of them, for those who look at each. */
  get list(): readonly State[] {
    for (let state = this.listed.length; state < this.length; state++) {
      const [parent, start] = [this.parents.at(state), this.startOf(state)];
      this.listed.push({ frame: this.frameOf(state), parent, event: this.stepOf(state)?.event ?? null, start });
    }
    return this.listed;
  }
}
