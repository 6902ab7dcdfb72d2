import { writeRaw } from '../lines/raw.ts';
import type { LineReader } from '../lines/reader.ts';
import { durationWords } from '../words.ts';
import type { Transition } from '../steps/schemas.ts';
import { DIRECTIONS } from './directions.ts';

/** What a transition is in words; how it moves is in `motion/frames.ts`. */
export interface TransitionKind {
  readonly type: Transition['type'];
  readonly label: string;
  readonly meaning: string;
  readonly fresh: Transition;
}

const timed = { ms: 300, easing: 'ease-out' } as const;

export const transitionKinds: { readonly [T in Transition['type']]: TransitionKind } = {
  cut: { type: 'cut', label: 'cut', meaning: 'the new frame at once', fresh: { type: 'cut' } },
  dissolve: { type: 'dissolve', label: 'dissolve', meaning: 'the new frame fades in over the old one', fresh: { type: 'dissolve', ...timed } },
  push: {
    type: 'push',
    label: 'push',
    meaning: 'the new frame comes in from a side and moves the old one out',
    fresh: { type: 'push', direction: 'left', ...timed },
  },
};

/** As a chip says it: `push left 300 ms ease-out`. */
export function transitionWords(transition: Transition): string {
  if (transition.type === 'cut') return 'cut';
  const way = transition.type === 'push' ? ` ${transition.direction}` : '';
  return `${transition.type}${way} ${durationWords(transition.ms)} ${transition.easing}`;
}

/** As a thread line says it, with its dot; a cut goes without saying. */
export function printTransition(transition: Transition): string {
  if (transition.type === 'cut') return '';
  const way = transition.type === 'push' ? ` ${transition.direction}` : '';
  return ` · ${transition.type}${way} ${durationWords(transition.ms)} ${writeRaw(transition.easing)}`;
}

/** Reads `· push left 300 ms ease-out`; time and easing may be left out, and all of it is then a cut. */
export function readTransition(reader: LineReader): Transition {
  if (!reader.sign(['·', ','])) return { type: 'cut' };
  const type = reader.word(['cut', 'dissolve', 'push']);
  if (type === null) return reader.fail('cut, dissolve or push');
  if (type === 'cut') return { type };
  if (type === 'dissolve') return { type, ...readTiming(reader) };
  const direction = reader.word(DIRECTIONS) ?? 'left';
  return { type, direction, ...readTiming(reader) };
}

const EASINGS = ['ease-out', 'ease-in-out', 'ease-in', 'ease', 'linear', 'cubic-bezier(0.2, 0.8, 0.2, 1)', 'steps(4)'];

function readTiming(reader: LineReader): { ms: number; easing: string } {
  const ms = /^\s*\d/.test(reader.rest) ? reader.duration() : timed.ms;
  if (reader.done) reader.offer(['250 ms', '300 ms', '500 ms', ...EASINGS]);
  const easing = /^\s*($|;)/.test(reader.rest) ? timed.easing : reader.raw('an easing', EASINGS);
  return { ms, easing };
}
