import type { Program } from '../program/program.ts';
import { startFrames } from '../program/program.ts';
import type { RunEvent } from '../run/state.ts';
import type { Exploration } from './exploration.ts';
import { routeTo, startOf } from './explore.ts';
import { whileWords } from './while.ts';

/** Frames from which no start frame can be reached any more, and the dead ends among them. */
export interface Trap {
  /** The frames that lead only to each other, the first met first. */
  readonly frames: readonly string[];
  /** Nothing at all leads on from its one frame. */
  readonly deadEnd: boolean;
  /** Where the route begins, and the events that lead into the trap. */
  readonly from: string;
  readonly route: readonly RunEvent[];
  /** What has to be so on its first frame: `while Menu is open`; null where it is always so. */
  readonly when: string | null;
}

/**
 * Finds the traps of an explored piece. Frames marked as endings, and those that leave by a link in the same tab, count
 * as home. Of frames that lead into a trap only the trap itself is returned, since mending it mends them.
 */
export function findTraps(program: Program, exploration: Exploration): Trap[] {
  if (!exploration.isPlain) return trapsOfStates(program, exploration);
  const frames = [...exploration.reached.keys()];
  const forward = forwardLinks(exploration);
  const home = homeward(program, exploration, frames, forward);
  const entries = trapEntries(program, exploration, frames, forward, home);
  return bottomGroups([...entries.keys()], (frame) => linksInTrap(exploration, forward, frame, entries)).map((group) => {
    const first = group.reduce((a, b) => (entries.get(a)!.length <= entries.get(b)!.length ? a : b));
    const ordered = [first, ...group.filter((frame) => frame !== first)];
    const deadEnd = group.length === 1;
    return { frames: ordered, deadEnd, when: null, ...routeThrough(exploration, entries.get(first)!) };
  });
}

type Links = ReadonlyMap<string, ReadonlySet<string>>;

function forwardLinks(exploration: Exploration): Links {
  const links = new Map<string, Set<string>>();
  exploration.edges.forEach((edges, at) => {
    const from = exploration.states[at]!.frame;
    const set = links.get(from) ?? new Set<string>();
    for (const edge of edges) {
      const to = exploration.states[edge.to]!.frame;
      if (to !== from) set.add(to);
    }
    links.set(from, set);
  });
  return links;
}

/** Frames from which home is reached by going forward. */
function homeward(program: Program, exploration: Exploration, frames: readonly string[], forward: Links): Set<string> {
  const sources = new Map<string, string[]>();
  for (const [from, targets] of forward) for (const to of targets) sources.set(to, [...(sources.get(to) ?? []), from]);
  const starts = new Set(startFrames(program));
  const canRest = (frame: string) => (starts.has(frame) && !isStuckStart(exploration, forward, frame)) || isExit(program, exploration, frame);
  const home = new Set(frames.filter(canRest));
  for (const frame of home) for (const source of sources.get(frame) ?? []) home.add(source);
  return home;
}

const isExit = (program: Program, exploration: Exploration, frame: string) =>
  program.scenes.get(frame)?.scene.ending === true || exploration.leavesFrom.has(frame);

/** A start with nothing that leads on, on which *back* has nowhere to go. */
const isStuckStart = (_exploration: Exploration, forward: Links, frame: string) => (forward.get(frame)?.size ?? 0) === 0;

/**
 * For every frame that can be entered with no way home: the chain of frames, latest last, whose being on the back stack
 * makes it so. A frame without *back* is a trap however it was reached; one with *back* only when it was come to from a trap.
 */
function trapEntries(
  program: Program,
  exploration: Exploration,
  frames: readonly string[],
  forward: Links,
  home: Set<string>
): Map<string, string[]> {
  const starts = new Set(startFrames(program));
  const entries = new Map<string, string[]>();
  for (const frame of frames) if (!home.has(frame) && (!exploration.backFrom.has(frame) || starts.has(frame))) entries.set(frame, [frame]);
  for (const [frame, chain] of entries)
    for (const next of forward.get(frame) ?? []) if (!home.has(next) && !entries.has(next)) entries.set(next, [...chain, next]);
  return entries;
}

function linksInTrap(exploration: Exploration, forward: Links, frame: string, entries: ReadonlyMap<string, unknown>): string[] {
  const back = exploration.backFrom.has(frame) ? (exploration.callers.get(frame) ?? []) : [];
  return [...new Set([...(forward.get(frame) ?? []), ...back])].filter((next) => entries.has(next));
}

/** The shortest route to the first frame of a chain, then on along the chain. */
function routeThrough(exploration: Exploration, chain: readonly string[]): { from: string; route: RunEvent[] } {
  const state = exploration.reached.get(chain[0]!)!;
  const route = routeTo(exploration, state);
  for (let i = 1; i < chain.length; i++) route.push(...linkEvents(exploration, chain[i - 1]!, chain[i]!));
  return { from: startOf(exploration, state), route };
}

