import type { Place } from '../vocabulary/places.ts';
import { startFrame, type Program } from '../program/program.ts';
import type { Target } from '../vocabulary/target.ts';
import type { Transition } from '../vocabulary/transitions/all.ts';
import type { Runner } from './runner.ts';
import type { RunState, WhyNot } from './state.ts';

/** Which frames are on the screen: where targets lead, and how one takes the place of another. */

/** Where a step leads from a frame: another one, or the reason why nowhere. */
export function destination(program: Program, run: Pick<RunState, 'frame' | 'back'>, target: Target): string | WhyNot {
  if (target.to !== 'frame') return places[target.to](program, run) ?? nowhere[target.to];
  if (target.frame === null) return { code: 'missing-target', sentence: 'The thread does not say where to go yet.' };
  return program.frameAt.has(target.frame) ? target.frame : { code: 'missing-target', sentence: 'The frame it leads to has been deleted.' };
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

/** Takes away the topmost frame that was laid over, and gives its name. */
export function liftTop(runner: Runner, transition: Transition, thread: string): string {
  const overlay = runner.run.overlays.at(-1)!;
  runner.effect({ type: 'lift', frame: overlay.frame, transition, thread });
  runner.leaveRoot(overlay.frame);
  runner.put({ overlays: runner.run.overlays.slice(0, -1), over: [], pressed: null });
  return runner.program.scenes.get(overlay.frame)?.scene.name ?? 'it';
}
