import type { RunState } from '../run/state.ts';

/** The same may wait so many times at once. */
export const MOST_ALIKE = 2;

/** What is not tried because of that. */
export const THIRD_TIME = 'anything a third time before what it started has ended';

/** Whether something was started a third time before what it started first has ended: with no end to that, it is not followed. */
export function isHurry({ activities }: Pick<RunState, 'activities'>): boolean {
  if (activities.length <= MOST_ALIKE) return false;
  const times = new Map<string, number>();
  for (const { root, instance, thread, branch, next, from } of activities) {
    const key = `${root} ${instance} ${thread} ${branch} ${next} ${from}`;
    times.set(key, (times.get(key) ?? 0) + 1);
  }
  return [...times.values()].some((count) => count > MOST_ALIKE);
}
