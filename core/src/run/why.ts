import { layerKind } from '../vocabulary/layers/all.ts';
import { fitsOccasion, waitsFor } from '../vocabulary/cues/all.ts';
import { keyWords } from '../vocabulary/keys.ts';
import { failingClause } from '../expression/explain.ts';
import { expressionScope } from '../expression/scope.ts';
import type { Thread } from '../piece/piece.ts';
import { outwardNodes, type Node } from '../program/node.ts';
import { isEnabled, isUnder, standingScreen, type Stood } from './resolve.ts';
import type { Program } from '../program/program.ts';
import type { Point } from '../program/geometry.ts';
import { environmentOf } from './environment.ts';
import type { Call, Runner } from './runner.ts';
import type { RunState, WhyNot } from './state.ts';

/** Why something did not happen: every thread considered, and the clause that failed. */

/** The clauses that kept each branch of a thread from running. */
export function explainBranches(program: Program, run: RunState, { thread, instance, node }: Call): WhyNot[] {
  const scope = expressionScope(program.piece, instance.scene.scene.id);
  return thread.branches.flatMap((branch, i): WhyNot[] => {
    const parsed = branch.if === undefined ? null : program.parse(branch.if);
    const about = { thread: thread.id, branch: i, ...(node && { layer: node.key }) };
    if (!parsed) return [];
    if (!parsed.ok) return [{ code: 'expression-error', sentence: `The condition cannot be read: ${parsed.error.sentence}`, ...about }];
    const { clause, reads } = failingClause(branch.if!, parsed.value, environmentOf(program, run, instance), scope);
    const values = reads.map(({ name, value }) => `${name} was ${value}`).join(', ');
    return [{ code: 'condition', sentence: `${clause} did not hold${values ? `: ${values}` : ''}.`, clause, ...about }];
  });
}

/** Why a disabled layer takes nothing. */
export function whyDisabled(runner: Runner, node: Node): WhyNot {
  const root = runner.root(runner.sceneOfNode(node.key)!);
  if (!root) return { code: 'not-here', sentence: `${node.layer.name} is not on the screen any more.`, layer: node.key };
  const off = outwardNodes(node).find((one) => !isEnabled(root, one)) ?? node;
  const binding = off.layer.bindings?.enabled;
  const about = { layer: off.key };
  if (binding === undefined) return { code: 'disabled', sentence: `${off.layer.name} is disabled.`, ...about };
  const parsed = runner.program.parse(binding);
  if (!parsed.ok) return { code: 'disabled', sentence: `${off.layer.name} is disabled: what enables it cannot be read.`, ...about };
  const scope = expressionScope(runner.program.piece, off.instance.scene.scene.id);
  const { clause, reads } = failingClause(binding, parsed.value, environmentOf(runner.program, runner.run, off.instance), scope);
  const values = reads.map(({ name, value }) => `${name} was ${value}`).join(', ');
  return { code: 'disabled', sentence: `${off.layer.name} was disabled: ${values || clause}.`, clause, ...about };
}

/** Tells why a click came to nothing: what lies at the point, and what keeps each thread there from firing. */
export function whyNoClick(runner: Runner, node: Node | null, scene: string, point: Point): void {
  const there = layersAt(runner, point).map((shown) => shown.node);
  const covered = node ? coveredBy(there, node) : [];
  const clues = (node ? outwardNodes(node) : there).flatMap((one) => cluesOf(one));
  for (const why of [...covered, ...clues]) runner.why(why);
  if (covered.length || clues.length) return;
  const top = node ?? there[0];
  if (top) runner.why({ code: 'not-wired', sentence: `${top.layer.name} is not wired.`, layer: top.key });
  else
    runner.why({
      code: 'nothing-there',
      sentence: `Nothing is there, and ${runner.program.scenes.get(scene)?.scene.name ?? 'the frame'} itself is not wired.`,
    });
}

const takesClicks = (node: Node) => node.item.threads.some((thread) => thread.enabled && waitsFor(thread.cue, 'click'));

const coveredBy = (there: readonly Node[], catcher: Node): WhyNot[] =>
  there
    .filter((node) => !outwardNodes(catcher).includes(node) && takesClicks(node))
    .map((node) => ({
      code: 'covered',
      sentence: `${catcher.layer.name} lies in front of ${node.layer.name} and takes the press.`,
      layer: node.key,
    }));

/** Threads of a layer that are for something else, or switched off. */
const cluesOf = (node: Node): WhyNot[] =>
  node.item.threads.map((thread) => {
    const about = { layer: node.key, thread: thread.id };
    if (!thread.enabled) return { code: 'switched-off', sentence: `A thread of ${node.layer.name} is switched off.`, ...about };
    const name = cueWords(thread);
    return { code: 'other-cue', sentence: `${node.layer.name} has a thread, but not for a click: ${name}.`, ...about };
  });

/** A cue in a few words, without what only the desks need to say more. */
const cueWords = ({ cue }: Thread): string => ('key' in cue ? `key ${keyWords(cue.key)}` : cue.type);

const layersAt = (runner: Runner, point: Point): Stood[] =>
  standingScreen(runner.program, runner.run)
    .surfaces.flatMap(({ all }) => all.filter((shown) => !layerKind(shown.node.layer).holdsLayers && isUnder(shown, point)))
    .reverse();

/** Why no thread took a key. */
export function whyNoKey(runner: Runner, key: string): void {
  const live = runner.liveRoots().map((scene) => runner.expansion(scene));
  const threads = [
    ...live.flatMap((expansion) => [...expansion.nodes.flatMap((node) => node.item.threads), ...expansion.root.threads]),
    ...runner.program.threads,
  ];
  const off = threads.filter((thread) => !thread.enabled && fitsOccasion(thread.cue, { type: 'key', key }));
  for (const thread of off) runner.why({ code: 'switched-off', sentence: `The thread for ${keyWords(key)} is switched off.`, thread: thread.id });
  if (off.length === 0) runner.why({ code: 'no-thread', sentence: `No thread here waits for ${keyWords(key)}.` });
}
