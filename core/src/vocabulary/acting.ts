import type { Value } from '../expression/ast.ts';
import type { Timing } from '../fields/step-fields.ts';
import type { Stepped, Took } from './stepped.ts';
import type { Target } from './target.ts';
import type { Transition } from './transitions/all.ts';

/**
 * What a step can do to a running piece, and ask of it. The engine is behind it; steps know nothing of programs and runs. All of it
 * is seen from where the thread stands: paths, labels and expressions mean what they mean there.
 */
export interface Acting {
  /** Where a target is from here, or why it is nowhere. */
  whereTo(target: Target): string | { readonly code: string; readonly sentence: string };
  /** The name of a frame; null where there is none of this id. */
  frameName(frame: string): string | null;
  /** Whether the person sees a frame now, also one laid over. */
  isOnScreen(frame: string): boolean;
  /** Whether anything lies over the frame. */
  readonly isCovered: boolean;
  /** Makes a frame the one that the person is on. What *back* does later: comes back here, passes over it, or this was going back itself. */
  goTo(frame: string, transition: Transition, trace: 'kept' | 'none' | 'back'): Pick<Stepped, 'movedTo'>;
  layOver(overlay: Laid, transition: Transition): void;
  /** Takes away the topmost frame that was laid over, and gives its name. */
  lift(transition: Transition): string;

  /** The layer that a path means, or why there is none on the screen. */
  layer(path: string | null): ActedLayer | Stepped;
  /** The placement that a path means, or the scene of the thread, as something that has states. */
  states(of: string | undefined): ActedStates | Stepped;
  /** The same as something that plays; a path may also mean media, or all in a group. */
  time(of: string | undefined): ActedTime | Stepped;
  /** Scrolls the scene of the thread. */
  scrollToEdge(edge: 'top' | 'bottom', timing: Timing | undefined): void;

  /** What an expression gives; null where it gives nothing. */
  value(expression: string): Value | null;
  variableName(variable: string): string | null;
  /** Gives a sentence where the value does not fit. */
  setVariable(variable: string, value: Value): string | null;

  open(address: string, tab: 'same' | 'new', measure: string | null): void;
  send(signal: string): void;
}

/** A frame laid over, as a run keeps it. */
export interface Laid {
  readonly frame: string;
  readonly at: 'center' | 'top' | 'bottom' | 'left' | 'right';
  readonly scrim: number | null;
  readonly closes: boolean;
}

/** Numbers that steps can change. */
export type ChangedNumber = 'x' | 'y' | 'width' | 'height' | 'rotation' | 'scale' | 'opacity';

/** What a layer is or is not. */
export type LayerFlag = 'selected' | 'enabled' | 'shown';

/** A layer on the screen. */
export interface ActedLayer {
  readonly name: string;
  is(what: LayerFlag): boolean;
  /** Whether an expression says this of it, which wins. */
  isBound(what: LayerFlag): boolean;
  set(what: LayerFlag, on: boolean): void;
  /** How what is different of it now is shown. */
  showBy(transition: Transition): void;
  /** Where it is, in CSS px of what it is in. */
  readonly place: { readonly x: number; readonly y: number };
  change(numbers: Partial<Record<ChangedNumber, number>>, timing: Timing | undefined): void;
  /** Scrolls what is around it until it is seen; false where it is hidden. */
  scrollTo(timing: Timing | undefined): boolean;
}

export interface ActedStates {
  readonly name: string;
  readonly scene: {
    readonly states: readonly { readonly id: string; readonly name: string }[];
    readonly initial: string | null;
  };
  readonly now: string | null;
  /** Brings it into a state; says what came of it. */
  set(state: string): 'set' | 'there already' | 'bound';
  showBy(transition: Transition): void;
}

export interface ActedTime {
  readonly name: string;
  /** Plays from a label or shows it; gives its name, or null where it is not there. */
  playFrom(label: string): { readonly name: string; readonly took: Took } | null;
  show(label: string): string | null;
  /** Plays on, or from the beginning; null where there is nothing to play. */
  play(from: 'here' | 'start'): Took | null;
  /** Plays the section beside this one; gives its name (null for what comes before all labels), or null where nothing plays. */
  turn(to: 'next' | 'previous'): { readonly name: string | null; readonly took: Took } | null;
  pause(): void;
}
