import type { Node } from '../program/node.ts';
import type { RunEvent, RunState } from '../run/state.ts';

/**
 * Exploring a piece: every settled state that can be reached from a start.
 *
 * A state is a frame and how many of its timers have fired. The back stack is no part of it, and nothing is lost by
 * that: *back* always returns to a frame as it was entered before, with the stack it had then. So it never leads to a
 * state that was not met already, and which frames it can lead to is known from who leads here (`callers`).
 */
export interface State {
  readonly frame: string;
  readonly timers: number;
  /** The state it was first met from; -1 for a start. */
  readonly parent: number;
  /** What was done there; null for a start. */
  readonly event: RunEvent | null;
}

export interface Edge {
  readonly to: number;
  readonly event: RunEvent;
  readonly threads: readonly string[];
}

export interface Exploration {
  /** Null when everything was explored; else what was cut, in a sentence. */
  readonly cut: string | null;
  readonly states: readonly State[];
  /** Moves followed, those that stay included. */
  readonly moves: number;
  readonly edges: readonly (readonly Edge[])[];
  /** For each frame: the frames from which it was gone to, so that *back* leads there. */
  readonly callers: ReadonlyMap<string, ReadonlySet<string>>;
  /** For each reached frame: the first state it was met in. */
  readonly reached: ReadonlyMap<string, number>;
  /** Frames in which a *back* can be done. */
  readonly backFrom: ReadonlySet<string>;
  /** Frames in which a link can be opened in the same tab, which leaves the piece. */
  readonly leavesFrom: ReadonlySet<string>;
  /** Threads that fire in some state. */
  readonly fired: ReadonlySet<string>;
  /** What was not tried in any state, as phrases: then nothing is claimed that trying it could refute. */
  readonly gaps: readonly string[];
  /** Layers of which others took a half or more in every state in which they were seen. */
  readonly covered: readonly Covered[];
  /** The run of each state; null where frames and timers are all there is to one. */
  readonly runs: readonly RunState[] | null;
  /** States that stand for several whose back stacks differ further down than they are told apart. */
  readonly shallow: ReadonlySet<number>;
  /** States that were met but not followed any further, because something was cut. */
  readonly unfollowed: ReadonlySet<number>;
  /** Whether frames and timers are all there is to a state. */
  readonly isPlain: boolean;
}

/** A layer that others take from the pointer. */
export interface Covered {
  readonly node: Node;
  readonly by: Node;
  /** Share of what is in view of it, 0 to 1, where least of it is taken. */
  readonly share: number;
  /** A state in which it is so. */
  readonly state: number;
}

export interface ExploreOptions {
  /** Stops after this many states; `PLAIN_STATES` or `RUN_STATES` if not given. */
  readonly maxStates?: number;
  /** Asked now and then, with the number of states so far; true stops. */
  readonly shouldStop?: (states: number) => boolean;
}

/** Exploring that can be stopped, looked at, and gone on with. */
export interface Exploring {
  /** States that this piece is explored to where nobody says how far: by number, so that the answer is the same on every machine. */
  readonly usual: number;
  /** Goes on until nothing is left to follow (`end`), there are so many states (`limit`), or it is asked to pause. */
  readonly on: (maxStates: number, shouldPause?: (states: number) => boolean) => 'end' | 'limit' | 'paused';
  /** What is known so far. Where something is left, `cut` says so. */
  readonly result: () => Exploration;
}

/** What is left of an exploration of which the states from `next` on were not followed, and why it is not at its end. */
export function leftOver(states: number, next: number, most: number): Pick<Exploration, 'cut' | 'unfollowed'> {
  const unfollowed = new Set(Array.from({ length: states - next }, (_, i) => next + i));
  return { cut: next === states ? null : states > most ? `stopped at ${most} states` : 'stopped before the end', unfollowed };
}
