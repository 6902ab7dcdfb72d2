import type { Place as PlaceWord, StepOf, Target, Transition } from '../../steps/schemas.ts';
import { startFrame, type Program } from '../../program/program.ts';
import type { Runner } from '../runner.ts';
import type { RunState, WhyNot } from '../state.ts';
import { done, notDone, type StepRunner } from './stepped.ts';

/** Going to a frame, laying one over, lifting it. */

/** How long a transition takes, its delay included. */
export const lengthOf = (transition: Transition): number => (transition.type === 'cut' ? 0 : transition.ms + (transition.delay ?? 0));

/** Where a step leads from a frame: another one, or the reason why nowhere. */
export function destination(program: Program, run: Pick<RunState, 'frame' | 'back'>, target: Target): string | WhyNot {
  if (target.to !== 'frame') return places[target.to](program, run) ?? nowhere[target.to];
  if (target.frame === null) return { code: 'missing-target', sentence: 'The thread does not say where to go yet.' };
  return program.frameAt.has(target.frame) ? target.frame : { code: 'missing-target', sentence: 'The frame it leads to has been deleted.' };
}

const beside = (program: Program, frame: string, by: number) => program.frames[(program.frameAt.get(frame) ?? -2) + by] ?? null;

const places: Record<PlaceWord, (program: Program, run: Pick<RunState, 'frame' | 'back'>) => string | null> = {
  next: (program, run) => beside(program, run.frame, 1),
  previous: (program, run) => beside(program, run.frame, -1),
  first: (program) => program.frames[0] ?? null,
  last: (program) => program.frames.at(-1) ?? null,
  back: (program, run) => run.back.findLast((frame) => program.scenes.has(frame)) ?? null,
  start: (program) => startFrame(program),
};

const stays = (sentence: string): WhyNot => ({ code: 'nowhere', sentence });

const nowhere: Record<PlaceWord, WhyNot> = {
  next: stays('This is the last frame, so there is no next one.'),
  previous: stays('This is the first frame, so there is no previous one.'),
  first: stays('There is no frame.'),
  last: stays('There is no frame.'),
  back: stays('There is nothing to go back to.'),
  start: stays('There is no start frame.'),
};

export const go: StepRunner<'go'> = (runner, call, step) => {
  const isBack = step.target.to === 'back';
  if (isBack && runner.run.overlays.length) return liftTop(runner, step.transition, call.thread.id);
  const to = destination(runner.program, runner.run, step.target);
  if (typeof to !== 'string') return notDone(to.code, to.sentence);
  const name = runner.program.scenes.get(to)!.scene.name;
  const from = runner.run.frame;
  if (isBack) {
    runner.leavesTrace = false;
    runner.store.cutBack(runner.run.back.lastIndexOf(to));
  }
  if (step.replace) runner.leavesTrace = false;
  runner.effect({ type: 'go', from, to, transition: step.transition, thread: call.thread.id });
  enterFrame(runner, to);
  return done(isBack ? `went back to ${name}` : `went to ${name}`, { took: lengthOf(step.transition), ...(call.root !== null && { movedTo: to }) });
};

/** Makes a frame the one the person is on: scenes that are left end, sheets that both carry go on. */
export function enterFrame(runner: Runner, to: string): void {
  for (const overlay of runner.run.overlays) runner.leaveRoot(overlay.frame);
  const kept = new Set((runner.program.scenes.get(to)?.scene.carries ?? []).map((one) => one.sheet));
  const { carries = [] } = runner.program.scenes.get(runner.run.frame)?.scene ?? {};
  const stay = new Set(carries.filter(({ sheet }) => kept.has(sheet) && runner.run.roots[sheet]).map(({ sheet }) => sheet));
  runner.leaveRoot(runner.run.frame);
  for (const { sheet } of carries) if (!stay.has(sheet)) runner.leaveRoot(sheet);
  runner.put({ frame: to, overlays: [], over: [], pressed: null, clicked: null });
  for (const sheet of kept) if (!stay.has(sheet)) runner.enterRoot(sheet);
  runner.enterRoot(to);
  runner.reread('frame.name');
}

export const lay: StepRunner<'lay'> = (runner, call, step) => {
  if (step.frame === null) return notDone('missing-target', 'The thread does not say what to lay over yet.');
  const scene = runner.program.frameAt.has(step.frame) ? runner.program.scenes.get(step.frame)!.scene : null;
  if (!scene) return notDone('missing-target', 'The frame to lay over has been deleted.');
  if (step.frame === runner.run.frame || runner.run.overlays.some((overlay) => overlay.frame === step.frame))
    return notDone('there-already', `${scene.name} is on the screen already.`);
  const overlay = { frame: step.frame, at: step.at, scrim: step.scrim ?? null, closes: step.closes === true };
  runner.put({ overlays: [...runner.run.overlays, overlay], over: [], pressed: null });
  runner.effect({ type: 'lay', frame: step.frame, transition: step.transition, thread: call.thread.id });
  runner.enterRoot(step.frame);
  return done(`laid ${scene.name} over`, { took: lengthOf(step.transition) });
};

export const lift: StepRunner<'lift'> = (runner, call, step: StepOf<'lift'>) =>
  runner.run.overlays.length ? liftTop(runner, step.transition, call.thread.id) : notDone('nothing-laid', 'No frame lies over this one.');

export function liftTop(runner: Runner, transition: Transition, thread: string) {
  const overlay = runner.run.overlays.at(-1)!;
  runner.effect({ type: 'lift', frame: overlay.frame, transition, thread });
  runner.leaveRoot(overlay.frame);
  runner.put({ overlays: runner.run.overlays.slice(0, -1), over: [], pressed: null });
  return done(`lifted ${runner.program.scenes.get(overlay.frame)?.scene.name ?? 'it'}`, { took: lengthOf(transition) });
}
