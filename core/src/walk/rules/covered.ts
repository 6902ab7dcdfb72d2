import { finding, type Finding, type Rule } from '../finding.ts';
import { routeBy } from '../moment.ts';
import { nameWhere } from '../where.ts';
import type { Covered } from '../views.ts';

export const covered: Rule = {
  id: 'covered',
  words: 'covered',
  meaning:
    'something to press that other catching layers hide wholly (must fix) or by half and more (worth a look), wherever it is seen and wherever it can be scrolled to',
  spares: 'what is free in some state, or by something in it, what lies in what covers it, and what is covered by less than half',
  check: ({ exploration, told }) =>
    exploration.views.list('covered').map((seen) => told(seen, (one) => report(one, exploration.unfollowed.size > 0))),
};

function report({ node, by, share, at }: Covered, isPartly: boolean): Finding {
  const where = isPartly ? ' in every state that was walked so far' : '';
  const must = share === 1;
  const sentence = `${must ? 'All' : `${Math.round(share * 100)} %`} of ${nameWhere(node)} lies behind ${by.layer.name}${where}, which takes the press.`;
  const place = { scene: node.layer.scene, layer: node.layer.id };
  return finding('covered', must ? 'must' : 'look', place, `${by.layer.name} covers ${node.layer.name}`, sentence, {
    route: routeBy(at),
  });
}
