import type { Program } from '../program/program.ts';
import { findPlace, liveRootsOf } from '../run/environment.ts';
import type { Store } from '../run/store.ts';
import type { Ambient } from './ambient.ts';
import type { Telling } from './telling.ts';

/** Brings a run to rest, as exploring tells runs apart; times count from now. */
export function settle(program: Program, store: Store, telling: Telling, ambient: Ambient): void {
  const { clock, activities } = store.run;
  if (clock !== 0) for (const scene of liveRootsOf(program, store.run)) shift(store, scene, clock);
  rest(program, store, telling, ambient);
  store.put({ activities: activities.map((activity, id) => ({ ...activity, id, due: activity.due - clock })) });
  store.put({ clock: 0, count: activities.length });
}

/**
 * Nothing is held; what the pointer is over and what has the focus counts only where something waits for its end; timelines that only
 * move what is looked at stand.
 */
export function rest(program: Program, store: Store, telling: Telling, ambient: Ambient): void {
  const { run } = store;
  const isTold = (key: string, what: 'leaves' | 'focuses') => {
    const node = findPlace(program, run, key)?.node;
    return !!node && telling[what](node);
  };
  const over = run.over.filter((key) => isTold(key, 'leaves'));
  const focus = run.focus !== null && isTold(run.focus, 'focuses') ? run.focus : null;
  if (run.pressed) store.put({ pressed: null });
  if (run.clicked) store.put({ clicked: null });
  if (over.length !== run.over.length) store.put({ over });
  if (!over.length && run.pointer) store.put({ pointer: null });
  if (focus !== run.focus) store.put({ focus });
  for (const scene of liveRootsOf(program, run)) for (const key of ambient.standingIn(scene)) stand(store, scene, key);
}

/** Lets times of a scene on the screen count from a moment. */
function shift(store: Store, scene: string, clock: number): void {
  const root = store.run.roots[scene];
  if (!root) return;
  if (root.timers.length) store.setRoot(scene, { timers: root.timers.map((timer) => ({ ...timer, due: timer.due - clock })) });
  for (const key of Object.keys(root.heads)) store.set(scene, 'heads', key, { ...root.heads[key]!, since: root.heads[key]!.since - clock });
}

const STANDING = { at: 0, since: 0, playing: false, visits: 1 };

function stand(store: Store, scene: string, key: string): void {
  const head = store.run.roots[scene]?.heads[key];
  if (head && (head.playing || head.at !== 0 || head.visits !== 1)) store.set(scene, 'heads', key, STANDING);
}
