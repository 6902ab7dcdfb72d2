import type { Asking, Here } from './asking.ts';
import { Decisions } from './decisions.ts';
import type { Lane } from './lanes.ts';
import type { Memory } from './memory.ts';
import type { Seen } from './outcome.ts';
import type { Reader } from './reader.ts';

/** What is seen, and what can be done, as numbers of events. */
export interface Look {
  readonly seen: Seen;
  readonly events: readonly number[];
  /** Account was kept of both, where nothing moves. */
  isUsed: boolean;
  /** There is nothing else to do about it, where nothing moves. */
  isPlain: boolean;
  /** Too much tells it apart for it to be found at once. */
  isWide: boolean;
  /** Where all leads that can be done, where nothing waits. */
  lane: Lane | null;
}

/** What there is to see and to do in states: found at once where few columns tell it apart, else asked of the memory. */
export class Looks {
  private readonly decisions = new Decisions<Look>();
  private readonly all = new Map<readonly number[], Look[]>();

  constructor(
    private readonly memory: Memory,
    private readonly reader: Reader,
    private readonly asking: () => Asking
  ) {}

  /** What there is to see and to do in a row, where that is known at once. */
  atOnce(row: number): Look | null {
    const { reader, memory, decisions } = this;
    const known = decisions.asOf(memory.version).find(reader.frameNumberIn(row), reader.rows, row);
    return known < 0 ? null : decisions.answers[known]!;
  }

  /** The same in a state, asked for where it is not known. */
  in(state: number, row: number, glance: Here, here: () => Here): Look {
    const known = this.atOnce(row);
    if (known) return known;
    const { memory, reader } = this;
    const frame = reader.frameIn(row);
    const seen = memory.knownSeen(frame, glance) ?? memory.seenIn(frame, here(), () => this.asking().look(here()));
    const events = memory.knownEvents(frame, glance) ?? memory.eventsOf(frame, here(), () => this.asking().find(here()));
    const look = this.of(seen, events);
    if (look.isWide) return look;
    const looked = [seen, events].map((answer) => memory.lookedAt(answer, reader.glanceAt(state)));
    const columns = looked.every((one) => one !== null) ? new Map(looked.flat()) : null;
    look.isWide = !columns || !this.decisions.asOf(memory.version).keep(reader.frameNumberIn(row), [...columns], look);
    return look;
  }

  private of(seen: Seen, events: readonly number[]): Look {
    const known = this.all.get(events);
    let look = known?.find((one) => one.seen === seen);
    if (look) return look;
    look = { seen, events, isUsed: false, isPlain: false, isWide: false, lane: null };
    if (known) known.push(look);
    else this.all.set(events, [look]);
    return look;
  }
}
