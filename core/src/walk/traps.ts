import { stepKind } from '../vocabulary/steps/all.ts';
import type { Program } from '../program/program.ts';
import { startFrames } from '../program/program.ts';
import { scenesOn } from '../run/environment.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import type { Deed } from './edges.ts';
import type { Exploration } from './exploration.ts';
import { startOf } from './explore.ts';
import { endsOf, Homeward, sourcesIn } from './homeward.ts';
import { branchesMoving } from './stirred.ts';
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
  /** What has to be so on its frames: `while Menu is open`; null where it is always so. */
  readonly when: string | null;
}

/**
 * Finds the traps of an explored piece. Frames marked as endings, and those that leave by a link in the same tab, count
 * as home. Of frames that lead into a trap only the trap itself is returned, since mending it mends them.
 */
export function findTraps(program: Program, exploration: Exploration): Trap[] {
  const { states, unfollowed } = exploration;
  const leading = leadingOn(exploration);
  const homeward = new Homeward(exploration, resting(program, exploration, leading));
  const lost = new Map<string, readonly number[]>();
  for (const at of states.keys()) {
    const stack = homeward.lostWith(at);
    if (stack) lost.set(String(at), stack);
  }
  const groups = bottomGroups([...lost.keys()], (at) =>
    endsOf(exploration, Number(at))
      .map(String)
      .filter((to) => lost.has(to))
  );
  const found = new Map<string, Trap>();
  for (const group of groups) {
    const members = group.map(Number).sort((a, b) => a - b);
    if (members.some((at) => unfollowed.has(at))) continue;
    const frames = [...new Set(members.map((at) => states[at]!.frame))];
    const key = frames.toSorted().join();
    if (found.has(key)) continue;
    const first = members[0]!;
    // Where one frame alone leads nowhere, what leads on from it tells its states apart, though that may be no way home either.
    const isOther = (at: number) => !lost.has(String(at)) || (frames.length === 1 && leading.has(at));
    const others = [...states.keys()].filter((at) => frames.includes(states[at]!.frame) && isOther(at));
    const when = others.length ? whileWords(program, exploration, members, others) : null;
    const route = exploration.routeTo(first, lost.get(String(first)));
    found.set(key, { frames, deadEnd: frames.length === 1, from: startOf(exploration, first), route, when });
  }
  return [...found.values()];
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

/** Events that change something where no thread answers: fields, boxes to tick, what can be dragged. */
const DOING: ReadonlySet<string> = new Set(['value', 'click', 'drag']);

/** Whether something is done besides going and waiting: on a frame that leads to no other, that is something to go on with. */
function doesMore({ piece }: Program, { event, threads }: Deed): boolean {
  if (threads.length === 0) return DOING.has(event.type);
  return threads.some((id) => piece.threads.get(id)?.branches.some(({ steps }) => steps.some((step) => !stepKind(step.do).changesNothing)));
}

/** All that is on the screen, in words. */
const screenIn = (program: Program, run: RunState): string => scenesOn(program, run).join(' ');

/** Of frames that lead to no other, what lies over them where more is done than going and waiting, in any slice: as after scrolling there. */
function doneElsewhere(program: Program, { slices }: Exploration, leading: ReadonlySet<string>): ReadonlySet<string> {
  const found = new Set<string>();
  for (const { states, edges, runOf } of slices)
    for (const [at, { frame }] of states.entries())
      if (!leading.has(frame) && edges.of(at).some((edge) => doesMore(program, edge))) found.add(screenIn(program, runOf(at)));
  return found;
}

/** Frames on which something sets going what only moves: all that there may be to do there, and no state is another for it. */
function framesStirred(program: Program, exploration: Exploration): ReadonlySet<string> {
  const { states, places } = exploration;
  const spots = branchesMoving(program, exploration).flatMap((branch) => places.get(branch) ?? []);
  return new Set(spots.map(({ state }) => states[state]!.frame));
}

/** States from which another frame is come to, or that were not followed. */
function leadingOn(exploration: Exploration): ReadonlySet<number> {
  const { states, unfollowed } = exploration;
  const sources = sourcesIn(exploration);
  const leads = (state: number) => endsOf(exploration, state).some((to) => states[to]!.frame !== states[state]!.frame);
  const found = new Set([...states.keys()].filter((state) => leads(state) || unfollowed.has(state)));
  for (const state of found) for (const source of sources[state]!) found.add(source);
  return found;
}

/** States in which a person can rest: a start from which one can go on, an ending, a link out of the piece, or one that was not followed. */
function resting(program: Program, exploration: Exploration, goesOn: ReadonlySet<number>): number[] {
  const { states, edges, unfollowed, leavesFrom, stirs, runOf } = exploration;
  const starts = new Set(startFrames(program));
  const at = [...states.keys()];
  // A person can begin there, and go on: to another frame, or where the frame never leads to one, to anything else.
  const leading = new Set(at.filter((state) => goesOn.has(state)).map((state) => states[state]!.frame));
  // Most frames lead to others: then nobody asks.
  let elsewhere: ReadonlySet<string> | null = null;
  const isDoneElsewhere = (state: number) => (elsewhere ??= doneElsewhere(program, exploration, leading)).has(screenIn(program, runOf(state)));
  let stirred: ReadonlySet<string> | null = null;
  const isStirred = (frame: string) => (stirred ??= framesStirred(program, exploration)).has(frame);
  const canGoOn = (state: number) =>
    goesOn.has(state) ||
    (!leading.has(states[state]!.frame) &&
      ([...edges.of(state), ...stirs.of(state)].some((edge) => doesMore(program, edge)) ||
        isDoneElsewhere(state) ||
        isStirred(states[state]!.frame)));
  const isExit = (frame: string) => program.scenes.get(frame)?.scene.ending === true || leavesFrom.has(frame);
  return at.filter((state) => {
    const { frame } = states[state]!;
    return unfollowed.has(state) || isExit(frame) || (starts.has(frame) && canGoOn(state));
  });
}
