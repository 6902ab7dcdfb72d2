import { groupedBy } from '../grouped.ts';
import { onceFor } from '../once.ts';
import type { Piece, Thread } from '../piece/piece.ts';
import type { Cue } from '../vocabulary/cues/all.ts';
import type { Program } from '../program/program.ts';
import { stepKind, type Step } from '../vocabulary/steps/all.ts';

/** Frames on which it can matter what they were come to from; null for all of them. */
export type LookingBack = ReadonlySet<string> | null;

/**
 * Where nothing goes *back*, and no way leads on to where something does without leaving a trace of its own, what a frame was come to from
 * is never asked for.
 */
export function lookingBack(program: Program): LookingBack {
  const { piece } = program;
  const threads = [...piece.threads.values()].filter(({ enabled }) => enabled);
  const found = new Set<string>();
  const leading = groupedBy(threads.filter(leadsOn), occasionOf);
  for (const thread of threads) {
    if (!stepsOf(thread).some(goesBack)) continue;
    // Where another one leads on in answer to the same event, what was come from lies below then.
    const isAlone = [occasionOf(thread), ANYWHERE].every((occasion) => (leading.get(occasion) ?? []).every((other) => other === thread));
    const frames = isAlone ? framesOf(program, thread) : null;
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

/** Cues that come by themselves: no other one comes with them, nor is set off by what is done in answer. */
const ALONE: ReadonlySet<Cue['type']> = new Set<Cue['type']>(['click', 'key', 'pad', 'swipe', 'scroll', 'after']);

const leadsOn = (thread: Thread): boolean => stepsOf(thread).some((step) => step.do === 'go');

/** What has one in common with others that answer to the same event; those that anything may set off have no such. */
const occasionOf = ({ owner, cue }: Thread): string => (ALONE.has(cue.type) ? `${owner} ${cue.type}` : ANYWHERE);

const ANYWHERE = '*';

const leavesNoTrace = (step: Step): boolean => step.do === 'go' && step.replace === true;

function mayLeadTo(step: Step, frames: ReadonlySet<string>): boolean {
  const target = stepKind(step.do).leadsTo?.(step);
  if (!target || target.to !== 'frame') return true;
  return target.frame !== null && frames.has(target.frame);
}

/** The frames that may be on the screen while a thread runs; null for all of them. */
function framesOf({ piece, frames }: Program, thread: Thread): readonly string[] | null {
  // What goes on after its scene was left, or after it has led on, runs anywhere.
  const goesOn = thread.branches.some(({ steps }) => steps.filter((step) => step.do === 'go').length > 1);
  if (thread.on === 'piece' || goesOn || stepsOf(thread).some((step) => step.lasting)) return null;
  const id = thread.on === 'scene' ? thread.owner : piece.layers.get(thread.owner)?.scene;
  const scene = id === undefined ? undefined : piece.scenes.get(id);
  if (!scene || scene.use === 'part' || laidIn(piece).has(scene.id)) return null;
  if (scene.use === 'frame') return [scene.id];
  return frames.filter((frame) => piece.scenes.get(frame)?.carries?.some(({ sheet }) => sheet === scene.id));
}

/** The frames that may be laid over others. */
const laidIn = onceFor(
  ({ threads }: Pick<Piece, 'threads'>): ReadonlySet<string | null> =>
    new Set([...threads.values()].flatMap((thread) => stepsOf(thread).flatMap((step) => (step.do === 'lay' ? step.frame : []))))
);
