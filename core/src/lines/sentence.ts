import { cueKind, type Cue } from '../vocabulary/cues/all.ts';
import { displayExpression } from '../expression/names.ts';
import type { Thread } from '../piece/piece.ts';
import { stepKind, type Step } from '../vocabulary/steps/all.ts';
import { slot, type SlotKind } from '../fields/forms.ts';
import { printForm } from './form.ts';
import type { Target } from '../vocabulary/target.ts';
import { transitionWords } from './transition.ts';
import { printStep } from './line.ts';
import type { LineScope } from './scope.ts';

/** The name of where a step leads, as shown to people. */
export function targetWords(target: Target, scope: LineScope): string {
  if (target.to !== 'frame') return target.to;
  if (target.frame === null) return 'not chosen yet';
  return scope.frames.find((frame) => frame.id === target.frame)?.name ?? 'missing frame';
}

export function stepWords(step: Step, scope: LineScope): string {
  const { words } = stepKind(step.do);
  if (words) return words(step, { target: (target) => targetWords(target, scope), transition: transitionWords });
  const { with: _with, ...alone } = step;
  return printStep(alone as Step, scope);
}

/** A cue as its sentence begins: `When clicked`. */
export function cueWords(cue: Cue, scope: LineScope): string {
  const named = (path: string, kind: SlotKind) => printForm({ sets: {}, parts: [slot(path, kind)] }, cue, scope);
  return cueKind(cue.type).when(cue as never, named);
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
  return `${cueWords(thread.cue, scope)}${branches.join(';')}`;
}
