import { rewriteThread, type LineThread, type Operation, type Step, type Thread } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';

/** Changes of a thread that chips make: each gives the thread's new line, so that chips and typed lines are one thing. */

export const lineOf = ({ cue, branches }: Thread): LineThread => ({ cue, branches });

/** The thread with the steps of a branch changed. */
const withSteps = ({ cue, branches }: Thread, at: number, change: (steps: readonly Step[]) => Step[]): LineThread => ({
  cue,
  branches: branches.map((branch, i) => (i === at ? { ...branch, steps: change(branch.steps) } : branch)),
});

export const withStep = (thread: Thread, branch: number, at: number, step: Step): LineThread =>
  withSteps(thread, branch, (steps) => steps.map((old, i) => (i === at ? step : old)));

export const withoutStep = (thread: Thread, branch: number, at: number): LineThread =>
  withSteps(thread, branch, (steps) => steps.filter((_, i) => i !== at));

export const plusStep = (thread: Thread, branch: number, step: Step): LineThread => withSteps(thread, branch, (steps) => [...steps, step]);

/** The condition of a branch; undefined takes it away. */
export const withCondition = ({ cue, branches }: Thread, at: number, condition: string | undefined): LineThread => ({
  cue,
  branches: branches.map(({ if: old, ...branch }, i) =>
    i !== at ? { ...branch, ...(old !== undefined && { if: old }) } : condition === undefined ? branch : { if: condition, ...branch }
  ),
});

/** One more branch, for when none of those before holds. */
export const plusBranch = ({ cue, branches }: Thread): LineThread => ({ cue, branches: [...branches, { steps: [] }] });

export const withoutBranch = ({ cue, branches }: Thread, at: number): LineThread => ({
  cue,
  branches: branches.length > 1 ? branches.filter((_, i) => i !== at) : branches,
});

export function rewrite(session: EditorSession, thread: Thread, name: string, line: LineThread): void {
  const operations: Operation[] = rewriteThread(thread.id, line);
  session.edit(name, operations);
}
