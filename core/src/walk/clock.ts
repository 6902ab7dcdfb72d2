import type { RunEvent } from '../run/state.ts';
import type { Reading, Slot } from './slots.ts';
import type { Memory } from './memory.ts';
import { MOST_ALIKE } from './hurry.ts';
import type { Outcome, Started } from './outcome.ts';
import { columnOfWait } from './times.ts';
import { oneAt, type First, type InTime, type Move, type OneOf } from './moves.ts';
import { comesToOne, inUnits, tooMany, unitsIn, waitOfHead, type Wait, type Waiting } from './waits.ts';
import {
  areTied,
  dueFirst,
  earliest,
  isAnyDueNow,
  isDueNow,
  inOrder,
  isReached,
  later,
  mostLeft,
  NOTHING_WAITS,
  SLACK,
  started,
  without,
  type Zone,
} from './zones.ts';

/** One thing that waits, being due. */
export interface Due {
  /** Its place in the zone. */
  readonly at: number;
  readonly wait: number;
  readonly event: number;
  /** How long it takes until then for somebody who came as soon as can be, in units. */
  readonly after: number;
  /** All ways in which time can have passed then; it is still in it. */
  readonly zone: Zone;
  /** How long ago playheads came to where they were last, as numbers in their columns. */
  readonly passed: ReadonlyMap<number, number>;
  /** What has to be due later than that, not with it. */
  readonly later: readonly OneOf[];
}

/** What waits after an outcome. */
export interface Landing {
  /** The number of the zone; `AS_BEFORE` where it stays. */
  readonly zone: number;
  /** What playheads have passed then, as columns and numbers. */
  readonly columns: readonly number[];
  readonly values: readonly number[];
  /** Too much of one kind would wait: what would come of it is no other than before, or is not followed. */
  readonly isFull: 'no more' | 'not followed' | null;
  readonly move: Move;
}

/** The zone is the one that it was. */
export const AS_BEFORE = -1;

/** In this order things happen that are due at one moment. */
const ORDER: readonly Wait['kind'][] = ['timer', 'steps', 'head', 'long press'];

/** Lets time pass over what waits, for what is explored without some of it. */
export class Clock {
  private readonly dues = new Map<string, readonly Due[]>();
  private readonly landings = new Map<InTime, Map<number | Due, Landing>>();
  /** Those of what has nothing to do with time: where nothing is due at once, and where something is. */
  private readonly still = new Map<InTime, { readonly atRest: Landing; readonly not: Landing }>();

  constructor(
    private readonly memory: Memory,
    /** Columns that are left as they begin; those of what waits among them. */
    private readonly left: ReadonlySet<number>
  ) {}

  /** What waits at the beginning, with so much left of each. */
  begun(waits: readonly Waiting[]): Omit<Landing, 'move' | 'isFull'> {
    const own = this.firstOf(waits);
    const zone = started(
      NOTHING_WAITS,
      own.map(({ wait, left }) => ({ wait, span: left }))
    );
    return this.landed({ ...zone, spans: own.map(({ span }) => span) });
  }

  /** The same, as a route begins with it. */
  firstOf(waits: readonly Waiting[]): readonly First[] {
    const { times, watched } = this.memory;
    return waits
      .map(({ wait, span, left }) => ({ wait: times.numberOf(wait), span: inUnits(watched, span), left: inUnits(watched, left) }))
      .filter(({ wait }) => !this.left.has(columnOfWait(wait)));
  }

  /** Waiting until something is due, for somebody who came as soon as can be. */
  waitFor = ({ after }: Due): RunEvent & { readonly type: 'wait' } => ({ type: 'wait', ms: after / unitsIn(this.memory.watched) });

  /** What can be due next in a zone; of what is due at one moment the scenes on the screen, from back to front, say what comes first. */
  duesIn(number: number, roots: readonly string[]): readonly Due[] {
    const key = `${number} ${roots.join()}`;
    let dues = this.dues.get(key);
    if (!dues) this.dues.set(key, (dues = this.allDueIn(this.memory.times.zone(number), roots)));
    return dues;
  }

