import type { Transition } from '../steps/schemas.ts';
import type { Point } from '../program/geometry.ts';

/** Everything a run knows. It is a value: the same program, state and event always give the same next state. */
export interface RunState {
  readonly frame: string;
  /** Frames that *back* goes through, the latest last. */
  readonly back: readonly string[];
  /** Milliseconds since the start. */
  readonly clock: number;
  /** When the frame was entered, by the clock. */
  readonly entered: number;
  /** How many of the frame's timers have fired. */
  readonly timersFired: number;
  readonly pointer: Point | null;
  /** The layer under the pointer that catches, and the groups around it. */
  readonly over: readonly string[];
  /** The layer that a press is held on; '' for the frame itself, null for no press. */
  readonly pressed: string | null;
}

/** Points are in CSS pixels of the frame. */
export type RunEvent =
  | { readonly type: 'move'; readonly x: number; readonly y: number }
  | { readonly type: 'leave' }
  | { readonly type: 'press'; readonly x: number; readonly y: number }
  | { readonly type: 'release'; readonly x: number; readonly y: number }
  | { readonly type: 'click'; readonly layer: string | null }
  | { readonly type: 'hover'; readonly layer: string }
  | { readonly type: 'key'; readonly key: string }
  | { readonly type: 'wait'; readonly ms: number }
  | { readonly type: 'jump'; readonly frame: string };

/** What the runner has to do or show because of an event. */
export type Effect =
  | { readonly type: 'go'; readonly from: string; readonly to: string; readonly transition: Transition; readonly thread: string }
  | { readonly type: 'open'; readonly address: string; readonly tab: 'same' | 'new'; readonly thread: string };

/** A thread that ran. */
export interface Fired {
  readonly thread: string;
  readonly steps: readonly StepOutcome[];
}

export interface StepOutcome {
  readonly sentence: string;
  readonly done: boolean;
}

export type WhyNotCode =
  | 'nothing-there'
  | 'not-wired'
  | 'covered'
  | 'other-cue'
  | 'switched-off'
  | 'let-go-elsewhere'
  | 'missing-target'
  | 'no-steps'
  | 'nowhere'
  | 'bad-address'
  | 'not-here'
  | 'unreachable'
  | 'no-thread';

/** Why something that might have been expected did not happen. */
export interface WhyNot {
  readonly code: WhyNotCode;
  readonly sentence: string;
  readonly layer?: string;
  readonly thread?: string;
}

/** The account of one event. */
export interface Report {
  readonly clock: number;
  readonly event: RunEvent;
  /** The layer that received it; null for the frame. */
  readonly layer: string | null;
  readonly fired: readonly Fired[];
  readonly whyNot: readonly WhyNot[];
  readonly effects: readonly Effect[];
}

export interface Advanced {
  readonly run: RunState;
  readonly reports: readonly Report[];
}
