import type { Program } from '../program/program.ts';
import { destination } from '../run/frames.ts';
import { runnerFor } from '../run/machine.ts';
import { meetIn } from '../run/run.ts';
import type { RunState } from '../run/state.ts';
import { deadlineOf, type Wait } from './waits.ts';

/** Two threads that are due at one moment and lead to different places. */
export interface Race {
  readonly threads: readonly [string, string];
  /** Milliseconds until then. */
  readonly ms: number;
}

/** The threads of two things that are due at one moment, where they do not agree on where to lead. */
export function raceOf(program: Program, run: RunState, one: Wait, other: Wait): Race['threads'] | null {
  const others = dueThreads(program, run, other);
  for (const a of dueThreads(program, run, one))
    for (const b of others) {
      if (a.thread === b.thread) continue;
      const places = placesOf(program, run, b);
      const clash = [...placesOf(program, run, a)].some(([what, to]) => places.has(what) && places.get(what) !== to);
      if (clash) return [a.thread, b.thread];
    }
  return null;
}

interface DueThread {
  readonly thread: string;
  /** -1 for one of which the branch is not chosen yet. */
  readonly branch: number;
  readonly next: number;
}

/** The threads that fire when something is due: of a playhead those that hear where it comes to. */
function dueThreads(program: Program, run: RunState, wait: Wait): readonly DueThread[] {
  if (wait.kind === 'timer') return [{ thread: wait.timer.thread, branch: -1, next: 0 }];
  if (wait.kind === 'steps') return [wait.activity];
  if (!run.roots[wait.scene]?.heads[wait.instance]?.playing) return [];
  const { reports } = meetIn(runnerFor(program, run), deadlineOf(wait));
  return reports.flatMap(({ fired }) => fired.map(({ thread, branch }) => ({ thread, branch, next: 0 })));
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
