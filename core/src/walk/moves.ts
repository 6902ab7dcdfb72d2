import type { RunEvent } from '../run/state.ts';
import type { Outcome, Started } from './outcome.ts';

/** What is done, or is due, as it is taken on a route. */

/** What an outcome has to do with time. */
export interface InTime {
  /** What begins to wait. */
  readonly starts: readonly Started[];
  /** The playheads of which was asked how far they have come. */
  readonly asked: ReadonlySet<number>;
  /** Whether it ends what waits. */
  readonly isEnded: (wait: number) => boolean;
  /** Nothing begins to wait, ends, or was asked. */
  readonly isNothing: boolean;
}

/** One of what waits: by its number, and how many with that number began before it. */
export type OneOf = readonly [wait: number, before: number];

export const oneAt = (waits: readonly number[], at: number): OneOf => [
  waits[at]!,
  waits.reduce((sum, wait, i) => (i < at && wait === waits[at] ? sum + 1 : sum), 0),
];

/** Whether what stands at a place is among some. */
export const isOneOf = (some: readonly OneOf[], waits: readonly number[], at: number): boolean => {
  const [wait, before] = oneAt(waits, at);
  return some.some((one) => one[0] === wait && one[1] === before);
};

/** How an outcome was come to, as far as time matters for it. */
export interface Move {
  readonly time: InTime;
  /** The number of what was due, of several such the one that began first; null for what a person did. */
  readonly due: number | null;
  /** What had to be due later than that, not with it. */
  readonly later: readonly OneOf[];
  /** Nothing is due at once then. */
  readonly isAtRest: boolean;
  /** The playheads that have to be where they were asked about, with how long ago they came there, in units. */
  readonly exact: readonly { readonly wait: number; readonly passed: number; readonly slack: number }[];
}

/** What something is done for: that this comes of it, which depends on what can be set before. */
export interface Sought {
  readonly event: number;
  readonly outcome: Outcome;
}

/** What is done, or due, with the move or moves that come of it; what is due with it at that moment follows of itself. */
export interface Timed {
  readonly event: RunEvent;
  readonly moves: readonly Move[];
  /** What is to come of it, where something is to be set first for that. */
  readonly sought?: Sought;
}

/** What waits at first: how long in all and how much of that is left, in units. */
export interface First {
  readonly wait: number;
  readonly span: number;
  readonly left: number;
}
