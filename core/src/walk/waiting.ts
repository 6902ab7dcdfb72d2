import type { Account } from './account.ts';
import type { Here } from './asking.ts';
import { AS_BEFORE, type Clock, type Due, type Landing } from './clock.ts';
import type { Effect, Effects } from './effects.ts';
import type { Way } from './lane-table.ts';
import type { Lane, Lanes } from './lanes.ts';
import type { Looks } from './looks.ts';
import type { Memory } from './memory.ts';
import type { Reader } from './reader.ts';
import { isDueNow } from './zones.ts';

/** What is known of the states that are explored, as far as lanes are made of it. */
export interface Explored {
  readonly memory: Memory;
  readonly reader: Reader;
  readonly clock: Clock;
  readonly effects: Effects;
  readonly looks: Looks;
  readonly account: Account;
  readonly lanes: Lanes;
}

/**
 * Lanes of states in which something waits: what is due, and what starts or ends waiting, leads in all states with one zone to one other
 * zone, so that it is gone along like all else once nothing more is to be told of it.
 */
export class Waiting {
  constructor(private readonly known: Explored) {}

  /** The lane of a row, where the same waits and can be done often; null where it does not. */
  laneIn(row: number, zone: number): Lane | null {
    const { looks, lanes, clock, reader } = this.known;
    const look = looks.atOnce(row);
    return look && lanes.waitingIn(row, look, () => clock.duesIn(zone, reader.rootsIn(row)).map(({ event }) => event));
  }

  /** Keeps where the event with a place in a lane leads from a row, where there is nothing more to be told of it. */
  keep(lane: Lane, i: number, row: number, here: Here, effect: Effect, event: number, due: Due | null): void {
    if (lane.isSlow(i) || (due && isWithOthers(due))) return;
    const { memory, reader, clock, effects, account } = this.known;
    const { rows } = reader;
    const { outcome } = effect;
    const isTold = effect.isPlain && effect.isUsed && effect.isEntered && (effect.hasMoved || outcome.clearing.length === 0);
    const looked = isTold && memory.lookedAt(outcome, here);
    if (!looked || looked.some(([column]) => due?.passed.has(column))) return;
    const landing = clock.land(reader.zoneIn(row), due, outcome, here);
    // Where no more waits than before, it may be left out here, and not there.
    if (landing.isFull === 'not followed' || (landing.isFull && effect.columns.length > 0)) return;
    const way = this.wayBy(effect, landing);
    const next = rows.with(row, way.columns, way.values);
    // What is due at the same moment would follow at once.
    if (due && clock.dueAtOnce(reader.zoneIn(next), reader.rootsIn(next))) return;
    const leap = rows.leapFrom(row, way.columns, way.values);
    if (leap === null || !lane.isNow) return;
    const step = effects.step(effect, event, due ? clock.waitFor(due) : memory.events[event]!, landing.move);
    const columns = looked.map(([column]) => column);
    lane.keep(i, row, columns, leap, way, effects.deed(effect, step), account.isFull(effect));
  }

  /** What becomes of a row by an effect, with what waits then. */
  private wayBy(effect: Effect, { zone, columns, values, isFull }: Landing): Way {
    if (isFull) return { number: effect.number, columns: NONE, values: NONE };
    if (zone === AS_BEFORE) return effect;
    const set = new Map(effect.columns.map((column, i) => [column, effect.values[i]!]));
    columns.forEach((column, i) => set.set(column, values[i]!));
    set.set(this.known.memory.times.column, zone);
    return { number: effect.number, columns: [...set.keys()], values: [...set.values()] };
  }
}

/** Whether something else is due at that moment: which of them comes first may make a difference. */
const isWithOthers = ({ zone, at }: Due): boolean => zone.waits.some((_, i) => i !== at && isDueNow(zone, i));

const NONE: readonly never[] = [];
