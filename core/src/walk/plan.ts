import { startFrames, type Program } from '../program/program.ts';
import { begin, advance } from '../run/run.ts';
import { branchKey } from '../run/runner.ts';
import type { Report, RunEvent, RunState } from '../run/state.ts';
import type { Exploration, Spot } from './exploration.ts';
import { startOf } from './explore.ts';
import type { Timed } from './moves.ts';

/** Few and short routes that together fire every branch that can fire; and the way on from where a person is. */

export interface PlannedRoute {
  readonly from: string;
  readonly events: readonly RunEvent[];
  /** Branches that it is the first to fire, by `branchKey`, in order. */
  readonly fires: readonly string[];
}

export interface Plan {
  readonly routes: readonly PlannedRoute[];
  /** Events in all routes. */
  readonly length: number;
  /** No plan can have fewer events: the farthest branch has to be come to, and an event fires only so many at once. */
  readonly least: number;
  /** Branches that can fire, and that no route was found for. */
  readonly missed: readonly string[];
}

/** A route is not made longer than this: people lose the thread. */
const LONGEST = 40;

const firedIn = (reports: readonly Report[]): string[] =>
  reports.flatMap((report) => report.fired.map((fired) => branchKey(fired.thread, fired.branch)));

/** Plans routes over all that was explored; every route was replayed, and what it fires was seen. */
export function planRoutes(program: Program, exploration: Exploration): Plan {
  const parts = [exploration, ...exploration.slices];
  const left = new Set(exploration.branches);
  const routes: PlannedRoute[] = [];
  const take = (from: string, events: readonly RunEvent[]): void => {
    const walked = walk(program, from, events, left);
    if (walked.fires.length === 0) return;
    routes.push(walked);
    for (const branch of walked.fires) left.delete(branch);
  };
  for (const part of parts)
    for (let before = -1; before !== left.size && left.size > 0;) {
      before = left.size;
      const route = nextRoute(part, left);
      if (route) take(route.from, route.events);
    }
  for (const part of parts)
    for (const branch of [...left])
      for (const { state, step } of part.places.get(branch) ?? []) if (left.has(branch)) take(startOf(part, state), part.routeTo(state, [], [step]));
  const length = routes.reduce((sum, { events }) => sum + events.length, 0);
  // What fires as a piece begins asks for no event.
  const begun = new Set(startFrames(program).flatMap((frame) => firedIn(begin(program, frame)?.reports ?? [])));
  const isAsked = (branch: string) => !left.has(branch) && !begun.has(branch) && parts.some(({ places }) => places.has(branch));
  const asked = new Set([...exploration.branches].filter(isAsked));
  return { routes, length, least: leastOf(exploration, asked), missed: [...left] };
}

/** Walks a route by the engine: which of the branches that are left it fires; what comes after the last of them is cut off. */
function walk(program: Program, from: string, events: readonly RunEvent[], left: ReadonlySet<string>): PlannedRoute {
  const begun = begin(program, from)!;
  const fires = new Set(firedIn(begun.reports).filter((branch) => left.has(branch)));
  let { run } = begun;
  let last = 0;
  events.forEach((event, i) => {
    const next = advance(program, run, event);
    run = next.run;
    for (const branch of firedIn(next.reports)) {
      if (!left.has(branch) || fires.has(branch)) continue;
      fires.add(branch);
      last = i + 1;
    }
  });
  return { from, events: events.slice(0, last), fires: [...fires] };
}

/** A route from a start that goes from one branch that is left to the nearest next one, as long as there is one. */
function nextRoute(part: Exploration, left: ReadonlySet<string>): { readonly from: string; readonly events: readonly RunEvent[] } | null {
  const spots = new Map<number, (Spot & { readonly branch: string })[]>();
  for (const branch of left)
    for (const spot of part.places.get(branch) ?? []) {
      const list = spots.get(spot.state);
      if (list) list.push({ ...spot, branch });
      else spots.set(spot.state, [{ ...spot, branch }]);
    }
  const [start] = part.states.flatMap((state, at) => (state.parent < 0 && reaches(part, at, spots) ? at : []));
  if (start === undefined) return null;
  const done = new Set<string>();
  const steps: Timed[] = [];
  for (let at: number | undefined = start; at !== undefined && steps.length < LONGEST;) {
    const path = pathTo(part, at, (state) => spots.get(state)?.some(({ branch }) => !done.has(branch)) ?? false);
    if (!path) break;
    const spot: Spot & { readonly branch: string } = spots.get(path.end)!.find(({ branch }) => !done.has(branch))!;
    steps.push(...path.steps, spot.step);
    done.add(spot.branch);
    at = part.edges.of(path.end).find(({ step }) => step === spot.step)?.to ?? path.end;
  }
  return { from: startOf(part, start), events: part.routeTo(start, [], steps) };
}

