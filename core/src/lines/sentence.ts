import { cueKind } from '../cues/kinds.ts';
import type { Thread } from '../piece/piece.ts';
import type { Step, Target } from '../steps/schemas.ts';
import { transitionWords } from '../transitions/kinds.ts';
import type { LineScope } from './scope.ts';

/** The name of where a step leads, as shown to people. */
export function targetWords(target: Target, scope: LineScope): string {
  if (target.to !== 'frame') return target.to;
  if (target.frame === null) return 'not chosen yet';
  return scope.frames.find((frame) => frame.id === target.frame)?.name ?? 'missing frame';
}

export const stepWords = (step: Step, scope: LineScope): string =>
  step.do === 'go'
    ? `go to ${targetWords(step.target, scope)} · ${transitionWords(step.transition)}`
    : `open ${step.address}${step.tab === 'new' ? ' in a new tab' : ''}`;

/** A thread as a sentence: “When clicked → go to Pay · push left 300 ms ease-out”. */
export const sentence = (thread: Pick<Thread, 'cue' | 'branches'>, scope: LineScope): string =>
  `${cueKind(thread.cue.type).when(thread.cue)} → ${thread.branches[0]?.steps.map((step) => stepWords(step, scope)).join('; then ') || '…'}`;