  private allDueIn(zone: Zone, roots: readonly string[]): readonly Due[] {
    const { times } = this.memory;
    const rankOf = (i: number): number => {
      const wait = times.waits[zone.waits[i]!]!;
      const scene = wait.kind === 'steps' ? 0 : roots.indexOf(wait.scene);
      return (ORDER.indexOf(wait.kind) * (roots.length + 1) + scene) * MOST_WAITS + i;
    };
    return zone.waits.flatMap((wait, at): readonly Due[] => {
      const rank = rankOf(at);
      const isFirst = (j: number): boolean => {
        if (zone.waits[j] === wait || !this.areOfOneKind(zone, j, at)) return rankOf(j) < rank;
        // They began at two moments, or it is known in which order they did.
        return !areTied(zone, j, at) || j < at;
      };
      const then = dueFirst(zone, at, isFirst);
      if (!then) return [];
      const passed = new Map<number, number>();
      zone.waits.forEach((_, i) => {
        const head = this.headAt(zone, i);
        if (head) passed.set(...this.passedAt(head, i === at ? zone.spans[i]! : zone.spans[i]! - mostLeft(then, i)));
      });
      const behind = zone.waits.flatMap((_, j) => (j !== at && isFirst(j) ? [oneAt(zone.waits, j)] : []));
      return [{ at, wait, event: this.memory.dueNumber(wait), after: mostLeft(zone, at), zone: then, passed, later: behind }];
    });
  }

  /** Whether of two things that are due at one moment that comes first which began first. */
  private areOfOneKind({ waits }: Zone, i: number, j: number): boolean {
    const { times } = this.memory;
    const [one, other] = [times.waits[waits[i]!]!, times.waits[waits[j]!]!];
    return one.kind === 'steps' ? other.kind === 'steps' : one.kind === 'timer' && other.kind === 'timer' && one.scene === other.scene;
  }

  /** Whether it is looked at when what waits began to, beside how much of it is left. */
  get isExact(): boolean {
    return this.memory.slots.passing.length > 0;
  }

  /** The places of what waits in the one order in which it stands in zones, whatever began first, as far as that makes no difference. */
  orderOf(zone: Zone): readonly number[] {
    const { waits } = zone;
    const places = [...waits.keys()];
    if (waits.length < 2) return places;
    const isFixed = (i: number) => !['steps', 'timer'].includes(this.memory.times.waits[waits[i]!]!.kind);
    const [fixed, others] = [places.filter(isFixed), places.filter((i) => !isFixed(i))];
    // Whether it is exact may turn out late: what is of another kind stands where it does all the same.
    if (this.isExact) return [...fixed, ...others];
    const order = [...fixed, ...others.sort((a, b) => waits[a]! - waits[b]! || a - b)];
    const isAsked = (i: number, j: number) => j < i && this.areOfOneKind(zone, i, j) && areTied(zone, i, j);
    return order.some((i, at) => order.some((j, other) => other > at && isAsked(i, j))) ? places : order;
  }

  private headAt(zone: Zone, i: number): HeadWait | null {
    const wait = this.memory.times.waits[zone.waits[i]!]!;
    return wait.kind === 'head' ? wait : null;
  }

  /** A column and the number in it that say how long ago a playhead came to where it was last, in units. */
  private passedAt({ scene, instance }: HeadWait, passed: number): readonly [column: number, value: number] {
    const { slots } = this.memory;
    const slot = slots.named(`${scene}|since|${instance}`);
    const number = slots.keep(slot, String(passed), passed);
    return [slot.column, number];
  }

  /** Whether what has nothing to do with time leaves what waits in a zone as it was, and asks nothing of it. */
  isStill(number: number): boolean {
    if (number === 0) return true;
    return !this.isExact && !isAnyDueNow(this.memory.times.zone(number));
  }

  /** What waits after an outcome: of what somebody did at any moment of a zone, or of what was due. */
  land(number: number, due: Due | null, outcome: Outcome, reading: Reading): Landing {
    if (number === 0 && outcome.starts.length === 0) return TIMELESS;
    const zone = due ? due.zone : this.memory.times.zone(number);
    const time = this.timeIn(outcome, this.headsAsked(zone, outcome, reading));
    if (!due && time.isNothing) return this.stillIn(zone, time);
    let known = this.landings.get(time);
    if (!known) this.landings.set(time, (known = new Map<number | Due, Landing>()));
    const key = due ?? number;
    let landing = known.get(key);
    if (!landing) known.set(key, (landing = this.made(number, due, time)));
    return landing;
  }

