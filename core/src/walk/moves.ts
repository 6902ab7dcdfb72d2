import type { Thread } from '../piece/piece.ts';
import { freePoint, outward, reachOf } from '../program/hit.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { sameKey } from '../cues/words.ts';
import type { RunEvent } from '../run/state.ts';
import { destination } from '../run/steps/frames.ts';
import type { Step } from '../steps/schemas.ts';
import { addressProblem } from '../steps/address.ts';

/** One thing a person or the clock can do in a settled state, and the threads that then run. */
export interface Move {
  readonly event: RunEvent;
  readonly threads: readonly Thread[];
  /** Timers count how far the frame's time has come. */
  readonly timer: boolean;
}

/** Where a move ends, from a given frame. */
export interface Outcome {
  /** The frame it ends on; null while it stays, `BACK` where that depends on how the frame was reached. */
  readonly to: string | typeof BACK | null;
  /** It opens a link in the same tab, and so leaves the piece. */
  readonly leaves: boolean;
  /** *Back* together with other go-to steps in one event: not followed. */
  readonly tangled: boolean;
}

export const BACK = Symbol('back');

/** All that can be done in a frame except waiting: what its layers, the frame and the piece take. */
export function movesIn(program: Program, scene: SceneProgram): Move[] {
  return [...pointerMoves(program, scene), ...keyMoves(program, scene)];
}

/** Waiting for the next timer when `fired` of them have fired; null where none is left. */
export function timerMove(scene: SceneProgram, fired: number): Move | null {
  const timers = timersOf(scene);
  const timer = timers[fired];
  if (!timer) return null;
  const passed = timers[fired - 1]?.ms ?? 0;
  return { event: { type: 'wait', ms: timer.ms - passed }, threads: [timer.thread], timer: true };
}

/** What the steps of a move's threads come to, judged from a frame. */
export function outcomeOf(program: Program, frame: string, threads: readonly Thread[]): Outcome {
  let at = frame;
  let moved = false;
  let backs = 0;
  let goes = 0;
  let leaves = false;
  for (const step of threads.flatMap((thread) => thread.branches[0]?.steps ?? [])) {
    if (step.do === 'open') leaves ||= step.tab === 'same' && addressProblem(step.address) === null;
    else if (step.do !== 'go') continue;
    else if (step.target.to === 'back') backs++;
    else {
      const to = destination(program, { frame: at, back: [] }, step.target);
      goes++;
      if (typeof to !== 'string') continue;
      at = to;
      moved = true;
    }
  }
  return { to: backs > 0 ? BACK : moved ? at : null, leaves, tangled: backs > 1 || (backs > 0 && goes > 0) };
}

function pointerMoves(program: Program, scene: SceneProgram): Move[] {
  const moves: Move[] = [];
  let frameIsOpen = freePoint(scene) !== null;
  for (const item of scene.items) {
    if (!item.shown || !item.catches) continue;
    const clicks = live(item.threads, 'click');
    const hovers = live(item.threads, 'hover');
    const letsOn = clicks.length === 0 && outward(item).every((outer) => live(outer.threads, 'click').length === 0);
    if (!clicks.length && !hovers.length && (frameIsOpen || !letsOn)) continue;
    if (reachOf(scene, item).point === null) continue;
    const layer = item.layer.id;
    if (clicks.length) moves.push({ event: { type: 'click', layer }, threads: clicks, timer: false });
    if (hovers.length) moves.push({ event: { type: 'hover', layer }, threads: hovers, timer: false });
    frameIsOpen ||= letsOn;
  }
  const outer = [live(scene.threads, 'click'), live(program.threads, 'click')].find((threads) => threads.length > 0);
  if (outer && frameIsOpen) moves.push({ event: { type: 'click', layer: null }, threads: outer, timer: false });
  return moves;
}

/** One move a key: whoever takes the key first, as in a run. */
function keyMoves(program: Program, scene: SceneProgram): Move[] {
  const owners = [...[...scene.items].reverse().flatMap((item) => (item.shown ? [item.threads] : [])), scene.threads, program.threads];
  const moves: Move[] = [];
  for (const threads of owners) {
    const fresh = new Map<string, Thread[]>();
    for (const thread of live(threads, 'key')) {
      const key = (thread.cue as { key: string }).key;
      if (moves.some(({ event }) => event.type === 'key' && sameKey(event.key, key))) continue;
      const known = [...fresh.keys()].find((other) => sameKey(other, key));
      if (known === undefined) fresh.set(key, [thread]);
      else fresh.get(known)!.push(thread);
    }
    for (const [key, taken] of fresh) moves.push({ event: { type: 'key', key }, threads: taken, timer: false });
  }
  return moves;
}

const live = (threads: readonly Thread[], type: Thread['cue']['type']) => threads.filter((thread) => thread.enabled && thread.cue.type === type);

interface SceneTimer {
  readonly ms: number;
  readonly thread: Thread;
}

/** The timers of a plain scene by their times; equal times in the order of the document. */
export function timersOf(scene: SceneProgram): readonly SceneTimer[] {
  const threads = [...scene.items.flatMap((item) => item.threads), ...scene.threads];
  return threads
    .flatMap((thread) => (thread.enabled && thread.cue.type === 'after' ? [{ ms: thread.cue.ms, thread }] : []))
    .sort((a, b) => a.ms - b.ms);
}

const plainCues: ReadonlySet<Thread['cue']['type']> = new Set(['click', 'hover', 'key', 'after']);
const plainSteps: ReadonlySet<Step['do']> = new Set(['go', 'open']);

const isPlainThread = (thread: Thread): boolean => {
  const [branch, ...more] = thread.branches;
  return (
    plainCues.has(thread.cue.type) &&
    more.length === 0 &&
    branch?.if === undefined &&
    branch!.steps.every((step) => plainSteps.has(step.do) && !step.lasting && !('replace' in step && step.replace) && !takesTime(step, branch!.steps))
  );
};

/** A transition only takes time from steps that come after it. */
const takesTime = (step: Step, steps: readonly Step[]) => step !== steps.at(-1) && 'transition' in step && step.transition.type !== 'cut';

/** Whether frames and how far their timers have come are all there is to a piece's state. */
export function isPlain(program: Program): boolean {
  if (program.variables.size || !program.threads.every(isPlainThread)) return false;
  for (const { scene, items, threads } of program.scenes.values()) {
    if (
      scene.use !== 'frame' ||
      scene.states ||
      scene.timeline ||
      scene.carries?.length ||
      scene.onReturn === 'remember' ||
      scene.contentHeight ||
      scene.stateIs
    )
      return false;
    if (!threads.every(isPlainThread)) return false;
    for (const { layer, threads: own } of items) {
      if (
        layer.type === 'placement' ||
        layer.type === 'field' ||
        layer.drag ||
        layer.disabled ||
        layer.bindings ||
        layer.scroll ||
        layer.clip ||
        layer.hit
      )
        return false;
      if (layer.pose.rotation || (layer.pose.scale !== undefined && layer.pose.scale !== 1)) return false;
      if (!own.every(isPlainThread)) return false;
    }
  }
  return true;
}
