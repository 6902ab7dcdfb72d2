import { rewriteThread, type LineThread, type Operation, type Step, type Thread } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';

/** Changes of a thread that chips make: each gives the thread's new line, so that chips and typed lines are one thing. */

export const lineOf = ({ cue, branches }: Thread): LineThread => ({ cue, branches });

export const stepsOf = (thread: Thread): readonly Step[] => thread.branches[0]?.steps ?? [];

const withSteps = (thread: Thread, steps: Step[]): LineThread => ({ cue: thread.cue, branches: [{ steps }] });

export const withStep = (thread: Thread, at: number, step: Step): LineThread =>
  withSteps(
    thread,
    stepsOf(thread).map((old, i) => (i === at ? step : old))
  );

export const withoutStep = (thread: Thread, at: number): LineThread =>
  withSteps(
    thread,
    stepsOf(thread).filter((_, i) => i !== at)
  );

export const plusStep = (thread: Thread, step: Step): LineThread => withSteps(thread, [...stepsOf(thread), step]);

export function rewrite(session: EditorSession, thread: Thread, name: string, line: LineThread): void {
  const operations: Operation[] = rewriteThread(thread.id, line);
  session.edit(name, operations);
}
