import { stepKind, type Step } from '../vocabulary/steps/all.ts';
import type { Acted } from './runner.ts';
import type { Effect } from './state.ts';

/** Whether steps do anything at all. */

/** What is seen or heard, or leaves the piece. */
const OUTWARD: ReadonlySet<Effect['type']> = new Set<Effect['type']>(['open', 'signal', 'media']);

export function noteStep(acted: Acted, branch: string, step: Step, isChanged: boolean, effects: readonly Effect[]): void {
  if (stepKind(step.do).isSeen || effects.some(({ type }) => OUTWARD.has(type))) acted.set(branch, 'outside');
  else if (isChanged && !acted.has(branch)) acted.set(branch, 'inside');
}