  /** What has nothing to do with what waits: one for all zones. */
  private stillIn(zone: Zone, time: InTime): Landing {
    const isAtRest = !isAnyDueNow(zone);
    if (isAtRest && time.isNothing) return TIMELESS;
    let still = this.still.get(time);
    if (!still) {
      const landing = (isAtRest: boolean): Landing => ({
        zone: AS_BEFORE,
        columns: NONE,
        values: NONE,
        isFull: null,
        move: { time, due: null, later: NONE, exact: NONE, isAtRest },
      });
      this.still.set(time, (still = { atRest: landing(true), not: landing(false) }));
    }
    return isAtRest ? still.atRest : still.not;
  }

  private made(number: number, due: Due | null, time: InTime): Landing {
    const { times } = this.memory;
    const before = due ? due.zone : times.zone(number);
    const { starts, asked } = time;
    const exact =
      asked.size === 0
        ? NONE
        : before.waits.flatMap((wait, at) =>
            at !== due?.at && asked.has(wait)
              ? { wait, passed: before.spans[at]! - mostLeft(before, at), slack: isReached(before, at) ? 0 : SLACK }
              : []
          );
    const gone = before.waits.map((wait, at) => at === due?.at || time.isEnded(wait));
    const move = { time, due: due?.wait ?? null, later: due?.later ?? NONE, exact };
    // Most of what is done has nothing to do with time.
    if (!due && exact.length === 0 && starts.length === 0 && !gone.includes(true)) return this.stillIn(before, time);
    const then = earliest(
      before,
      exact.map(({ wait }) => before.waits.indexOf(wait))
    );
    const kept = without(then, (i) => gone[i]!);
    const full = starts.length ? tooMany([...kept.waits, ...starts.map(({ wait }) => wait)].map((wait) => times.waits[wait]!)) : NONE;
    if (full.length && starts.some(({ wait }) => full.includes(times.waits[wait]!))) {
      const isSame = full.every((wait) => this.comesToOne(wait));
      return { zone: number, columns: NONE, values: NONE, isFull: isSame ? 'no more' : 'not followed', move: { ...move, isAtRest: false } };
    }
    const after = started(kept, starts);
    return { ...this.landed(after), move: { ...move, isAtRest: !isAnyDueNow(after) }, isFull: null };
  }

  private landed(zone: Zone): Omit<Landing, 'move' | 'isFull'> {
    const { times, slots } = this.memory;
    const passing = later(inOrder(zone, this.orderOf(zone)));
    const passed = new Map<number, number>(slots.passing.map(({ column }) => [column, 0]));
    passing.waits.forEach((_, i) => {
      const head = this.headAt(passing, i);
      if (head) passed.set(...this.passedAt(head, passing.spans[i]! - mostLeft(passing, i)));
    });
    return { zone: times.zoneNumber(passing), columns: [...passed.keys()], values: [...passed.values()] };
  }

  /** The playheads under way of which is asked how far they have come, to know what comes of something in a state. */
  private headsAsked(zone: Zone, outcome: Outcome, reading: Reading): readonly number[] {
    return this.isExact && zone.waits.some((wait) => this.isOfHead(wait)) ? this.allHeadsAsked(outcome, reading) : NONE;
  }

  private allHeadsAsked(outcome: Outcome, reading: Reading): readonly number[] {
    const { slots, times } = this.memory;
    const passing: Slot[] = [];
    for (const column of this.memory.askedIn(outcome, reading)) {
      const slot = slots.columns[column];
      if (slot?.kind === 'since' && !passing.includes(slot)) passing.push(slot);
    }
    if (passing.length === 0) return NONE;
    return slots.passing.filter((slot) => passing.includes(slot)).map(({ scene, key }) => times.numberOf(waitOfHead(scene!, key)));
  }

  private readonly times = new Map<Outcome, Map<string, InTime>>();
  private readonly alike = new Map<string, InTime>();

  /** What an outcome has to do with time: one for all that have the same to do with it. */
  private timeIn(outcome: Outcome, asked: readonly number[] = NONE): InTime {
    if (asked.length > 0) return this.timeAsked(outcome, asked);
    const number = this.memory.numberOf(outcome);
    return (this.unasked[number] ??= this.timeAsked(outcome, asked));
  }

  private readonly unasked: (InTime | undefined)[] = [];

