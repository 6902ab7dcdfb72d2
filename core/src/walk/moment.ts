import type { RunEvent, RunState } from '../run/state.ts';
import type { Timed } from './moves.ts';

/** A state that was met, by which something can be shown. */
export interface Moment {
  /** Where the route to it begins. */
  readonly start: string;
  /** With what is done there, where that matters. */
  readonly route: (...more: readonly Timed[]) => RunEvent[];
  readonly run: () => RunState;
}

/** The route to a moment, as loose ends carry it; with what is done there, where that matters. */
export const routeBy = ({ start, route }: Moment, ...more: readonly Timed[]): { readonly from: string; readonly events: RunEvent[] } => ({
  from: start,
  events: route(...more),
});
