import type { Program } from '../program/program.ts';
import { destination } from '../run/frames.ts';
import type { RunState } from '../run/state.ts';
import type { Wait } from './waits.ts';

/** Two threads that are due at one moment and lead to different places. */
export interface Race {
  readonly threads: readonly [string, string];
  /** Milliseconds until then. */
  readonly ms: number;
}

/** The threads of two things that are due at one moment, where they do not agree on where to lead. */
export function raceOf(program: Program, run: RunState, one: Wait, other: Wait): Race['threads'] | null {
  const [a, b] = [dueThread(one), dueThread(other)];
  if (!a || !b || a.thread === b.thread) return null;
  const places = placesOf(program, run, b);
  const clash = [...placesOf(program, run, a)].some(([what, to]) => places.has(what) && places.get(what) !== to);
  return clash ? [a.thread, b.thread] : null;
}

interface DueThread {
  readonly thread: string;
  /** -1 for one of which the branch is not chosen yet. */
  readonly branch: number;
  readonly next: number;
}

function dueThread(wait: Wait): DueThread | null {
  if (wait.kind === 'head') return null;
  return wait.kind === 'timer' ? { thread: wait.timer.thread, branch: -1, next: 0 } : wait.activity;
}

/** Where a thread leads, by what it brings somewhere: a frame, or a state of something. Of several branches, if they agree. */
function placesOf(program: Program, run: RunState, { thread, branch, next }: DueThread): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  const branches = program.piece.threads.get(thread)?.branches ?? [];
  for (const { steps } of branch < 0 ? branches : branches.slice(branch, branch + 1))
    for (const step of steps.slice(next)) {
      if (step.do === 'go') {
        const to = destination(program, run, step.target);
        if (typeof to === 'string') found.set('frame', found.has('frame') && found.get('frame') !== to ? '' : to);
      }
      if (step.do === 'state' && 'state' in step.to && step.to.state !== null)
        found.set(`state ${step.of ?? ''}`, found.has(`state ${step.of ?? ''}`) ? '' : step.to.state);
    }
  for (const [what, to] of found) if (to === '') found.delete(what);
  return found;
}
