import { findPlace } from '../run/environment.ts';
import { HEARD } from '../run/heard.ts';
import { groundOf, reachOf } from '../run/reach.ts';
import type { Pressed, RunState } from '../run/state.ts';
import { PlainStore } from '../run/store.ts';
import type { Ambient } from './ambient.ts';
import type { Clock } from './clock.ts';
import type { Memory } from './memory.ts';
import { atMidway } from './midway.ts';
import type { First } from './moves.ts';
import type { Reader } from './reader.ts';
import { settle } from './settle.ts';
import type { Telling } from './telling.ts';
import type { Slot } from './slots.ts';
import { waitingIn } from './waits.ts';
import { holds } from './zones.ts';

/** In which of the states that were met a run is. */
export class Whereabouts {
  /** States by their rows but for time, whatever is on their back stacks. */
  private readonly alike = new Map<number, number[]>();
  /** So many states are listed by that so far. */
  private listed = 0;
  private readonly rowsAlone: (number | undefined)[] = [];

  constructor(
    private readonly memory: Memory,
    private readonly reader: Reader,
    private readonly clock: Clock,
    /** Columns that are left as they begin. */
    private readonly left: ReadonlySet<number>,
    private readonly asked: () => { readonly telling: Telling; readonly ambient: Ambient }
  ) {}

  /** A row but for time. */
  private alone(row: number): number {
    const { times, slots } = this.memory;
    if (times.column < 0) return row;
    const columns = [times.column, ...slots.passing.map(({ column }) => column)];
    return (this.rowsAlone[row] ??= this.reader.rows.with(
      row,
      columns,
      columns.map(() => 0)
    ));
  }

  /** What waits in a run, in the order of a state; null where it is not the same. */
  inOrder(run: RunState, state: number): First[] | null {
    const zone = this.reader.zoneOf(state);
    const stopped = atMidway(this.memory.watched, run);
    const waiting = [...this.clock.firstOf(waitingIn(this.memory.watched, stopped, this.asked().ambient))].sort((a, b) => a.left - b.left);
    if (waiting.length !== zone.waits.length) return null;
    const found = zone.waits.flatMap((wait) => {
      const at = waiting.findIndex((one) => one.wait === wait);
      return at < 0 ? [] : waiting.splice(at, 1);
    });
    return found.length === zone.waits.length ? found : null;
  }

  /** The state that a run is in; null for one that was not met. */
  stateFor(given: RunState): number | null {
    const run = this.settled(given);
    for (; this.listed < this.reader.rowOf.length; this.listed++) {
      const alone = this.alone(this.reader.rowOf.at(this.listed));
      const alike = this.alike.get(alone);
      if (alike) alike.push(this.listed);
      else this.alike.set(alone, [this.listed]);
    }
    return (this.alike.get(this.rowOfRun(run)) ?? []).find((state) => this.isThen(state, run)) ?? null;
  }

  isAt(state: number, given: RunState): boolean {
    const run = this.settled(given);
    return this.rowOfRun(run) === this.alone(this.reader.rowOf.at(state)) && this.isThen(state, run);
  }

  private settled(given: RunState): RunState {
    const store = new PlainStore(atMidway(this.memory.watched, given));
    settle(this.memory.watched, store, this.asked().telling, this.asked().ambient);
    const { run } = store;
    return run.pressed ? { ...run, pressed: this.pressedAs(run, run.pressed) } : run;
  }

  /** A press is tried at one place of a layer, and a person makes it anywhere on that. */
  private pressedAs(run: RunState, pressed: Pressed): Pressed {
    const program = this.memory.watched;
    const node = findPlace(program, run, pressed.node)?.node;
    const reach = node ? reachOf({ program, run }, node, HEARD.hold) : groundOf({ program, run }, pressed.scene, HEARD.hold);
    return reach && 'point' in reach ? { ...pressed, from: reach.point } : pressed;
  }

  /** Whether time has passed in a run in one of the ways of a state that it is like. */
  private isThen(state: number, run: RunState): boolean {
    const zone = this.reader.zoneOf(state);
    const waiting = this.inOrder(run, state);
    return (
      waiting !== null &&
      holds(
        zone,
        waiting.map(({ left }) => left)
      )
    );
  }

  /** All of a run at rest that tells runs apart, but for time, as a row, whatever is left here. */
  fullRowOf(run: RunState): number {
    return this.rowWith([...this.memory.slots.valuesOf(this.settled(run))]);
  }

  /** What tells a run apart, but for time, as a row. */
  rowOfRun(run: RunState): number {
    return this.rowWith([...this.memory.slots.valuesOf(run)].filter(([slot]) => !this.left.has(slot.column)));
  }

  private rowWith(set: readonly (readonly [slot: Slot, value: number])[]): number {
    const columns = set.map(([slot]) => slot.column);
    return this.reader.rows.with(
      -1,
      columns,
      set.map(([, value]) => value)
    );
  }
}
