import type { Timing } from '../fields/step-fields.ts';
import { DIRECTIONS } from '../vocabulary/directions.ts';
import { transitionKinds, type TimedTransition, type Transition } from '../vocabulary/transitions/all.ts';
import { USUAL } from '../vocabulary/transitions/define.ts';
import { durationWords } from '../words.ts';
import { writeRaw } from './raw.ts';
import type { LineReader } from './reader.ts';

/** Transitions and timings as they are written. */

const TYPES = Object.keys(transitionKinds) as Transition['type'][];

/** As a chip says it: `push left 300 ms ease-out`. */
export function transitionWords(transition: Transition): string {
  if (transition.type === 'cut') return 'cut';
  return `${headOf(transition)} ${timingText(transition, (easing) => easing)}`;
}

const headOf = (transition: TimedTransition) => ('direction' in transition ? `${transition.type} ${transition.direction}` : transition.type);

/** As a thread line says it, with its dot; a cut goes without saying. */
export const printTransition = (transition: Transition): string =>
  transition.type === 'cut' ? '' : `· ${headOf(transition)} ${timingText(transition, (easing) => writeRaw(easing, EASING_ENDS, EASING_STOPS))}`;

/** `300 ms ease-out after 50 ms stagger 30 ms by order`. */
export const printTiming = (timing: Timing): string => timingText(timing, (easing) => writeRaw(easing, EASING_ENDS, EASING_STOPS));

function timingText({ ms, easing, delay, stagger }: Timing, write: (easing: string) => string): string {
  const after = delay === undefined ? '' : ` after ${durationWords(delay)}`;
  const each = stagger === undefined ? '' : ` stagger ${durationWords(stagger.ms)} by ${stagger.by}`;
  return `${durationWords(ms)} ${write(easing)}${after}${each}`;
}

/** Reads `· push left 300 ms ease-out`; time and easing may be left out, and all of it is then a cut. */
export function readTransition(reader: LineReader): Transition {
  if (!reader.sign(['·', ','])) return { type: 'cut' };
  const type = reader.word(TYPES);
  if (type === null) return reader.fail(`${TYPES.slice(0, -1).join(', ')} or ${TYPES.at(-1)}`);
  if (type === 'cut') return { type };
  if (!transitionKinds[type].hasDirection) return { type, ...readTiming(reader) } as Transition;
  const direction = reader.word(DIRECTIONS) ?? 'left';
  return { type, direction, ...readTiming(reader) } as Transition;
}

export const EASINGS = [
  'ease-out',
  'ease-in-out',
  'ease-in',
  'ease',
  'linear',
  'cubic-bezier(0.2, 0.8, 0.2, 1)',
  'steps(4)',
  'spring(0.3)',
  'overshoot(0.1)',
];

const EASING_ENDS = ['after', 'stagger', 'then'];
const EASING_STOPS = ['·', ';', '"', '→', '->', '>', ' after ', ' stagger ', ' then '];

export function readTiming(reader: LineReader): Timing {
  const ms = /^\s*\d/.test(reader.rest) ? reader.duration() : USUAL.ms;
  if (reader.done) reader.offer(['250 ms', '300 ms', '500 ms', ...EASINGS]);
  const hasEasing = !/^\s*($|;|after |stagger |then )/.test(reader.rest);
  const easing = hasEasing ? reader.raw('an easing', EASINGS, EASING_STOPS) : USUAL.easing;
  // A word that is still being written is completed before another one is offered.
  if (reader.done && !/\s$/.test(reader.text)) return { ms, easing };
  const delay = reader.word(['after']) ? reader.duration() : undefined;
  const stagger = reader.word(['stagger']) ? readStagger(reader) : undefined;
  return { ms, easing, ...(delay !== undefined && { delay }), ...(stagger && { stagger }) };
}

function readStagger(reader: LineReader): NonNullable<Timing['stagger']> {
  const ms = reader.duration();
  const by = reader.word(['by order', 'by distance']);
  return { by: by === 'by distance' ? 'distance' : 'order', ms };
}
