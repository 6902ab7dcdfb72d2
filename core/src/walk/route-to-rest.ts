import type { Program } from '../program/program.ts';
import { spanOf } from '../run/playhead.ts';
import { replay, start } from '../run/run.ts';
import type { RunState } from '../run/state.ts';
import type { Exploration } from './exploration.ts';
import { routeOf } from './explore.ts';
import type { Finding } from './finding.ts';

/**
 * The route to a state, and so many timeline frames more in it until what only moves has come to rest, as far as that is waited for until
 * something is so; null where it never is, as something else comes before.
 */
export function routeToRest(
  program: Program,
  exploration: Pick<Exploration, 'states' | 'routeTo'>,
  state: number,
  frames: number,
  isThere: (run: RunState) => boolean
): Finding['route'] | null {
  const route = routeOf(exploration, state);
  if (frames === 0) return route;
  const waited = { ...route, events: [...route.events, { type: 'wait', ms: spanOf(program, frames) } as const] };
  return [route, waited].find(({ from, events }) => isThere(replay(program, start(program, from)!, events).run)) ?? null;
}
