import type { OccasionType } from '../vocabulary/occasions.ts';
import type { RunEvent } from './state.ts';

/** What is heard where something is done by a pointer, what it is done for first. */
export type Occasions = readonly OccasionType[];

export const CLICKED = ['click', 'press', 'release'] as const satisfies Occasions;

export const HEARD = {
  click: CLICKED,
  hold: ['press', 'release'],
  'double-click': ['double click', 'click'],
  'long-press': ['long press'],
  hover: ['hover', 'leave'],
  drag: ['drag', 'drag start', 'drop'],
  swipe: ['swipe'],
} as const satisfies Partial<Record<RunEvent['type'], Occasions>>;
