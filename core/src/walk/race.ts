import type { Program } from '../program/program.ts';
import { liveRootsOf } from '../run/environment.ts';
import { destination } from '../run/frames.ts';
import type { RunState } from '../run/state.ts';

/** Two threads that are due at one moment and lead to different places. */
export interface Race {
  readonly threads: readonly [string, string];
  /** Milliseconds until then. */
  readonly ms: number;
}

/** Times that differ by less are one moment, in ms. */
const SAME_MOMENT = 0.5;

/** The next things that are due in a run, where they are several and do not agree on where to lead. */
export function raceIn(program: Program, run: RunState): Race | null {
  const due: { readonly at: number; readonly thread: string; readonly branch: number; readonly next: number }[] = [];
  for (const scene of liveRootsOf(program, run))
    for (const timer of run.roots[scene]!.timers) due.push({ at: timer.due, thread: timer.thread, branch: -1, next: 0 });
  for (const one of run.activities) due.push({ at: one.due, thread: one.thread, branch: one.branch, next: one.next });
  const first = due.reduce((least, one) => Math.min(least, one.at), Infinity);
  const now = due.filter(({ at }) => at - first < SAME_MOMENT);
  if (first === Infinity || now.length < 2) return null;
  const places = now.map(({ thread, branch, next }) => placesOf(program, run, thread, branch, next));
  for (const [i, one] of places.entries())
    for (const [j, other] of places.entries()) {
      if (i >= j || now[i]!.thread === now[j]!.thread) continue;
      const clash = [...one].some(([what, to]) => other.has(what) && other.get(what) !== to);
      if (clash) return { threads: [now[i]!.thread, now[j]!.thread], ms: first - run.clock };
    }
  return null;
}

/** Where a thread leads, by what it brings somewhere: a frame, or a state of something. Of several branches, if they agree. */
function placesOf(program: Program, run: RunState, thread: string, branch: number, next: number): ReadonlyMap<string, string> {
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
