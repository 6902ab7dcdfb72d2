import { sceneOfThread, type Thread } from '../../piece/piece.ts';
import type { Program } from '../../program/program.ts';
import { onceFor } from '../../once.ts';
import type { Step } from '../../vocabulary/steps/all.ts';
import { threadsIn } from '../at-thread.ts';
import { doneBy, inWords } from '../done.ts';
import { onlyRule } from '../only-rule.ts';

export const hoverOnly = onlyRule({
  id: 'hover-only',
  words: 'hover only',
  meaning:
    'a frame that is come to, a thread that fires, or a link or way that is taken, only where a pointer can hover: with a finger nobody gets there',
  spares: 'what a click or a tap leads to as well; what hovering only shows',
  way: 'finger',
  isMeant: (thread, program) => isHovering(thread) && leadingIn(thread).every((step) => isLedToAlso(program, thread, step)),
  frame: (name) => `Only hovering leads to ${name}; with a finger nobody gets there.`,
  thread: (owner) => `What ${owner} does is got at only by hovering; with a finger nobody gets there.`,
});

const isHovering = ({ cue }: Thread): boolean => cue.type === 'hover' || cue.type === 'leave';

const LEADING: ReadonlySet<Step['do']> = new Set(['go', 'open', 'start over']);

const leadingIn = (thread: Thread): readonly Step[] => doneBy(thread).filter((step) => LEADING.has(step.do));

/** Whether something that asks for no hovering leads there from the same frame, or from anywhere where what hovers may stand on any. */
function isLedToAlso(program: Program, thread: Thread, step: Step): boolean {
  const { scenes } = program.piece;
  const own = sceneOfThread(program.piece, thread);
  const scene = own === null ? undefined : scenes.get(own);
  const led = ledIn(program);
  const around = scene?.use === 'frame' ? [scene.id, null, ...(scene.carries ?? []).map(({ sheet }) => sheet)] : [...led.keys()];
  return around.some((one) => led.get(one)?.has(inWords(program, own, step)));
}

/** Where anything that asks for no hovering leads, in words, by the scene that it belongs to; null for the piece. */
const ledIn = onceFor((program: Program): ReadonlyMap<string | null, ReadonlySet<string>> => {
  const led = new Map<string | null, Set<string>>();
  for (const thread of threadsIn(program.piece)) {
    if (!thread.enabled || isHovering(thread)) continue;
    const scene = sceneOfThread(program.piece, thread);
    const words = led.get(scene) ?? new Set();
    for (const step of leadingIn(thread)) words.add(inWords(program, scene, step));
    led.set(scene, words);
  }
  return led;
});
