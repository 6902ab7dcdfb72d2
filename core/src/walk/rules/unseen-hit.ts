import type { Layer } from '../../piece/piece.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { routeBy } from '../moment.ts';
import { whenOf } from '../while.ts';

export const unseenHit: Rule = {
  id: 'unseen-hit',
  words: 'unseen',
  meaning:
    'something that takes presses while it cannot be seen: it or what is around it is wholly see-through, or something lies before it, or has come there in time and rests, that hides all of it and lets presses through',
  spares:
    'hit areas, which are meant to be; what is hidden and takes nothing; what a picture is drawn on, or something stands for that is drawn in its place',
  check: ({ exploration }) =>
    exploration.views.list('unseen').map(({ node, at, behind, isSeenToo }) => {
      const { name, scene, id } = node.layer;
      const because = behind ? `: ${behind.layer.name} lies before it and lets presses through` : '';
      const sentence = `${name} takes presses while nothing is seen of it${whenOf(at)}${because}.`;
      // Where it always lies there, it is in the wrong place.
      const fix = behind && isSeenToo && keepingOff(behind.layer);
      return finding('unseen-hit', 'look', { scene, layer: id }, `${name} takes presses unseen`, sentence, {
        route: routeBy(at),
        ...(fix && { fix }),
      });
    }),
};

const keepingOff = ({ id, name }: Layer): NonNullable<Finding['fix']> => ({
  label: `Let ${name} keep presses off`,
  operations: [{ op: 'set', table: 'layers', id, path: ['hit'], value: { how: 'block' } }],
});