const reaches = (part: Exploration, from: number, spots: ReadonlyMap<number, unknown>): boolean =>
  pathTo(part, from, (state) => spots.has(state)) !== null;

/** The shortest way from a state to one that is looked for, without going back over where it was come from. */
function pathTo(part: Exploration, from: number, isIt: (state: number) => boolean): { readonly end: number; readonly steps: Timed[] } | null {
  const came = new Map<number, { readonly from: number; readonly step: Timed } | null>([[from, null]]);
  for (const at of came.keys()) {
    if (isIt(at)) {
      const steps: Timed[] = [];
      for (let last = came.get(at); last; last = came.get(last.from)) steps.push(last.step);
      return { end: at, steps: steps.reverse() };
    }
    for (const { to, step, back } of part.edges.of(at)) if (!back && !came.has(to)) came.set(to, { from: at, step });
  }
  return null;
}

/** What no plan can be shorter than: an event fires only so many branches at once, and the farthest of them has to be come to. */
function leastOf(exploration: Exploration, branches: ReadonlySet<string>): number {
  const parts = [exploration, ...exploration.slices];
  const most = Math.max(1, ...parts.map(({ together }) => together));
  const depths = parts.map(depthsOf);
  // States are followed in the order of how far they are, so the first of which a branch was found to fire is the nearest. Where back stacks
  // are deep they are not.
  const far = exploration.levels ? [] : [...branches].map((branch) => Math.min(...parts.map((part, i) => farOf(part, depths[i]!, branch))) + 1);
  return Math.max(0, ...far, Math.ceil(branches.size / most));
}

const farOf = ({ places }: Exploration, depths: readonly number[], branch: string): number => {
  const [first] = places.get(branch) ?? [];
  return first ? depths[first.state]! : Infinity;
};

/** How many events it takes at least to come to each state; one comes before what it leads to. */
function depthsOf({ states }: Exploration): readonly number[] {
  const depths: number[] = [];
  for (const { parent } of states) depths.push(parent < 0 ? 0 : depths[parent]! + 1);
  return depths;
}

/** The way from a run to the nearest branch that is still to be walked; null where none can be come to from there. */
export function guide(
  program: Program,
  exploration: Exploration,
  run: RunState,
  walked: ReadonlySet<string>
): { readonly events: readonly RunEvent[]; readonly branch: string } | null {
  for (const part of [exploration, ...exploration.slices]) {
    const from = part.stateOf(run);
    if (from === null) continue;
    const tried = new Set<string>();
    for (let i = 0; i < MOST_TRIED; i++) {
      const open = (branch: string) => !walked.has(branch) && !tried.has(branch);
      const spots = new Map<number, Spot & { readonly branch: string }>();
      for (const [branch, list] of part.places)
        if (open(branch)) for (const spot of list) if (!spots.has(spot.state)) spots.set(spot.state, { ...spot, branch });
      const path = pathTo(part, from, (state) => spots.has(state));
      if (!path) break;
      const { step, branch } = spots.get(path.end)!;
      const events = part.eventsFrom(run, from, [...path.steps, step]);
      if (fires(program, run, events, branch)) return { events, branch };
      tried.add(branch);
    }
  }
  return null;
}

/** Ways that are tried which turn out not to lead there from this very run. */
const MOST_TRIED = 12;

function fires(program: Program, run: RunState, events: readonly RunEvent[], branch: string): boolean {
  let at = run;
  return events.some((event) => {
    const next = advance(program, at, event);
    at = next.run;
    return firedIn(next.reports).includes(branch);
  });
}
