import type { CueType } from './schemas.ts';

/** Cues that a press of a layer gives. */
export const pressCues: ReadonlySet<CueType> = new Set<CueType>(['click', 'press', 'release', 'double click', 'long press']);

/** Cues that come from a pointer: a layer with a thread for one of them catches it. */
export const pointerCues: ReadonlySet<CueType> = new Set<CueType>([
  'click',
  'double click',
  'press',
  'release',
  'hover',
  'leave',
  'long press',
  'drag start',
  'drag',
  'drop',
  'swipe',
]);
