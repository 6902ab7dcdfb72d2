import type { Program } from '../program/program.ts';
import { findPlace, liveRootsOf } from '../run/environment.ts';
import type { RunState } from '../run/state.ts';
import type { Store } from '../run/store.ts';
import type { Ambient } from './ambient.ts';
import type { Telling } from './telling.ts';

/** Brings a run to rest, as exploring tells runs apart; times count from now. */
export function settle(program: Program, store: Store, telling: Telling, ambient: Ambient): void {
  const { clock, activities } = store.run;
  if (clock !== 0) for (const scene of liveRootsOf(program, store.run)) shift(store, scene, clock);
  if (store.run.pressed) store.put({ pressed: { ...store.run.pressed, at: store.run.pressed.at - clock } });
  rest(program, store, telling, ambient);
  store.put({ activities: activities.map((activity, id) => ({ ...activity, id, due: activity.due - clock })) });
  store.put({ clock: 0, count: activities.length });
}

/**
 * What is held counts only where something waits for that, what the pointer is over and what has the focus only where something waits for its end; timelines that only
 * move what is looked at stand.
 *
 * Of what came of a run at rest, what is still as it was in that is at rest, and is not looked at.
 */
export function rest(program: Program, store: Store, telling: Telling, ambient: Ambient, came: Came | null = null): void {
  const { run } = store;
  // Whether a layer is in the piece is so of any run.
  const isTold = (key: string, what: 'leaves' | 'focuses') => {
    const node = findPlace(program, came?.now ?? run, key)?.node;
    return !!node && telling[what](node);
  };
  if (run.pressed && !(telling.holds && run.pressed.drag === null)) store.put({ pressed: telling.holds ? { ...run.pressed, drag: null } : null });
  if (run.clicked) store.put({ clicked: null });
  // As long as something is held, the pointer is where it is held.
  const isHeld = telling.holds && run.pressed !== null;
  if (!isHeld && (!came || came.now.over !== came.before.over || came.before.pressed)) {
    const over = run.over.filter((key) => isTold(key, 'leaves'));
    if (over.length !== run.over.length) store.put({ over });
    if (!over.length && run.pointer) store.put({ pointer: null });
  }
  if (!came || came.now.focus !== came.before.focus) {
    const focus = run.focus !== null && isTold(run.focus, 'focuses') ? run.focus : null;
    if (focus !== run.focus) store.put({ focus });
  }
  const were = came && new Set(liveRootsOf(program, came.before));
  for (const scene of liveRootsOf(program, run)) {
    const isSame = (key: string) => were?.has(scene) && came!.now.roots[scene]?.heads[key] === came!.before.roots[scene]?.heads[key];
    for (const key of ambient.standingIn(scene)) if (!isSame(key)) stand(store, scene, key);
  }
}

/** A run as it is now, and the run at rest that it came of, both to be looked at without a note. */
interface Came {
  readonly before: RunState;
  readonly now: RunState;
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
