import type { Ended } from '../run/recording.ts';
import { columnOfWait } from './times.ts';
import type { Seeing } from './sights.ts';

/** What comes of an event wherever it holds. */
export interface Outcome {
  /** Scenes of which nothing is left. */
  readonly cleared: readonly string[];
  readonly columns: readonly number[];
  readonly values: readonly number[];
  /** Whether the top of the back stack was taken off, and what was put on then. */
  readonly isTaken: boolean;
  readonly pushed: readonly string[];
  readonly threads: readonly string[];
  /** Branches that fire, and those of them that do something. */
  readonly branches: readonly string[];
  readonly acted: readonly string[];
  /** Those that do something where it leads to another state at all: what it clears may have been as it begins. */
  readonly clearing: readonly string[];
  /** States that were set, whether they stayed or not. */
  readonly entered: readonly (readonly [scene: string, key: string, state: string])[];
  /** Threads that set each other off without end. */
  readonly endless: readonly string[];
  /** Threads that divide by zero. */
  readonly failed: readonly string[];
  /** A link is opened in the same tab, which leaves the piece. */
  readonly leaves: boolean;
  /** What begins to wait, each for so many units of time; what it ends of what waits, whether anything of it does or not. */
  readonly starts: readonly Started[];
  readonly ended: readonly Ended[];
  readonly endedHeads: readonly number[];
  /** It lets more wait for the end of one section than is followed. */
  readonly isHurry: boolean;
  /** It asks for more of the back stack than is known. */
  readonly isDeep: boolean;
}

export interface Started {
  readonly wait: number;
  readonly span: number;
}

/** What is seen in a state, as far as it is judged by where things stand. */
export interface Seen extends Seeing {
  readonly isCut: boolean;
}

export const isOutcome = (answer: object): answer is Outcome => 'cleared' in answer;

export const isSeen = (answer: object): answer is Seen => 'sights' in answer;

/** Whether an outcome does anything to the core. `hits` tells whether what it ends is of the core. */
export const isInCore = (outcome: Outcome, isCore: (column: number) => boolean, hits: (outcome: Outcome) => boolean): boolean => {
  const { cleared, columns, isTaken, pushed, leaves, isHurry, isDeep, starts } = outcome;
  return (
    isTaken ||
    leaves ||
    isHurry ||
    isDeep ||
    cleared.length > 0 ||
    pushed.length > 0 ||
    columns.some(isCore) ||
    starts.some(({ wait }) => isCore(columnOfWait(wait))) ||
    hits(outcome)
  );
};

/** What an outcome does to the core, as one text to compare; '' for nothing. `endedBy` gives what waits in the core and is ended by it. */
export function coreWords(outcome: Outcome, isCore: (column: number) => boolean, endedBy: (outcome: Outcome) => readonly number[]): string {
  const ended = endedBy(outcome);
  if (!isInCore(outcome, isCore, () => ended.length > 0)) return '';
  const { cleared, columns, values, isTaken, pushed, leaves, isHurry, isDeep, threads, starts } = outcome;
  // In which order it is done to different things is all one.
  const written = columns.flatMap((column, i) => (isCore(column) ? `${column} ${values[i]}` : [])).sort();
  const begun = starts.flatMap(({ wait, span }) => (isCore(columnOfWait(wait)) ? `${wait} ${span}` : [])).sort();
  const waits = [begun, ended];
  return JSON.stringify([[...cleared].sort(), written, isTaken, pushed, leaves, isHurry, isDeep, threads, waits]);
}
