import type { Program } from '../program/program.ts';
import { startFrame } from '../program/program.ts';
import { addressProblem } from '../steps/address.ts';
import type { GoToStep, OpenStep, Place, Step, StepType } from '../steps/schemas.ts';
import type { Effect, RunState, StepOutcome, WhyNot } from './state.ts';

/** What one step did to the run. */
export interface Stepped {
  readonly run: RunState;
  readonly outcome: StepOutcome;
  readonly effect?: Effect;
  readonly whyNot?: WhyNot;
}

type Runner<S extends Step> = (program: Program, run: RunState, step: S, thread: string) => Stepped;

/** What each step does when it runs. */
export const stepRunners: { readonly [T in StepType]: Runner<Extract<Step, { do: T }>> } = { go: runGo, open: runOpen };

export const runStep = (program: Program, run: RunState, step: Step, thread: string): Stepped =>
  (stepRunners[step.do] as Runner<Step>)(program, run, step, thread);

/** Where a step leads from a state: a frame, or the reason why nowhere. */
export function destination(program: Program, run: Pick<RunState, 'frame' | 'back'>, target: GoToStep['target']): string | WhyNot {
  if (target.to !== 'frame') return places[target.to](program, run) ?? nowhere[target.to];
  if (target.frame === null) return { code: 'missing-target', sentence: 'The thread does not say where to go yet.' };
  return program.scenes.has(target.frame) ? target.frame : { code: 'missing-target', sentence: 'The frame it leads to has been deleted.' };
}

const beside = (program: Program, frame: string, by: number) => program.frames[(program.frameAt.get(frame) ?? -2) + by] ?? null;

const places: Record<Place, (program: Program, run: Pick<RunState, 'frame' | 'back'>) => string | null> = {
  next: (program, run) => beside(program, run.frame, 1),
  previous: (program, run) => beside(program, run.frame, -1),
  first: (program) => program.frames[0] ?? null,
  last: (program) => program.frames.at(-1) ?? null,
  back: (program, run) => run.back.findLast((frame) => program.scenes.has(frame)) ?? null,
  start: (program) => startFrame(program),
};

const stays = (sentence: string): WhyNot => ({ code: 'nowhere', sentence });

const nowhere: Record<Place, WhyNot> = {
  next: stays('This is the last frame, so there is no next one.'),
  previous: stays('This is the first frame, so there is no previous one.'),
  first: stays('There is no frame.'),
  last: stays('There is no frame.'),
  back: stays('There is nothing to go back to.'),
  start: stays('There is no start frame.'),
};

function runGo(program: Program, run: RunState, step: GoToStep, thread: string): Stepped {
  const to = destination(program, run, step.target);
  if (typeof to !== 'string') return { run, outcome: { sentence: to.sentence, done: false }, whyNot: { ...to, thread } };
  const back = step.target.to === 'back' ? run.back.slice(0, run.back.lastIndexOf(to)) : run.back;
  const name = program.scenes.get(to)!.scene.name;
  return {
    run: enter(run, to, back),
    outcome: { sentence: step.target.to === 'back' ? `went back to ${name}` : `went to ${name}`, done: true },
    effect: { type: 'go', from: run.frame, to, transition: step.transition, thread },
  };
}

/** The run on entering a frame: its timers start over, presses and hovers are forgotten until the pointer moves. */
export const enter = (run: RunState, frame: string, back: readonly string[]): RunState => ({
  ...run,
  frame,
  back,
  entered: run.clock,
  timersFired: 0,
  over: [],
  pressed: null,
});

function runOpen(_program: Program, run: RunState, step: OpenStep, thread: string): Stepped {
  if (addressProblem(step.address) !== null) {
    const sentence = `“${step.address}” cannot be opened: it is no http, https, mailto or tel address.`;
    return { run, outcome: { sentence, done: false }, whyNot: { code: 'bad-address', sentence, thread } };
  }
  return {
    run,
    outcome: { sentence: `opened ${step.address}`, done: true },
    effect: { type: 'open', address: step.address, tab: step.tab, thread },
  };
}
