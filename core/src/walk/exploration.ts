import type { RunEvent, RunState } from '../run/state.ts';
import type { Edges } from './edges.ts';
import type { Moment } from './moment.ts';
import type { Race } from './race.ts';
import type { Slot } from './slots.ts';
import type { Timed } from './moves.ts';
import type { Views } from './views.ts';
import type { Way } from './ways.ts';

/** Exploring a piece: every settled state that can be reached from a start. */
export interface State {
  readonly frame: string;
  /** The state it was first met from; -1 for a start. */
  readonly parent: number;
  /** What was done there; null for a start. */
  readonly event: RunEvent | null;
  /** The start frame that it was begun on, which can have led on by itself. */
  readonly start: string;
}

/** How states stand over what was come from: each has a row, and a place on a stack, of which many places may lie below. */
export interface Levels {
  readonly rowOf: (state: number) => number;
  readonly stackOf: (state: number) => number;
  /** The state with a row and a stack, where it was met. */
  readonly at: (row: number, stack: number) => number | undefined;
  /** What can lie below a place; nothing below the empty stack. */
  readonly below: (stack: number) => readonly number[];
}

export interface Exploration {
  /** Null when everything was explored; else what was cut, in a sentence. */
  readonly cut: string | null;
  readonly states: readonly State[];
  /** States that were told apart in all, also where only some of what tells them apart was looked at. */
  readonly count: number;
  /** What can be done in a state and changes only what nothing else depends on. */
  readonly stirs: Edges;
  /** Moves followed, those that stay included. */
  readonly moves: number;
  /** What can be done in each state and leads to another one. */
  readonly edges: Edges;
  /** For each reached frame: the first state it was met in. */
  readonly reached: ReadonlyMap<string, number>;
  /** Frames in which a link can be opened in the same tab, which leaves the piece. */
  readonly leavesFrom: ReadonlySet<string>;
  /** Threads that fire in some state. */
  readonly fired: ReadonlySet<string>;
  /** Branches that fire in some state, by `branchKey`, and those of them that do something. */
  readonly branches: ReadonlySet<string>;
  readonly acted: ReadonlySet<string>;
  /** Threads that set each other off without end, and where that was first met. */
  readonly endless: ReadonlyMap<string, Moment & { readonly step: Timed }>;
  /** Threads that divide by zero, and where that was first met. */
  readonly failed: ReadonlyMap<string, Moment & { readonly step: Timed }>;
  /** Things due at one moment that lead to different places. */
  readonly races: readonly (Race & { readonly at: Moment })[];
  /** What was not tried in any state, as phrases: then nothing is claimed that trying it could refute. */
  readonly gaps: readonly string[];
  /** The states that scenes and parts come into, as `scene state`; what they begin in not among them. */
  readonly entered: ReadonlySet<string>;
  /** What tells states apart: each with the number of its value in a state, 0 where it is as it begins. */
  readonly slots: () => readonly (Pick<Slot, 'scene' | 'kind' | 'key' | 'values'> & { readonly numberIn: (state: number) => number })[];
  /** For each branch that fires, some places where it does: what is done in which state. */
  readonly places: ReadonlyMap<string, readonly Spot[]>;
  /** How many branches one event fires at most. */
  readonly together: number;
  /** The state that a run is in, at rest; null for one that was not met. */
  readonly stateOf: (run: RunState) => number | null;
  /**
   * What can be come to by somebody who can do only some of it; made when it is asked for. Where only certain scenes and threads are
   * asked for, it is complete as to those, and ends once all of them were come to.
   */
  readonly by: (way: Way, asked?: readonly string[]) => Within;
  /** Whether what people can set at will is left out of the core. */
  readonly isFreed: boolean;
  /** The instances of a scene whose timelines only move what is looked at, by their keys: exploring lets them stand. */
  readonly standingIn: (scene: string) => ReadonlySet<string>;
  /** Branches of which a step sets going or stops what stands, or sets what is only seen: nothing is told to be another for it. */
  readonly stirring: () => ReadonlySet<string>;
  /** What was seen, over all states. */
  readonly views: Views;
  /** The same for each part of what tells states apart that was explored by itself; empty where all was explored together. */
  readonly slices: readonly Exploration[];
  /** States that were met but not followed any further, because something was cut. */
  readonly unfollowed: ReadonlySet<number>;
  /**
   * For states in which not all was followed, as what is started there may be started any number of times: where all of that is known to lead
   * to nothing new, states like all that it leads to. No edges lead there.
   */
  readonly beyond: ReadonlyMap<number, readonly number[]>;
  /** So many states were met and not followed at all: whoever goes on follows them. */
  readonly left: number;
  /** The run of a state, at rest; of its back stack only what lies on its top. */
  readonly runOf: (state: number) => RunState;
  /** Null where nothing in the piece goes back. */
  readonly levels: Levels | null;
  /** The events that lead from a start to a state, in order; with a given stack, from its top down, if one is given; with more done there. */
  readonly routeTo: (state: number, stack?: readonly number[], more?: readonly Timed[]) => RunEvent[];
  /** The events of some steps from a run that is in a state, each at its time. */
  readonly eventsFrom: (run: RunState, state: number, steps: readonly Timed[]) => RunEvent[];
}

/** Something that is done in a state. */
export interface Spot {
  readonly state: number;
  readonly event: RunEvent;
  readonly step: Timed;
}

/** What somebody comes to who goes in one way only. */
export interface Within {
  readonly reached: ReadonlySet<string>;
  readonly fired: ReadonlySet<string>;
  /** Whether it was followed to its end. */
  readonly isComplete: boolean;
}

export interface ExploreOptions {
  /** Stops after this many states; `USUAL_STATES` if not given. */
  readonly maxStates?: number;
  /** From so many states on what tells them apart is explored in slices, where it can be. */
  readonly slicedFrom?: number;
  /** From so many states in slices on, what people can set at will is left out of their core. */
  readonly freedFrom?: number;
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
