import type { Program } from '../program/program.ts';
import { spanOf } from '../run/playhead.ts';
import { replay, start } from '../run/run.ts';
import type { RunState } from '../run/state.ts';
import type { Route } from './finding.ts';

/**
 * A route, and so many timeline frames more at its end until what only moves has come to rest, as far as that is waited for until
 * something is so; null where it never is, as something else comes before.
 */
export function routeToRest(program: Program, route: Route, frames: number, isThere: (run: RunState) => boolean): Route | null {
  if (frames === 0) return route;
  const waited = { ...route, events: [...route.events, { type: 'wait', ms: spanOf(program, frames) } as const] };
  return [route, waited].find(({ from, events }) => isThere(replay(program, start(program, from)!, events).run)) ?? null;
}
