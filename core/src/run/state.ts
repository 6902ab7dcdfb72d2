import type { ExpressionFault, Value } from '../expression/ast.ts';
import type { Thread } from '../piece/piece.ts';
import type { Point } from '../program/geometry.ts';
import type { Timing } from '../fields/step-fields.ts';
import type { Transition } from '../vocabulary/transitions/all.ts';

/**
 * Where a running piece is. Plain data: a run can be kept, compared and gone on with. Times are milliseconds of the run's own
 * clock, points are CSS pixels of the frame's view. Layers are named by the keys of their nodes.
 */
export interface RunState {
  /** The frame that the person is on. */
  readonly frame: string;
  /** Frames that *back* leads to, the latest last. */
  readonly back: readonly string[];
  readonly clock: number;
  /** The frame, the sheets it carries, frames laid over it, and scenes that remember: by scene. */
  readonly roots: Readonly<Record<string, RootRun>>;
  /** Frames laid over the frame, the topmost last. */
  readonly overlays: readonly Overlay[];
  /** Variables of the piece that are not as they began. */
  readonly variables: Readonly<Record<string, Value>>;
  readonly pointer: Point | null;
  /** The layers that the pointer is over, from the inside out. */
  readonly over: readonly string[];
  readonly pressed: Pressed | null;
  /** The last click, for the second of a double click. */
  readonly clicked: { readonly node: string; readonly at: number } | null;
  readonly focus: string | null;
  /** Steps that wait for their time. */
  readonly activities: readonly Activity[];
  /** The pad button pressed last; -1 before any. */
  readonly pad: number;
  /** Counts what is started, so that equal times run in the order they were asked for. */
  readonly count: number;
}

/** What a scene on the screen is like, as far as it differs from how it begins. */
export interface RootRun {
  readonly scene: string;
  readonly entered: number;
  /** States by instance ('' is the scene itself). */
  readonly states: Readonly<Record<string, string>>;
  readonly changes: Readonly<Record<string, Changes>>;
  /** `node.selected`, `node.enabled`, `node.shown`: set by a step or a person. */
  readonly flags: Readonly<Record<string, boolean>>;
  /** What stands in fields. */
  readonly values: Readonly<Record<string, Value>>;
  /** Variables of scenes, by their keys. */
  readonly variables: Readonly<Record<string, Value>>;
  readonly heads: Readonly<Record<string, Playhead>>;
  /** Placements with a timeline, and media, that are there just now. */
  readonly present: Readonly<Record<string, boolean>>;
  /** By node of a scrolling group; '' is the scene itself. */
  readonly scroll: Readonly<Record<string, Scroll>>;
  readonly media: Readonly<Record<string, 'playing' | 'paused'>>;
  readonly timers: readonly Timer[];
  /** What bindings gave when what they read last changed; null where an expression has no value. */
  readonly bound: Readonly<Record<string, Value | null>>;
}

/** Run-time changes of a layer's numbers, by steps and by dragging. */
export interface Changes {
  readonly x?: number;
  readonly y?: number;
  readonly width?: number;
  readonly height?: number;
  readonly rotation?: number;
  readonly scale?: number;
  readonly opacity?: number;
}

export interface Overlay {
  readonly frame: string;
  readonly at: 'center' | 'top' | 'bottom' | 'left' | 'right';
  readonly scrim: number | null;
  readonly closes: boolean;
}

export interface Pressed {
  /** '' is the frame beside all layers. */
  readonly node: string;
  /** The scene on the screen that was pressed. */
  readonly scene: string;
  readonly from: Point;
  readonly at: number;
  /** The layer that is dragged, with its place when the drag began; null while nothing is. */
  readonly drag: { readonly node: string; readonly x: number; readonly y: number; readonly moving: boolean } | null;
  /** A long press has been made of it, so it is no click any more. */
  readonly spent: boolean;
}

/** A playhead: at a timeline frame since a moment, moving on or not. */
export interface Playhead {
  readonly at: number;
  readonly since: number;
  readonly playing: boolean;
  /** Times it was entered, for placements that play once. */
  readonly visits: number;
  /** Rounds that are behind it, of a section that loops so many times. */
  readonly rounds?: number;
}

export interface Scroll {
  readonly x: number;
  readonly y: number;
  /** Where the direction last turned. */
  readonly turn: number;
  readonly direction: 'down' | 'up' | null;
  /** Threads that have fired since then. */
  readonly fired: readonly string[];
}

export interface Timer {
  readonly due: number;
  readonly thread: string;
  readonly instance: string;
  /** Only while the instance is in this state. */
  readonly state: string | null;
}

/** Steps that go on later: at a time, or when a section has ended. */
export interface Activity {
  readonly id: number;
  readonly root: string;
  readonly instance: string;
  readonly thread: string;
  readonly branch: number;
  /** The step to go on with. */
  readonly next: number;
  readonly due: number;
  /** A playhead whose section has to end first. */
  readonly head: { readonly root: string; readonly instance: string } | null;
  readonly lasting: boolean;
  /** The node or scene that the event came to, for the report. */
  readonly from: string | null;
}

