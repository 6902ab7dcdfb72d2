import { Beside } from '../once.ts';
import type { Program } from '../program/program.ts';
import { replay, start } from '../run/run.ts';
import type { Exploration, ExploreOptions } from './exploration.ts';
import { explore, routeOf } from './explore.ts';
import { scrollsIn } from './routes.ts';
import { areSame } from '../same.ts';
import { asBefore, before, inEach } from './again.ts';
import { reasonFor } from './aside.ts';
import { contextOf, severityWords, type Finding, type Severity } from './finding.ts';
import { framesShowing } from './per-scene.ts';
import { findTraps, type Trap } from './traps.ts';
import { rules } from './rules/index.ts';

export interface Audit {
  /** Loose ends, the gravest first. */
  readonly findings: readonly Finding[];
  /** Those that somebody has set aside, and why. */
  readonly aside: readonly (Finding & { readonly reason: string })[];
  readonly exploration: Exploration;
}

/** Walks the whole piece: explores it, runs every rule, and gives findings a route to their frame where there is one. */
export const audit = (program: Program, options: ExploreOptions = {}): Audit => judge(program, explore(program, options));

/** Runs every rule over a piece that has been explored, as far as it has been. */
export function judge(program: Program, exploration: Exploration): Audit {
  const routes = routesIn(program, exploration);
  const traps = exploration.gaps.length === 0 ? trapsIn(program, exploration) : [];
  const context = contextOf(program, exploration, traps, exploration.slices.length ? null : routes);
  const ranked = rules.map((rule) => rankedOf(program, rule.id, rule.check(context), exploration, routes));
  const sorted = asBefore(program, 'ranked', ranked, () => gravestFirst(ranked));
  if (!program.piece.head.aside) return { findings: sorted, aside: [], exploration };
  const reasons = new Map(
    sorted.flatMap((one) => {
      const reason = reasonFor(program.piece, one);
      return reason === null ? [] : [[one.id, reason] as const];
    })
  );
  return {
    findings: sorted.filter(({ id }) => !reasons.has(id)),
    aside: sorted.flatMap((one) => (reasons.has(one.id) ? [{ ...one, reason: reasons.get(one.id)! }] : [])),
    exploration,
  };
}

/**
 * What a rule found by how grave it is, each once and with its way there, in the order of the frames: as before where it found the same,
 * and ways and frames are the same.
 */
function rankedOf(
  program: Program,
  rule: string,
  found: readonly Finding[],
  exploration: Exploration,
  routes: Map<string, Finding['route']>
): Ranked {
  const { frames } = program;
  const { old, keep } = before<{ found: readonly Finding[]; routes: object; frames: Program['frames']; ranked: Ranked }>(program, `ranked ${rule}`);
  if (old?.routes === routes && old.frames === frames && areSame(old.found, found)) return old.ranked;
  const ranked: Ranked = { must: [], look: [], note: [] };
  const known = new Set<string>();
  for (const one of found) {
    if (known.has(one.id)) continue;
    known.add(one.id);
    ranked[one.severity].push(withRoute(program, one, exploration, routes));
  }
  for (const severity of severities) sortByFrames(program, ranked[severity]);
  return keep({ found, routes, frames, ranked }).ranked;
}

/** What is about the whole piece comes first; what is on sheets and in parts, last. */
function sortByFrames({ frameAt }: Program, findings: Finding[]): void {
  const placeOf = ({ place: { scene } }: Finding) => (scene === null ? -1 : (frameAt.get(scene) ?? frameAt.size));
  const isInOrder = findings.every((one, i) => i === 0 || placeOf(findings[i - 1]!) <= placeOf(one));
  if (!isInOrder) findings.sort((a, b) => placeOf(a) - placeOf(b));
}

type Ranked = Record<Severity, Finding[]>;

const severities = Object.keys(severityWords) as readonly Severity[];

function gravestFirst(ranked: readonly Ranked[]): Finding[] {
  const sorted: Finding[] = [];
  for (const severity of severities) for (const one of ranked) for (const found of one[severity]) sorted.push(found);
  return sorted;
}

/** Where there are none, there are none either after an edit that leaves alone what leads on, and where it leads. */
function trapsIn(program: Program, exploration: Exploration): Trap[] {
  const { edges, stirs, leavesFrom, unfollowed, beyond } = exploration;
  const { threads, scenes, head } = program.piece;
  if (unfollowed.size) return findTraps(program, exploration);
  let made: Trap[] | null = null;
  const found = asBefore(program, 'traps', [edges, stirs, leavesFrom, beyond, threads, scenes, head], () => (made = findTraps(program, exploration)));
  return made ?? (found.length ? findTraps(program, exploration) : found);
}

/**
 * The ways to the first state on which a scene is seen, by scenes, as far as they were asked for. They are the same after an edit that
 * leaves alone what leads on; where something scrolls, they depend on more.
 */
function routesIn(program: Program, { edges, unfollowed }: Exploration): Map<string, Finding['route']> {
  const scrolling = inEach(program, 'scrolling', scrollsIn);
  const isFixed = unfollowed.size === 0 && !asBefore(program, 'anything scrolls', [scrolling], () => [...scrolling.values()].some(Boolean));
  return isFixed ? asBefore(program, 'routes', [edges, program.piece.scenes], () => new Map()) : new Map();
}

/** Gives a finding the way to the first frame on which its scene is seen, where that is reached. */
function withRoute(program: Program, found: Finding, exploration: Exploration, known: Map<string, Finding['route']>): Finding {
  const { scene } = found.place;
  if (found.route || scene === null) return found;
  if (!known.has(scene)) {
    const frame = framesShowing(program, scene).find((id) => exploration.reached.has(id));
    const state = frame === undefined ? undefined : exploration.reached.get(frame);
    known.set(scene, state === undefined ? undefined : routeOf(exploration, state));
  }
  const route = known.get(scene);
  if (!route) return found;
  const old = routed.get(found);
  return old && isSame(old.route!, route) ? old : routed.set(found, { ...found, route });
}

/** Findings that were kept from one edit to the next, with the routes that they were given. */
const routed = new Beside<Finding, Finding>();

const isSame = (a: NonNullable<Finding['route']>, b: NonNullable<Finding['route']>): boolean =>
  a === b || (a.from === b.from && a.events.length === b.events.length && a.events.every((event, i) => event === b.events[i]));

/** The frame that a finding's route really leads to when the engine replays it. */
export function routeEnd(program: Program, found: Finding): string | null {
  const begin = found.route ? start(program, found.route.from) : null;
  return begin && found.route ? replay(program, begin, found.route.events).run.frame : null;
}
