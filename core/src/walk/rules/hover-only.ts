import { sceneOfThread, type Thread } from '../../piece/piece.ts';
import type { Program } from '../../program/program.ts';
import { onceFor } from '../../once.ts';
import type { Step } from '../../vocabulary/steps/all.ts';
import { around, doneBy, doneIn, inWords } from '../done.ts';
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
  const { piece } = program;
  const scene = sceneOfThread(piece, thread);
  const led = ledIn(program);
  const isOnFrame = scene !== null && piece.scenes.get(scene)?.use === 'frame';
  return (isOnFrame ? around(piece, scene) : [...led.keys()]).some((one) => led.get(one)?.has(inWords(program, scene, step)));
}

/** Where anything that asks for no hovering leads. */
const ledIn = onceFor((program: Program) => doneIn(program, (thread) => (isHovering(thread) ? [] : leadingIn(thread))));