/** What can happen to a running piece. Layers may be given by id, or by the key of a node inside placements. */
export type RunEvent =
  | { readonly type: 'move'; readonly x: number; readonly y: number }
  | { readonly type: 'leave' }
  | { readonly type: 'press'; readonly x: number; readonly y: number }
  | { readonly type: 'release'; readonly x: number; readonly y: number }
  /**
   * A whole click on a layer, made where a person could make it, scrolled to if need be. With null it is made where no layer
   * takes it: on the frame, or on the ground of a frame laid over it (`scene`).
   */
  | { readonly type: 'click'; readonly layer: string | null; readonly scene?: string }
  | { readonly type: 'double-click'; readonly layer: string | null; readonly scene?: string }
  | { readonly type: 'long-press'; readonly layer: string | null; readonly scene?: string }
  /** A press that is kept up, made where a click would be. */
  | { readonly type: 'hold'; readonly layer: string | null; readonly scene?: string }
  /** The end of it: where it was pressed, or, slowly, off what was pressed, so that it is no click. */
  | { readonly type: 'let-go'; readonly where: 'there' | 'elsewhere' }
  /** A press beside the frame that is laid over. */
  | { readonly type: 'beside' }
  | { readonly type: 'hover'; readonly layer: string }
  /** Dragging a layer by so much and letting go. */
  | { readonly type: 'drag'; readonly layer: string; readonly dx: number; readonly dy: number }
  | { readonly type: 'swipe'; readonly layer: string | null; readonly direction: 'left' | 'right' | 'up' | 'down'; readonly scene?: string }
  /** Scrolling the frame, or a group, to a place. */
  | { readonly type: 'scroll'; readonly layer: string | null; readonly x: number; readonly y: number }
  | { readonly type: 'key'; readonly key: string }
  | { readonly type: 'focus'; readonly layer: string | null }
  /** A person changes what stands in a field. */
  | { readonly type: 'value'; readonly layer: string; readonly value: Value }
  | { readonly type: 'media'; readonly layer: string; readonly what: 'started' | 'ended' }
  | { readonly type: 'pad'; readonly button: number }
  | { readonly type: 'signal'; readonly signal: string }
  /** Somebody outside sets a variable of the piece. */
  | { readonly type: 'set'; readonly variable: string; readonly value: Value }
  | { readonly type: 'wait'; readonly ms: number }
  /** Straight to a frame, as a person who walks the piece can. */
  | { readonly type: 'jump'; readonly frame: string };

/** What has to be done outside, or how a change is to be shown. */
export type Effect =
  | { readonly type: 'go'; readonly from: string; readonly to: string; readonly transition: Transition; readonly thread: string }
  | { readonly type: 'lay' | 'lift'; readonly frame: string; readonly transition: Transition; readonly thread: string }
  /** Everything of a scene, an instance or a node that is different now is to be shown that way. */
  | { readonly type: 'show'; readonly of: string; readonly transition: Transition; readonly thread: string }
  /** Numbers of a node that are different now are to be shown that way. */
  | { readonly type: 'tween'; readonly of: string; readonly names: readonly string[]; readonly timing: Timing; readonly thread: string }
  | { readonly type: 'media'; readonly node: string; readonly do: 'play' | 'pause' | 'rewind' }
  | { readonly type: 'open'; readonly address: string; readonly tab: 'same' | 'new'; readonly measure: string | null; readonly thread: string }
  | { readonly type: 'signal'; readonly signal: string; readonly thread: string };

export interface StepOutcome {
  readonly sentence: string;
  readonly done: boolean;
}

export interface Fired {
  readonly thread: string;
  /** Which branch ran, from 0. */
  readonly branch: number;
  readonly steps: readonly StepOutcome[];
}

/** Why something a person might have expected did not happen. */
export interface WhyNot {
  readonly code: string;
  /** What kind of fault kept an expression from having a value. */
  readonly fault?: ExpressionFault['code'];
  readonly sentence: string;
  readonly layer?: string;
  readonly thread?: string;
  readonly branch?: number;
  /** The clause that did not hold, as people read it, and what it read. */
  readonly clause?: string;
}

/** What came of one event, or of one thing that followed from it. */
export interface Report {
  readonly clock: number;
  readonly event: RunEvent;
  /** Set where something inside the piece caused it: a timer, a state, a variable … */
  readonly cause?: string;
  /** The node it came to; null for the frame, the piece, or nothing. */
  readonly layer: string | null;
  readonly fired: readonly Fired[];
  readonly whyNot: readonly WhyNot[];
  readonly effects: readonly Effect[];
}

export interface Advanced {
  readonly run: RunState;
  readonly reports: readonly Report[];
}

export type { Thread };
