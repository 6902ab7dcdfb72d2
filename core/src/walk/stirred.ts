import type { Program } from '../program/program.ts';
import { stepKind } from '../vocabulary/steps/all.ts';
import { branchKeysOf, threadsIn } from './at-thread.ts';
import type { Exploration } from './exploration.ts';

/** Branches that fire and set going, stop or turn what only moves, by `branchKey`: no state is another for it. */
export function branchesMoving({ piece }: Program, { stirring, branches }: Exploration): readonly string[] {
  const all = stirring();
  if (all.size === 0) return [];
  return threadsIn(piece).flatMap((thread) => {
    const keys = branchKeysOf(thread);
    const isInTime = (at: number) => thread.branches[at]!.steps.some((step) => stepKind(step.do).inTime !== undefined);
    return keys.filter((key, at) => all.has(key) && branches.has(key) && isInTime(at));
  });
}
