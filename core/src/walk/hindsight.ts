import type { Clock } from './clock.ts';
import type { Coming } from './joins.ts';
import type { Met } from './met.ts';
import { isOneOf, type Move, type Timed } from './moves.ts';
import type { Reader } from './reader.ts';
import { among, both, dueFirst, earlier, earliest, inOrder, later, started, without, type Zone } from './zones.ts';

/** A move, as zones: in which ways time can have passed in a state, as the move is made there, right after it, and then. */
interface Passage {
  readonly before: Zone;
  readonly then: Zone;
  readonly next: Zone;
  readonly after: Zone;
  readonly isDue: boolean;
  /** The places before it of what still waits right after it, where that stands first; and in which order all that waits stands then. */
  readonly kept: readonly number[];
  readonly order: readonly number[];
}

/** The way to a state, and in which ways time has to have passed where it comes from. */
export interface Recalled extends Coming {
  readonly wanted: Zone;
}

/**
 * Looks back from what is done in a state to how it was come to, where several ways lead there that differ in time alone: by which of
 * them time can have passed as it has to. (The predecessors of zones, as for timed automata.)
 */
export class Hindsight {
  constructor(
    private readonly met: Met,
    private readonly reader: Reader,
    private readonly clock: Clock
  ) {}

  /** In which ways time has to have passed in a state for some steps to be taken there, one after the other: in any, where they cannot be. */
  wantedFor(state: number, steps: readonly Timed[]): Zone {
    const zone = this.reader.zoneOf(state);
    return this.back(zone, steps, null) ?? zone;
  }

  /** The way to a state by which time can have passed there in one of some ways; null for a start, and where it is not known. */
  wayTo(state: number, wanted: Zone): Recalled | null {
    if (this.met.stepOf(state) === null) return null;
    const { whole, partly } = this.met.waysTo(state);
    for (const way of [...whole, ...partly]) {
      const found = this.back(this.reader.zoneOf(way.from), [this.met.stepBy(way.deed)], wanted);
      if (found) return { ...way, wanted: found };
    }
    return null;
  }

  /** What of a zone some steps lead from into another one, or anywhere; null where nothing does. */
  private back(from: Zone, steps: readonly Timed[], to: Zone | null): Zone | null {
    const passages: Passage[] = [];
    let zone = from;
    for (const move of steps.flatMap(({ moves }) => moves)) {
      const passage = this.passage(zone, move);
      if (!passage) return null;
      passages.push(passage);
      zone = passage.after;
    }
    let wanted: Zone | null = to ?? zone;
    for (const passage of passages.reverse()) wanted = wanted && before(passage, wanted);
    return wanted;
  }

  private passage(before: Zone, { due, later: behind, exact, time }: Move): Passage | null {
    const at = due === null ? -1 : before.waits.indexOf(due);
    const begun = due === null ? before : at < 0 ? null : dueFirst(before, at, (i) => isOneOf(behind, before.waits, i));
    if (!begun) return null;
    const then = earliest(
      begun,
      exact.map(({ wait }) => begun.waits.indexOf(wait))
    );
    const isGone = (i: number) => i === at || time.isEnded(before.waits[i]!);
    const kept = [...before.waits.keys()].filter((i) => !isGone(i));
    const next = started(without(then, isGone), time.starts);
    const order = this.clock.orderOf(next);
    return { before, then, next, after: later(inOrder(next, order)), isDue: due !== null, kept, order };
  }
}

/** What of the zone before a move leads into some of the one after it. */
function before({ before, then, next, isDue, kept, order }: Passage, wanted: Zone): Zone | null {
  const back: number[] = [];
  order.forEach((from, to) => (back[from] = to));
  const begun = both(next, inOrder(earlier(wanted), back));
  if (!begun) return null;
  const left = without(begun, (i) => i >= kept.length);
  const found = both(then, among(left, before, kept));
  return found && both(before, isDue ? earlier(found) : found);
}
