import { finding, type Rule } from '../finding.ts';
import { routeBy } from '../moment.ts';
import { nameWhere } from '../where.ts';

export const offFrame: Rule = {
  id: 'off-frame',
  words: 'out of view',
  meaning: 'something to press that lies outside of all that can be scrolled into view, in every state in which it is there',
  spares: 'what scrolls in, what a state brings in, and what can be dragged in',
  check: ({ exploration, told }) =>
    exploration.views.list('beyond').map((seen) =>
      told(seen, ({ node, at }) => {
        const where = exploration.unfollowed.size ? ' in every state that was walked so far' : '';
        const sentence = `${nameWhere(node)} lies outside of what can be scrolled into view${where}.`;
        const place = { scene: node.layer.scene, layer: node.layer.id };
        return finding('off-frame', 'must', place, `${node.layer.name} cannot be got at`, sentence, { route: routeBy(at) });
      })
    ),
};
