import type { RunEvent } from '../run/state.ts';
import { isOneOf, type First, type Timed } from './moves.ts';

/**
 * A route as a person walks it: when each thing is done, so that what is due on the way is due in the order that exploring took. Times
 * are bounded by each other, so the soonest that fit are longest paths (Bellman and Ford).
 */

/** Something that waits, by when it began to: at a step, and so many units after it. */
interface Pending {
  readonly wait: number;
  readonly from: number;
  readonly after: number;
  readonly span: number;
}

/** One time is at least so much later than another. */
interface Bound {
  readonly from: number;
  readonly to: number;
  readonly by: number;
}

/** When each of some moves is made, in units from the beginning; null where they cannot be made one after the other. */
export function timesOf(steps: readonly Timed[], first: readonly First[], margin: number): readonly number[] | null {
  const bounds: Bound[] = [];
  let pending: Pending[] = first.map(({ wait, span, left }) => ({ wait, from: 0, after: left - span, span }));
  const exactly = (from: number, to: number, by: number) => bounds.push({ from, to, by }, { from: to, to: from, by: -by });
  steps.forEach(({ moves }, i) => {
    const at = i + 1;
    bounds.push({ from: i, to: at, by: 0 });
    for (const move of moves) {
      const waits = pending.map(({ wait }) => wait);
      const due = move.due === null ? -1 : waits.indexOf(move.due);
      pending.forEach(({ from, after, span }, place) => {
        const ends = after + span;
        if (place === due) return void exactly(from, at, ends);
        const isLater = move.due === null ? span > 0 : isOneOf(move.later, waits, place);
        bounds.push({ from: at, to: from, by: -ends + (isLater ? margin : 0) });
      });
      for (const { wait, passed, slack } of move.exact) {
        const { from, after } = pending.find((one) => one.wait === wait)!;
        bounds.push({ from, to: at, by: after + passed }, { from: at, to: from, by: -after - passed - slack });
      }
      pending = pending.filter(({ wait }, place) => place !== due && !move.time.isEnded(wait));
      if (move.isAtRest) for (const { from, after, span } of pending) bounds.push({ from: at, to: from, by: margin - after - span });
      pending.push(...move.time.starts.map(({ wait, span }) => ({ wait, from: at, after: 0, span })));
    }
  });
  return longest(bounds, steps.length + 1);
}

/** The least times that keep all bounds, the first being 0; null where there are none. */
function longest(bounds: readonly Bound[], count: number): readonly number[] | null {
  const times = new Array<number>(count).fill(0);
  for (let round = 0; round <= count; round++) {
    let isChanged = false;
    for (const { from, to, by } of bounds)
      if (times[from]! + by > times[to]!) {
        times[to] = times[from]! + by;
        isChanged = true;
      }
    if (!isChanged) return times[0] === 0 ? times : null;
    if (times[0]! > 0) return null;
  }
  return null;
}

/** The events of some moves at their times, with the waiting between them. */
export function eventsAt(steps: readonly Timed[], times: readonly number[], units: number): RunEvent[] {
  return steps.flatMap(({ event, moves }, i): RunEvent[] => {
    const ms = (times[i + 1]! - times[i]!) / units;
    if (moves[0]!.due !== null) return [{ type: 'wait', ms }];
    return ms > 0 ? [{ type: 'wait', ms }, event] : [event];
  });
}
