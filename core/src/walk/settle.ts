import type { Program } from '../program/program.ts';
import { findPlace, liveRootsOf } from '../run/environment.ts';
import type { Activity, RunState } from '../run/state.ts';
import type { Store } from '../run/store.ts';
import { stepKind } from '../vocabulary/steps/all.ts';
import type { Ambient } from './ambient.ts';
import type { Telling } from './telling.ts';

/**
 * Brings a run to rest, as exploring tells runs apart: nothing held; what the pointer is over and what has the focus only where
 * something waits for its end; timelines that only move what is looked at stand; times count from now.
 */
export function settle(program: Program, store: Store, telling: Telling, ambient: Ambient): void {
  const { run } = store;
  const { clock } = run;
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
  const roots = liveRootsOf(program, run);
  if (clock !== 0) for (const scene of roots) shift(store, scene, clock);
  for (const scene of roots) for (const key of ambient.standingIn(scene)) stand(store, scene, key);
  const waiting = fewOf(program, run.activities).map((activity, id) => ({ ...activity, id, due: activity.due - clock }));
  if (clock !== 0 || waiting.length !== run.activities.length || waiting.some(({ id }, i) => id !== run.activities[i]!.id))
    store.put({ activities: waiting });
  store.put({ clock: 0, count: waiting.length });
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

/** Steps that wait. The same ones due at one moment a third time do nothing that twice did not. */
function fewOf(program: Program, activities: RunState['activities']): readonly Activity[] {
  if (activities.length < 3) return activities;
  const seen = new Map<string, number>();
  return activities.filter((activity) => {
    const { id: _id, ...one } = activity;
    const key = JSON.stringify(one);
    const times = (seen.get(key) ?? 0) + 1;
    seen.set(key, times);
    return times <= 2 || !isRepeatable(program, activity);
  });
}

function isRepeatable(program: Program, { thread, branch, next }: Activity): boolean {
  const steps = program.piece.threads.get(thread)?.branches[branch]?.steps.slice(next) ?? [];
  return steps.every((step) => stepKind(step.do).isRepeatable?.(step));
}
