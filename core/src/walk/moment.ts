import type { RunEvent, RunState } from '../run/state.ts';

/** A state that was met, by which something can be shown. */
export interface Moment {
  /** Where the route to it begins. */
  readonly start: string;
  readonly route: () => RunEvent[];
  readonly run: () => RunState;
}
