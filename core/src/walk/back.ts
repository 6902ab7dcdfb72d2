import type { Thread } from '../piece/piece.ts';
import { expand } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { stepKind, type Step } from '../vocabulary/steps/all.ts';

/** Frames on which it can matter what they were come to from; null for all of them. */
export type LookingBack = ReadonlySet<string> | null;

/**
 * Where nothing goes *back*, and no way leads on to where something does without leaving a trace of its own, what a frame was come to from
 * is not asked for, as far as that can be told without running anything. `also` are frames of which it turned out that it is: a frame that
 * goes back is laid over them, steps go on there, or something leads on to where something goes back at once.
 */
export function lookingBack(program: Program, also: Iterable<string> = []): LookingBack {
  const { piece } = program;
  const threads = [...piece.threads.values()].filter(({ enabled }) => enabled);
  const found = new Set(also);
  for (const thread of threads) {
    if (!stepsOf(thread).some(goesBack)) continue;
    const frames = framesOf(program, thread);
    if (frames === null) return null;
    for (const frame of frames) found.add(frame);
  }
  const traceless = threads.filter((thread) => stepsOf(thread).some(leavesNoTrace));
  for (let size = -1; size !== found.size;) {
    size = found.size;
    for (const thread of traceless) {
      if (!stepsOf(thread).some((step) => leavesNoTrace(step) && mayLeadTo(step, found))) continue;
      const frames = framesOf(program, thread);
      if (frames === null) return null;
      for (const frame of frames) found.add(frame);
    }
  }
  return found;
}

const stepsOf = ({ branches }: Thread): readonly Step[] => branches.flatMap(({ steps }) => steps);

const goesBack = (step: Step): boolean => step.do === 'go' && step.target.to === 'back';

const leavesNoTrace = (step: Step): boolean => step.do === 'go' && step.replace === true;

function mayLeadTo(step: Step, frames: ReadonlySet<string>): boolean {
  const target = stepKind(step.do).leadsTo?.(step);
  if (!target || target.to !== 'frame') return true;
  return target.frame !== null && frames.has(target.frame);
}

/** The frames that are on the screen, as far as can be told, while a thread runs; null for all of them. */
function framesOf(program: Program, thread: Thread): readonly string[] | null {
  const { piece, frames } = program;
  const id = thread.on === 'layer' ? piece.layers.get(thread.owner)?.scene : thread.owner;
  const scene = thread.on === 'piece' || id === undefined ? undefined : piece.scenes.get(id);
  if (!scene) return null;
  const shown = scene.use === 'part' ? scenesWith(program, scene.id) : [scene.id];
  return frames.filter((frame) => shown.includes(frame) || piece.scenes.get(frame)?.carries?.some(({ sheet }) => shown.includes(sheet)));
}

/** The frames and sheets that a part is placed in, by itself or in others. */
const scenesWith = (program: Program, part: string): readonly string[] =>
  [...program.scenes.values()].flatMap((one) => {
    const isIn = one.scene.use !== 'part' && expand(program, one).parts.some(({ scene }) => scene.id === part);
    return isIn ? one.scene.id : [];
  });
