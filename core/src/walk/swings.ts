import type { Swing } from './counters.ts';
import type { Ints } from './ints.ts';
import type { Rows } from './rows.ts';
import { INITIAL, variableOf, type Slot } from './slots.ts';

/**
 * So many steps beyond all that they are held against, and beyond each other, numbers are followed, and but for the first all have to be
 * alike, where no event takes one further than that: by how many numbers there are.
 */
const FOLLOWED = [
  { levels: 6, furthest: 2 },
  { levels: 8, furthest: 1 },
  { levels: 4, furthest: 1 },
] as const;

/** What has gone beyond these is followed so many steps more, for what comes back from there. */
const MORE = 2;

/**
 * Numbers that are counted up and down, or beside another one, without end. They are followed some steps beyond the last value that they
 * are held against. There all is asked alike, wherever a number stands, and however far from the other; so where the same states were met
 * with each of some steps beyond, and between the two, the same are met with all that follow, and none besides: what a further step leads
 * to, one of these leads to some steps below. What is met is really met; what is not, never is.
 */
export class Swings {
  private readonly all: Followed[] = [];

  constructor(
    private readonly rows: Rows,
    private readonly swings: readonly Swing[],
    private readonly floors: ReadonlyMap<string, number>
  ) {}

  /** Whether there are any. */
  get isOpen(): boolean {
    return this.swings.length > 0;
  }

  /** Whether a number has gone further than it is followed in a row that is come to from another one; with how far it went. */
  isBeyond(from: number, row: number, columns: readonly Slot[]): boolean {
    if (this.swings.length === 0) return false;
    let isBeyond = false;
    for (const one of this.openIn(columns)) {
      const { swing, slots } = one;
      const [was, now] = [this.valuesIn(from, slots), this.valuesIn(row, slots)];
      for (const value of now) {
        // What is set to a given value, or to what another one held, goes nowhere from where it was.
        if (!swing.given.has(value)) one.furthest = Math.max(one.furthest, Math.min(...was.map((old) => Math.abs(value - old))) / swing.step);
        isBeyond ||= beyond(swing, value) > mostOf(swing);
      }
    }
    return isBeyond;
  }

  /** The variables of which the states with a step beyond are not those with the next one. */
  unlike(rowOf: Ints, stackOf: Ints, columns: readonly Slot[]): readonly string[] {
    return this.openIn(columns).flatMap(({ swing, slots, furthest }) => {
      const { levels: all, furthest: most } = FOLLOWED[slots.length - 1]!;
      /** By what else is so: how many were met, of how many there are to be. */
      const met = new Map<string, { count: number; readonly all: number }>();
      const open = slots.flatMap(({ slot }) => slot?.column ?? []);
      const begun = open.map(() => INITIAL);
      for (let state = 0; state < rowOf.length; state++) {
        const row = rowOf.at(state);
        const { words, levels } = placeOf(swing, this.valuesIn(row, slots));
        if (levels.length === 0) continue;
        const rest = this.rows.with(row, open, begun);
        // The first step beyond is apart: what comes there from below may never come further.
        const key = `${rest} ${stackOf.at(state)} ${words} ${levels.map((level) => Math.min(level, 1)).join()}`;
        let one = met.get(key);
        if (!one) met.set(key, (one = { count: 0, all: (all - 1) ** levels.filter((level) => level > 0).length }));
        if (levels.every((level) => level < all)) one.count++;
      }
      const isAlike = furthest <= most + EPSILON && [...met.values()].every((one) => one.count === one.all);
      return isAlike ? [] : [...swing.initial.keys()];
    });
  }

  /** The variables that were less than what is told of them takes them to be. */
  under(rowOf: Ints, columns: readonly Slot[]): readonly string[] {
    if (this.floors.size === 0) return [];
    return columns.filter(isVariable).flatMap(({ key, column, values }) => {
      const floor = this.floors.get(variableOf(key)) ?? -Infinity;
      const under = new Set(values.flatMap((value, number) => (typeof value === 'number' && value < floor ? number : [])));
      return under.size && rowOf.some((row) => under.has(this.rows.at(row, column))) ? [variableOf(key)] : [];
    });
  }

  /** The swings of which something has a column by now. */
  private openIn(columns: readonly Slot[]): readonly Followed[] {
    for (let at = this.known; at < columns.length; at++) {
      const slot = columns[at]!;
      if (!isVariable(slot)) continue;
      const id = variableOf(slot.key);
      const swing = this.swings.find(({ initial }) => initial.has(id));
      const own = swing && this.all.find((one) => one.swing === swing && one.slots.length > 1)?.slots.find((one) => one.id === id);
      if (own) own.slot = slot;
      else if (swing) this.all.push(followedOf(swing, id, slot));
    }
    this.known = columns.length;
    return this.all;
  }

  private known = 0;

  private valuesIn(row: number, slots: Followed['slots']): readonly number[] {
    return slots.map(({ slot, initial }) => {
      const number = slot ? this.rows.at(row, slot.column) : INITIAL;
      return number === INITIAL ? initial : (slot!.values[number] as number);
    });
  }
}

const isVariable = ({ kind }: Slot): boolean => kind === 'variable' || kind === 'variables';

/** Numbers that are followed together, with their slots as far as they have one. */
interface Followed {
  readonly swing: Swing;
  readonly slots: readonly { readonly id: string; readonly initial: number; slot: Slot | null }[];
  /** The furthest that an event took one, in steps. */
  furthest: number;
}

const followedOf = (swing: Swing, id: string, slot: Slot): Followed => ({
  swing,
  slots: Array.from(swing.initial, ([one, initial]) => ({ id: one, initial, slot: one === id ? slot : null })),
  furthest: 0,
});

const EPSILON = 1e-9;

/** How far beyond values are followed. */
function mostOf({ step, near, initial }: Swing): number {
  const numbers = initial.size;
  return (numbers * FOLLOWED[numbers - 1]!.levels + MORE) * step + (numbers - 1) * near;
}

/** How far a value lies beyond all that it is held against. */
const beyond = ({ low, high, near }: Swing, value: number): number => Math.max(0, value - high - near, low - near - value);

/**
 * Where numbers stand: how many steps lie between the last that they are held against and the first beyond, and between that and the next;
 * and in words all else, which differs in nothing that ever meets.
 */
function placeOf(swing: Swing, values: readonly number[]): { readonly words: string; readonly levels: readonly number[] } {
  const levels: number[] = [];
  const words: string[] = [];
  const add = (at: number, gap: number, side: string, isNear: boolean) => {
    const level = isNear ? 0 : Math.ceil(gap / swing.step - EPSILON) - 1;
    if (!isNear) levels.push(level);
    words.push(`${at} ${isNear ? 'near' : side} ${Math.round((gap - level * swing.step) * 1e6)}`);
  };
  for (const side of [1, -1]) {
    const edge = side > 0 ? swing.high + swing.near : swing.near - swing.low;
    const out = values.map((value, at) => ({ at, way: side * value })).filter(({ way }) => way > edge + EPSILON);
    out.sort((a, b) => a.way - b.way);
    for (const [i, { at, way }] of out.entries()) {
      const gap = way - (i ? out[i - 1]!.way : edge);
      const isNear = i > 0 && gap <= swing.near + EPSILON;
      add(at, gap - (i > 0 && !isNear ? swing.near : 0), side > 0 ? 'over' : 'under', isNear);
    }
  }
  for (const [at, value] of values.entries()) if (beyond(swing, value) <= EPSILON) words.push(`${at} at ${value}`);
  return { words: words.join(), levels };
}
