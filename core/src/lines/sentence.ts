import { cueKind } from '../cues/kinds.ts';
import { displayExpression } from '../expression/names.ts';
import type { Thread } from '../piece/piece.ts';
import type { Step, Target } from '../steps/schemas.ts';
import { transitionWords } from '../transitions/kinds.ts';
import { printStep } from './line.ts';
import type { LineScope } from './scope.ts';

/** The name of where a step leads, as shown to people. */
export function targetWords(target: Target, scope: LineScope): string {
  if (target.to !== 'frame') return target.to;
  if (target.frame === null) return 'not chosen yet';
  return scope.frames.find((frame) => frame.id === target.frame)?.name ?? 'missing frame';
}

export function stepWords(step: Step, scope: LineScope): string {
  if (step.do === 'go') return `go to ${targetWords(step.target, scope)} · ${transitionWords(step.transition)}`;
  if (step.do === 'open') return `open ${step.address}${step.tab === 'new' ? ' in a new tab' : ''}`;
  const { with: _with, ...alone } = step;
  return printStep(alone as Step, scope);
}

/** A thread as a sentence: “When clicked, if Seats left > 0 → go to Pay · push left 300 ms ease-out; otherwise → …”. */
export function sentence(thread: Pick<Thread, 'cue' | 'branches'>, scope: LineScope): string {
  const branches = thread.branches.map((branch, i) => {
    const steps = branch.steps.map((step, at) => `${at === 0 ? '' : step.with ? ' with ' : '; then '}${stepWords(step, scope)}`).join('') || '…';
    const condition =
      branch.if === undefined
        ? i === 0
          ? ''
          : ' otherwise'
        : `${i === 0 ? ', ' : ' otherwise '}if ${displayExpression(branch.if, scope.expression).text}`;
    return `${condition} → ${steps}`;
  });
  return `${cueKind(thread.cue.type).when(thread.cue, scope)}${branches.join(';')}`;
}
