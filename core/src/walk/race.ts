import type { Piece } from '../piece/piece.ts';
import type { Effect } from './effects.ts';
import type { Slot } from './slots.ts';
import type { Wait } from './waits.ts';

/** Two threads that are due at one moment and lead to different places. */
export interface Race {
  readonly threads: readonly [string, string];
  /** Milliseconds until then. */
  readonly ms: number;
}

/** What comes of something being due, as far as it brings anything somewhere. */
type Led = Pick<Effect, 'outcome' | 'columns' | 'values'>;

/** The frame of a state: its column, its number, and its scene. */
interface From {
  readonly column: number;
  readonly number: number;
  readonly frame: string;
}

/** Whether two things that are due at one moment lead to different frames, or bring one thing into different states. */
export function areApart(one: Led, other: Led, from: From, columns: readonly Slot[]): boolean {
  const places = placesOf(other, from, columns);
  return [...placesOf(one, from, columns)].some(([column, to]) => places.has(column) && places.get(column) !== to);
}

/** By columns what is come to: a frame, this one anew included, or the states of something. */
function placesOf({ outcome, columns, values }: Led, { column, number, frame }: From, slots: readonly Slot[]): ReadonlyMap<number, number> {
  const places = new Map<number, number>(outcome.cleared.includes(frame) ? [[column, number]] : []);
  columns.forEach((one, i) => {
    const isState = slots[one]?.kind === 'states' && !outcome.cleared.includes(slots[one].scene!);
    if (one === column || isState) places.set(one, values[i]!);
  });
  return places;
}

/** The thread by which something leads where it does when it is due; null where none does. */
export function threadOf({ threads }: Piece, wait: Wait, { outcome }: Led): string | null {
  if (wait.kind === 'timer') return wait.timer.thread;
  if (wait.kind === 'steps') return wait.activity.thread;
  const leads = (id: string) => threads.get(id)?.branches.some(({ steps }) => steps.some((step) => step.do === 'go' || step.do === 'state'));
  return outcome.threads.find(leads) ?? outcome.threads[0] ?? null;
}
