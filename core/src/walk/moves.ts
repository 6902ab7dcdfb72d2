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

/** How an outcome was come to, as far as time matters for it. */
export interface Move {
  readonly time: InTime;
  /** The place of what was due; null for what a person did. */
  readonly due: number | null;
  readonly later: readonly number[];
  /** Nothing is due at once then. */
  readonly isAtRest: boolean;
  /** The places of playheads that have to be where they were asked about, with how long ago they came there, in units. */
  readonly exact: readonly { readonly at: number; readonly passed: number; readonly slack: number }[];
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