/** What to do on a frame to get to the next one: waiting for its timers where that comes first. */
function linkEvents(exploration: Exploration, from: string, to: string): RunEvent[] {
  const events: RunEvent[] = [];
  for (let at = exploration.reached.get(from)!; ;) {
    const edges = exploration.edges[at]!;
    const edge = edges.find((candidate) => exploration.states[candidate.to]!.frame === to);
    if (edge) return [...events, edge.event];
    const waiting = edges.find((candidate) => exploration.states[candidate.to]!.frame === from && candidate.to !== at);
    if (!waiting) return events;
    events.push(waiting.event);
    at = waiting.to;
  }
}

/** Groups of nodes that reach each other and nothing else (strongly connected components without a way out), by Tarjan. */
export function bottomGroups(nodes: readonly string[], next: (node: string) => readonly string[]): string[][] {
  const index = new Map<string, number>();
  const low = new Map<string, number>();
  const group = new Map<string, number>();
  const stack: string[] = [];
  const groups: string[][] = [];
  for (const root of nodes) {
    if (index.has(root)) continue;
    const work: { node: string; links: readonly string[]; at: number }[] = [];
    const open = (node: string) => {
      index.set(node, index.size);
      low.set(node, index.get(node)!);
      stack.push(node);
      work.push({ node, links: next(node), at: 0 });
    };
    open(root);
    while (work.length) {
      const top = work.at(-1)!;
      const link = top.links[top.at++];
      if (link !== undefined) {
        if (!index.has(link)) open(link);
        else if (!group.has(link)) low.set(top.node, Math.min(low.get(top.node)!, index.get(link)!));
        continue;
      }
      work.pop();
      const parent = work.at(-1)?.node;
      if (parent !== undefined) low.set(parent, Math.min(low.get(parent)!, low.get(top.node)!));
      if (low.get(top.node) !== index.get(top.node)) continue;
      const members = stack.splice(stack.lastIndexOf(top.node));
      for (const member of members) group.set(member, groups.length);
      groups.push(members);
    }
  }
  return groups.filter((members, number) => members.every((node) => next(node).every((link) => group.get(link) === number)));
}

/** The same for a piece whose states are more than frames: judged state by state, along routes that were really taken. */
function trapsOfStates(program: Program, exploration: Exploration): Trap[] {
  const { states, edges, unfollowed, shallow } = exploration;
  const home = homewardStates(program, exploration);
  const lost = [...states.keys()].filter((at) => !home.has(at)).map(String);
  const groups = bottomGroups(lost, (at) => edges[Number(at)]!.map((edge) => String(edge.to)));
  const backs = backThreads(program);
  const found = new Map<string, Trap>();
  for (const group of groups) {
    const members = group.map(Number).sort((a, b) => a - b);
    if (members.some((at) => unfollowed.has(at))) continue;
    // Where *back* leads from here is known for one of several back stacks only.
    const goesBack = (at: number) => edges[at]!.some((edge) => edge.threads.some((thread) => backs.has(thread)));
    if (members.some((at) => shallow.has(at)) && members.some(goesBack)) continue;
    const frames = [...new Set(members.map((at) => states[at]!.frame))];
    const key = frames.toSorted().join();
    if (found.has(key)) continue;
    const first = members[0]!;
    const others = [...states.keys()].filter((at) => states[at]!.frame === states[first]!.frame && home.has(at));
    const alike = members.filter((at) => states[at]!.frame === states[first]!.frame);
    const when = others.length ? whileWords(program, exploration, alike, others) : null;
    found.set(key, { frames, deadEnd: frames.length === 1, from: startOf(exploration, first), route: routeTo(exploration, first), when });
  }
  return [...found.values()];
}

const backThreads = (program: Program): ReadonlySet<string> =>
  new Set(
    [...program.piece.threads.values()]
      .filter((thread) => thread.branches.some(({ steps }) => steps.some((step) => step.do === 'go' && step.target.to === 'back')))
      .map((thread) => thread.id)
  );

/** States from which a start, an ending, a link out of the piece, or something not followed can be reached. */
function homewardStates(program: Program, exploration: Exploration): Set<number> {
  const { states, edges, unfollowed } = exploration;
  const sources: number[][] = states.map(() => []);
  edges.forEach((list, at) => list.forEach((edge) => sources[edge.to]!.push(at)));
  const grown = (from: Iterable<number>) => {
    const all = new Set(from);
    for (const at of all) for (const source of sources[at]!) all.add(source);
    return all;
  };
  const starts = new Set(startFrames(program));
  const at = [...states.keys()];
  // A person can begin there, and go on: to another frame, or where the frame never leads to one, to anything else.
  const leads = (state: number) => edges[state]!.some((edge) => states[edge.to]!.frame !== states[state]!.frame);
  const goesOn = grown(at.filter((state) => leads(state) || unfollowed.has(state)));
  const leading = new Set(at.filter((state) => goesOn.has(state)).map((state) => states[state]!.frame));
  const canGoOn = (state: number) => goesOn.has(state) || (!leading.has(states[state]!.frame) && edges[state]!.length > 0);
  const isHome = (state: number) => {
    const { frame } = states[state]!;
    return unfollowed.has(state) || isExit(program, exploration, frame) || (starts.has(frame) && canGoOn(state));
  };
  return grown(at.filter(isHome));
}
