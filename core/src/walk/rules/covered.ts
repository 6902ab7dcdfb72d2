import type { Covered, Exploration } from '../exploration.ts';
import { routeTo, startOf } from '../explore.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

export const covered: Rule = {
  id: 'covered',
  meaning: 'something to press that other catching layers hide wholly (must fix) or by half and more (worth a look), wherever it is seen',
  check: ({ exploration }) => exploration.covered.map((one) => reportSeen(exploration, one)),
};

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
