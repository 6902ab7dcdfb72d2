import { expand } from '../program/expand.ts';
import { groupedBy } from '../grouped.ts';
import { onceFor } from '../once.ts';
import type { Piece } from '../piece/piece.ts';
import type { Instance } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { liveRootsOf } from '../run/environment.ts';
import { awaiting, movingHeads } from '../run/heads.ts';
import { runnerFor } from '../run/machine.ts';
import { framesPerSecond, nextStop, spanOf } from '../run/playhead.ts';
import type { Ended } from '../run/recording.ts';
import { longPressDue } from '../run/pointer.ts';
import type { Deadline } from '../run/run.ts';
import type { Runner } from '../run/runner.ts';
import type { Activity, Playhead, RunState, Timer } from '../run/state.ts';
import type { Ambient } from './ambient.ts';
import { MOST_ALIKE } from './hurry.ts';
import { triedFor } from '../vocabulary/cues/all.ts';
import { stepKind } from '../vocabulary/steps/all.ts';

/** Something that waits for its time, whenever that is: a timer, steps that go on later, a playhead on the way to its next stop, what is held long. */
export type Wait =
  | { readonly kind: 'timer'; readonly scene: string; readonly timer: Omit<Timer, 'due'> }
  | { readonly kind: 'steps'; readonly activity: Omit<Activity, 'id' | 'due'> }
  | { readonly kind: 'head'; readonly scene: string; readonly instance: string }
  | { readonly kind: 'long press'; readonly scene: string; readonly node: string; readonly ms: number };

/** What waits in a run, with how long it does so in all and how much of that is left, in milliseconds. */
export interface Waiting {
  readonly wait: Wait;
  readonly span: number;
  readonly left: number;
}

/** How many units of time are one millisecond: so many that timeline frames are whole ones too. */
export const unitsIn = (program: Program): number => framesPerSecond(program);

/** Milliseconds in whole units. */
export const inUnits = (program: Program, ms: number): number => Math.round(ms * unitsIn(program));

export const waitOfTimer = (scene: string, { due: _due, ...timer }: Timer): Wait => ({ kind: 'timer', scene, timer });

export const waitOfSteps = ({ id: _id, due: _due, ...activity }: Activity): Wait => ({ kind: 'steps', activity });

/** All that waits in a run: timers, then steps, then playheads, each in the order in which they began to, then what is held. */
export function waitingIn(program: Program, run: RunState, ambient: Ambient): Waiting[] {
  const live = liveRootsOf(program, run);
  const timers = live.flatMap((scene) => run.roots[scene]!.timers.map((timer) => [waitOfTimer(scene, timer), timer.due] as const));
  const steps = run.activities.filter(({ head }) => head === null).map((one) => [waitOfSteps(one), one.due] as const);
  const waiting = [...timers, ...steps].map(([wait, due]): Waiting => ({ wait, span: due - run.clock, left: due - run.clock }));
  const held = run.pressed && heldIn(runnerFor(program, run));
  const presses = held ? [{ wait: held.wait, span: held.wait.ms, left: held.due - run.clock }] : [];
  return [...waiting, ...live.flatMap((scene) => headsIn(program, run, scene, ambient)), ...presses];
}

/** What is held until that is a long press, and when it is; null where nothing is, or nobody waits for that. */
export function heldIn(runner: Runner): { readonly wait: Wait & { readonly kind: 'long press' }; readonly due: number } | null {
  const due = longPressDue(runner);
  if (!due) return null;
  return { wait: { kind: 'long press', scene: due.scene, node: due.node?.key ?? '', ms: due.at - runner.run.pressed!.at }, due: due.at };
}

