import { displayExpression } from '../../expression/names.ts';
import { expressionScope } from '../../expression/scope.ts';
import { sceneOfThread, type Piece, type Thread } from '../../piece/piece.ts';
import { outward } from '../../program/items.ts';
import type { Program } from '../../program/program.ts';
import { asBefore } from '../again.ts';
import { branchKeysOf, ownerOf, placeOfThread, threadsIn } from '../at-thread.ts';
import type { Exploration } from '../exploration.ts';
import { finding, type Rule, type RuleContext } from '../finding.ts';
import { isComplete, scenesReached } from '../live.ts';
import { isFaulty } from '../standing.ts';
import { statesMet } from '../states-met.ts';
import { lostInThread } from './missing-target.ts';

export const neverFires: Rule = {
  id: 'never-fires',
  words: 'never fires',
  meaning:
    'a thread, or a branch of one, that fires in no state that can be reached, and why: its cue never comes, its condition never holds, or an earlier branch always wins',
  spares:
    'threads on frames that nothing leads to, on what is covered or names what is gone, and signals that come from outside: other rules tell of those, or nobody can',
  check: (context) => {
    const { program, exploration } = context;
    if (!isComplete(exploration)) return [];
    const { branches } = exploration;
    const idle = asBefore(program, 'never fires', [program.piece.threads, branches], () => withSilentBranch(threadsIn(program.piece), branches));
    if (idle.length === 0) return [];
    const live = scenesReached(program, exploration);
    const out = outOfReach(exploration);
    let met: ReadonlySet<string> | null = null;
    return idle.flatMap(({ thread, never }) => {
      const scene = sceneOfThread(program.piece, thread);
      if (scene !== null && !live.has(scene)) return [];
      if (isToldElsewhere(program.piece, out, thread) || isShownOnlyElse(program, (met ??= statesMet(program, exploration)), thread)) return [];
      const owner = ownerOf(program.piece, thread);
      const isWhole = !exploration.fired.has(thread.id);
      const title = isWhole ? `A thread of ${owner} never fires` : `A branch of ${owner} never fires`;
      return [finding('never-fires', 'look', placeOfThread(program.piece, thread), title, whyNot(context, thread, never, isWhole))];
    });
  },
};

/** Threads that are on, with the first branch of each that fires nowhere. */
const withSilentBranch = (threads: readonly Thread[], branches: ReadonlySet<string>) =>
  threads.flatMap((thread) => {
    const never = branchKeysOf(thread).findIndex((key) => !branches.has(key));
    return never < 0 || !thread.enabled ? [] : [{ thread, never }];
  });

/** Other rules say why, and where: it is covered or out of sight, names what is gone, or cannot be computed. */
const isToldElsewhere = (piece: Piece, out: ReadonlySet<string>, thread: Thread): boolean =>
  (thread.on === 'layer' && out.has(thread.owner)) || lostInThread(piece, thread) !== null || isFaulty(piece, thread);

/** What is covered or out of sight. */
const outOfReach = ({ views }: Exploration): ReadonlySet<string> =>
  new Set([...views.list('covered'), ...views.list('beyond')].map(({ node }) => node.layer.id));

/** It waits for a state that is never met, or is shown only in such states, which is told of them. */
function isShownOnlyElse({ piece, scenes }: Program, met: ReadonlySet<string>, thread: Thread): boolean {
  const state = 'state' in thread.cue ? thread.cue.state : null;
  if (state && ![...met].some((one) => one.endsWith(` ${state}`))) return true;
  if (thread.on !== 'layer') return false;
  const { scene, byId } = scenes.get(sceneOfThread(piece, thread)!)!;
  const around = outward(byId.get(thread.owner) ?? null).map(({ layer }) => layer);
  const states = Object.entries(scene.states ?? {});
  const shows = (state: (typeof states)[number][1]) => around.every(({ id, hidden }) => !(state.deltas[id]?.hidden ?? hidden));
  return (
    states.some(([id, state]) => !met.has(`${scene.id} ${id}`) && shows(state)) &&
    !states.some(([id, state]) => met.has(`${scene.id} ${id}`) && shows(state))
  );
}

function whyNot({ program: { piece } }: RuleContext, thread: Thread, branch: number, isWhole: boolean): string {
  const condition = thread.branches[branch]!.if;
  const words = condition === undefined ? null : conditionWords(piece, thread, condition);
  const first = thread.branches.findIndex((one) => one.if === undefined);
  if (!isWhole) {
    if (first >= 0 && first < branch) return `Branch ${branch + 1} comes after one without a condition, which always wins.`;
    return words === null ? `Whenever it is cued, an earlier branch wins.` : `“${words}” never holds where no earlier branch has won.`;
  }
  return words !== null && thread.branches.every((one) => one.if !== undefined)
    ? `In no state that can be reached is it cued while ${thread.branches.length > 1 ? 'any of its conditions' : `“${words}”`} holds.`
    : 'What it waits for happens in no state that can be reached.';
}

const conditionWords = (piece: Piece, thread: Thread, stored: string): string =>
  displayExpression(stored, expressionScope(piece, sceneOfThread(piece, thread))).text;