  private timeAsked(outcome: Outcome, asked: readonly number[]): InTime {
    let known = this.times.get(outcome);
    if (!known) this.times.set(outcome, (known = new Map<string, InTime>()));
    const key = asked.join();
    let found = known.get(key);
    if (!found) {
      const own = outcome.starts.filter(({ wait }) => !this.left.has(columnOfWait(wait)));
      const starts = this.asManyAsCount(own);
      const { ended, endedHeads } = outcome;
      const words = JSON.stringify([asked, starts, ended, endedHeads]);
      const isNothing = [asked, starts, ended, endedHeads].every(({ length }) => length === 0);
      found = this.alike.get(words) ?? { starts, asked: new Set(asked), isEnded: this.endsOf(outcome), isNothing };
      this.alike.set(words, found);
      known.set(key, found);
    }
    return found;
  }

  /** What begins to wait at one moment, but for what is due with as many others as are followed, and comes to the same as they do. */
  private asManyAsCount(all: readonly Started[]): readonly Started[] {
    if (all.length <= MOST_ALIKE) return all;
    const counts = new Map<string, number>();
    return all.filter(({ wait, span }) => {
      const key = `${wait} ${span}`;
      const count = (counts.get(key) ?? 0) + 1;
      counts.set(key, count);
      return count <= MOST_ALIKE || !this.comesToOne(this.memory.times.waits[wait]!);
    });
  }

  private comesToOne(wait: Wait): boolean {
    return wait.kind === 'steps' && comesToOne(this.memory.watched, wait.activity);
  }

  private endsOf(outcome: Outcome): InTime['isEnded'] {
    if (outcome.ended.length === 0 && outcome.endedHeads.length === 0) return () => false;
    const known = new Map<number, boolean>();
    return (wait) => {
      let isEnded = known.get(wait);
      if (isEnded === undefined) known.set(wait, (isEnded = this.memory.times.isEnded(outcome, wait)));
      return isEnded;
    };
  }

  /** Whether an outcome ends anything that may wait here. */
  hits = (outcome: Outcome): boolean => {
    const { isEnded } = this.timeIn(outcome);
    return this.memory.times.waits.some((_, wait) => !this.left.has(columnOfWait(wait)) && isEnded(wait));
  };

  /** What waits after an outcome, where so much waited before. */
  waitsAfter(outcome: Outcome, waits: readonly Started[]): readonly Started[] {
    const { starts, isEnded } = this.timeIn(outcome);
    return [...waits.filter(({ wait }) => !isEnded(wait)), ...starts];
  }

  isOfHead(wait: number): boolean {
    return this.memory.times.waits[wait]!.kind === 'head';
  }

  /** How long ago a playhead came to where it was last, as it comes to its next stop after so many units of time; null for what is none. */
  passedBy({ wait, span }: Started): ReadonlyMap<number, number> | null {
    const head = this.memory.times.waits[wait]!;
    return head.kind === 'head' ? new Map([this.passedAt(head, span)]) : null;
  }

  /** What is the first to happen of what waits for no time at all; null where nothing does. */
  firstAtOnce(waits: readonly Started[]): readonly Started[] | null {
    const { times } = this.memory;
    const rankOf = ({ wait }: Started) => ORDER.indexOf(times.waits[wait]!.kind);
    const atOnce = waits.filter(({ span }) => span === 0);
    const first = Math.min(...atOnce.map(rankOf));
    return atOnce.length ? atOnce.filter((one) => rankOf(one) === first) : null;
  }

  /** Whether it was asked of any playhead among what waits how far it has come, to know what comes of something. */
  isAnyAsked(waits: readonly Started[], outcome: Outcome, reading: Reading): boolean {
    return this.isExact && this.allHeadsAsked(outcome, reading).some((asked) => waits.some(({ wait }) => wait === asked));
  }

  /** What is due at once in a zone, the first of it first; null where nothing is. */
  dueAtOnce(number: number, roots: readonly string[]): Due | null {
    const zone = this.memory.times.zone(number);
    if (!isAnyDueNow(zone)) return null;
    return this.duesIn(number, roots).find(({ at }) => isDueNow(zone, at)) ?? null;
  }
}

const NONE: readonly never[] = [];

/** What comes of what has nothing to do with time, where nothing is due at once. */
export const TIMELESS: Landing = {
  zone: AS_BEFORE,
  columns: NONE,
  values: NONE,
  isFull: null,
  move: { time: { starts: NONE, asked: new Set(), isEnded: () => false, isNothing: true }, due: null, later: NONE, isAtRest: true, exact: NONE },
};

type HeadWait = Wait & { readonly kind: 'head' };

/** More than anything that waits at once. */
const MOST_WAITS = 100_000;