/** The playheads of a scene on the screen that are under way to where something may come of it, in the order of what is in it. */
export function headsIn(
  program: Program,
  run: RunState,
  scene: string,
  ambient: Ambient,
  /** The instances that are asked about, by their keys; null asks about all. */
  keys: ReadonlySet<string> | null = null,
  /** Whether steps wait for a playhead; they are those of the run, where nobody wants to know that it was asked. */
  isAwaited = (instance: Instance) => run.activities.some(awaiting(scene, instance))
): Waiting[] {
  const expansion = expand(program, program.scenes.get(scene)!);
  const moving = new Map(Array.from(movingHeads({ program, run, expansion: () => expansion }, scene), (one) => [one.instance, one.head]));
  if (moving.size === 0) return [];
  return [...expansion.instances.values()].flatMap((instance) => {
    const head = keys?.has(instance.key) === false ? undefined : moving.get(instance);
    const stop = head && nextStop(program, head, instance.scene.scene.timeline!);
    if (!stop || ambient.isIdle(scene, instance, head, isAwaited)) return [];
    return { wait: waitOfHead(scene, instance.key), span: spanOf(program, stop.frame - head.at), left: stop.due - run.clock };
  });
}

export const waitOfHead = (scene: string, instance: string): Wait => ({ kind: 'head', scene, instance });

/** Whether something ends what waits. */
export function ends(ended: Ended, wait: Wait): boolean {
  if (ended.what === 'steps') return wait.kind === 'steps' && wait.activity.root === ended.scene && !wait.activity.lasting;
  if (wait.kind === 'steps' || wait.scene !== ended.scene) return false;
  if (ended.instance === null) return true;
  return wait.kind === 'timer' && wait.timer.instance === ended.instance && wait.timer.state !== null;
}

/** What is due, as the engine brings it about; null where it does not any more. */
export function deadlineOf(wait: Wait, runner: Runner): Deadline | null {
  if (wait.kind === 'long press') {
    const due = longPressDue(runner);
    return due && { kind: 'long press', ...due };
  }
  if (wait.kind === 'timer') return { kind: 'timer', at: 0, scene: wait.scene, timer: { ...wait.timer, due: 0 } };
  if (wait.kind === 'steps') return { kind: 'steps', at: 0, activity: { ...wait.activity, id: -1, due: 0 } };
  return { kind: 'head', at: 0, scene: wait.scene, instance: wait.instance };
}

/** Steps and timers that wait, put into a run that stands at its beginning, each with so much left, in milliseconds. */
export function withWaits(run: RunState, waits: readonly Wait[], left: readonly number[]): RunState {
  const activities: Activity[] = [...run.activities];
  const roots = { ...run.roots };
  let { pressed } = run;
  waits.forEach((wait, i) => {
    const due = run.clock + left[i]!;
    if (wait.kind === 'steps') activities.push({ ...wait.activity, id: activities.length, due });
    const root = wait.kind === 'timer' ? roots[wait.scene] : undefined;
    if (wait.kind === 'long press' && pressed) pressed = { ...pressed, at: due - wait.ms };
    if (wait.kind === 'timer' && root) roots[wait.scene] = { ...root, timers: [...root.timers, { ...wait.timer, due }] };
  });
  return { ...run, roots, pressed, activities, count: activities.length };
}

/** A playhead so long after it came where it says it is, in milliseconds. */
export const passedOf = (head: Playhead, passed: number): Playhead => ({ ...head, since: -passed });

/** The steps that wait more often than is followed: no end would be to that. */
export function tooMany(waits: readonly Wait[]): readonly Wait[] {
  const steps = waits.filter(({ kind }) => kind === 'steps');
  return [...groupedBy(steps, (wait) => wait).values()].filter((alike) => alike.length > MOST_ALIKE).flat();
}

/** Whether steps that go on come to the same when they do so twice at one moment. */
export function comesToOne({ piece }: Program, activity: Omit<Activity, 'id' | 'due'>): boolean {
  const { thread, branch, next } = activity;
  const steps = piece.threads.get(thread)?.branches[branch]?.steps.slice(next) ?? [];
  return steps.every((step) => (step.do === 'send' ? !signalsHeard(piece.threads).has(step.signal) : stepKind(step.do).isRepeatable?.(step)));
}

/** The signals that any thread waits for. */
const signalsHeard = onceFor(
  (threads: Piece['threads']): ReadonlySet<string> =>
    new Set([...threads.values()].flatMap(({ cue }) => triedFor(cue).flatMap((one) => (one.type === 'signal' ? one.signal : []))))
);
