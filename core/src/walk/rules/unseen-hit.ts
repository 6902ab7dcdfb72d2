import { finding, type Rule } from '../finding.ts';
import { routeBy } from '../moment.ts';
import { whenOf } from '../while.ts';

export const unseenHit: Rule = {
  id: 'unseen-hit',
  words: 'unseen',
  meaning: 'something that takes presses while it cannot be seen, because it or what is around it is wholly see-through; hit areas are meant to be',
  spares: 'hit areas, and what is hidden and takes nothing',
  check: ({ exploration }) =>
    exploration.views.list('unseen').map(({ node, at }) => {
      const { name, scene, id } = node.layer;
      const sentence = `${name} takes presses while nothing is seen of it${whenOf(at)}.`;
      return finding('unseen-hit', 'look', { scene, layer: id }, `${name} takes presses unseen`, sentence, {
        route: routeBy(at),
      });
    }),
};
