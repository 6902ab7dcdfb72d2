import type { Swing } from './counters.ts';
import type { Rows } from './rows.ts';
import { INITIAL, variableOf, type Slot } from './slots.ts';

/** So many steps beyond all that a number is held against it is followed. */
const MOST_LEVELS = 8;
/** Of these so many have to be alike, and no event may take a number further than half of them. */
const ALIKE = 5;

/**
 * Numbers that are counted up and down without end. They are followed some steps beyond the last value that they are held against. There
 * all is asked alike, wherever a number stands; so where the same states were met with each of the first steps beyond, the same are met
 * with all that follow, and none besides: what a further step leads to, one of these leads to a step below. What is met is really met;
 * what is not, never is.
 */
export class Swings {
  private readonly slots: { readonly slot: Slot; readonly swing: Swing }[] = [];
  /** The furthest that one event took a number that was beyond, in steps. */
  private furthest = 0;

  constructor(
    private readonly rows: Rows,
    private readonly swings: ReadonlyMap<string, Swing>
  ) {}

  /** Whether a number has gone further than it is followed in a row that is come to from another one; with how far it went. */
  isBeyond(from: number, row: number, columns: readonly Slot[]): boolean {
    if (this.swings.size === 0) return false;
    let isBeyond = false;
    for (const { slot, swing } of this.openIn(columns)) {
      const [was, now] = [this.valueIn(from, slot, swing), this.valueIn(row, slot, swing)];
      // What is set to a given value goes nowhere from where it was.
      if (!swing.given.has(now)) this.furthest = Math.max(this.furthest, Math.abs(now - was) / swing.step);
      isBeyond ||= (levelOf(swing, now)?.at ?? 0) >= MOST_LEVELS;
    }
    return isBeyond;
  }

  /** The variables of which the states with a step beyond are not those with the next one. */
  unlike(rowOf: readonly number[], stackOf: readonly number[], columns: readonly Slot[]): readonly string[] {
    const open = this.openIn(columns);
    return open.flatMap(({ slot, swing }) => {
      const met = new Map<string, number>();
      for (const [state, row] of rowOf.entries()) {
        const level = levelOf(swing, this.valueIn(row, slot, swing));
        if (level === null) continue;
        const rest = this.rows.with(row, [slot.column], [INITIAL]);
        const key = `${rest} ${stackOf[state]!} ${level.side} ${level.among}`;
        met.set(key, (met.get(key) ?? 0) | (level.at < ALIKE ? 1 << level.at : 0));
      }
      const all = (1 << ALIKE) - 1;
      const isAlike = this.furthest * 2 < ALIKE && [...met.values()].every((levels) => levels === all);
      return isAlike ? [] : [variableOf(slot.key)];
    });
  }

  private openIn(columns: readonly Slot[]) {
    for (let at = this.known; at < columns.length; at++) {
      const slot = columns[at]!;
      const swing = slot.kind === 'variable' || slot.kind === 'variables' ? this.swings.get(variableOf(slot.key)) : undefined;
      if (swing) this.slots.push({ slot, swing });
    }
    this.known = columns.length;
    return this.slots;
  }

  private known = 0;

  private valueIn(row: number, { column, values }: Slot, { initial }: Swing): number {
    const number = this.rows.at(row, column);
    return number === INITIAL ? initial : (values[number] as number);
  }
}

interface Level {
  readonly side: 'over' | 'under';
  /** Steps beyond, from 0 on. */
  readonly at: number;
  /** What is left of the way there when only whole steps are taken: what differs in it never meets. */
  readonly among: number;
}

function levelOf({ low, high, step }: Swing, value: number): Level | null {
  const over = value > high ? value - high : value < low ? low - value : 0;
  if (over <= 0) return null;
  const at = Math.ceil(over / step - 1e-9) - 1;
  return { side: value > high ? 'over' : 'under', at, among: Math.round((over - at * step) * 1e6) };
}
