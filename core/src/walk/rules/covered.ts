import { reachOf } from '../../program/hit.ts';
import type { Item, SceneProgram } from '../../program/program.ts';
import { perScene } from '../per-scene.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

/** From this share on a layer counts as mostly hidden. */
const MOSTLY = 0.5;

export const covered: Rule = {
  id: 'covered',
  meaning: 'something to press that other catching layers hide wholly (must fix) or by half and more (worth a look)',
  check: ({ program }) => perScene(program, 'covered', (scene) => (isSettled(scene) ? scene.items.flatMap((item) => check(scene, item)) : [])),
};

/** Whether what is shown is the same at all times, so that it can be judged without running. */
const isSettled = ({ scene, items }: SceneProgram) =>
  !scene.states &&
  !scene.timeline &&
  items.every(({ layer }) => layer.bindings?.shown === undefined && !layer.pose.rotation && !layer.clip && !layer.scroll);

function check(scene: SceneProgram, item: Item): Finding[] {
  if (!item.shown || !item.threads.some((thread) => thread.enabled && (thread.cue.type === 'click' || thread.cue.type === 'hover'))) return [];
  const { point, hidden, by } = reachOf(scene, item);
  if (!by || hidden < MOSTLY) return [];
  const must = point === null;
  const title = `${by.layer.name} covers ${item.layer.name}`;
  const sentence = `${must ? 'All' : `${Math.round(hidden * 100)} %`} of ${item.layer.name} lies behind ${by.layer.name}, which takes the press.`;
  return [finding('covered', must ? 'must' : 'look', { scene: scene.scene.id, layer: item.layer.id }, title, sentence)];
}
