import { reachOf } from '../../program/hit.ts';
import type { Item, SceneProgram } from '../../program/program.ts';
import type { Covered, Exploration } from '../exploration.ts';
import { routeTo, startOf } from '../explore.ts';
import { perScene } from '../per-scene.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { isVeil, MOSTLY } from '../sights.ts';

export const covered: Rule = {
  id: 'covered',
  meaning: 'something to press that other catching layers hide wholly (must fix) or by half and more (worth a look), wherever it is seen',
  check: ({ program, exploration }) =>
    exploration.isPlain
      ? perScene(program, 'covered', (scene) => scene.items.flatMap((item) => checkItem(scene, item)))
      : exploration.covered.map((one) => reportSeen(exploration, one)),
};

/** In a piece of plain frames what is shown is the same at all times, so it is judged without running. */
function checkItem(scene: SceneProgram, item: Item): Finding[] {
  if (!item.shown || !item.threads.some((thread) => thread.enabled && (thread.cue.type === 'click' || thread.cue.type === 'hover'))) return [];
  const { point, hidden, by } = reachOf(scene, item);
  if (!by || hidden < MOSTLY || (point !== null && isVeil(scene.scene, item.box))) return [];
  return [report({ scene: scene.scene.id, layer: item.layer.id }, item.layer.name, by.layer.name, point === null ? 1 : hidden, '')];
}

function reportSeen(exploration: Exploration, { node, by, share, state }: Covered): Finding {
  const where = exploration.unfollowed.size ? ' in every state that was walked so far' : '';
  const place = { scene: node.layer.scene, layer: node.layer.id };
  const route = { from: startOf(exploration, state), events: routeTo(exploration, state) };
  return { ...report(place, node.layer.name, by.layer.name, share, where), route };
}

function report(place: { scene: string; layer: string }, name: string, by: string, share: number, where: string): Finding {
  const must = share === 1;
  const sentence = `${must ? 'All' : `${Math.round(share * 100)} %`} of ${name} lies behind ${by}${where}, which takes the press.`;
  return finding('covered', must ? 'must' : 'look', place, `${by} covers ${name}`, sentence);
}
