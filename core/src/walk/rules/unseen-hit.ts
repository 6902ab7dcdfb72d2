import type { Layer } from '../../piece/piece.ts';
import type { Node } from '../../program/node.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { routeBy } from '../moment.ts';
import { unseenAtRest } from '../unseen-rested.ts';
import { whenOf } from '../while.ts';

export const unseenHit: Rule = {
  id: 'unseen-hit',
  words: 'unseen',
  meaning:
    'something that takes presses while it cannot be seen: it or what is around it is wholly see-through, or something lies before it, or has come there in time and rests, that hides all of it and lets presses through',
  spares:
    'hit areas, which are meant to be; what is hidden and takes nothing; what a picture is drawn on, or something stands for that is drawn in its place',
  check: ({ program, exploration }) => {
    const found = exploration.views.list('unseen').map(({ node, at, behind, isSeenToo }) => {
      // Where it always lies there, it is in the wrong place.
      const fix = behind && isSeenToo && keepingOff(behind.layer);
      return unseen(node, whenOf(at), behind, { route: routeBy(at), ...(fix && { fix }) });
    });
    const known = new Set(found.map(({ id }) => id));
    const rested = unseenAtRest(program, exploration).map(({ node, behind, route }) =>
      unseen(node, `, once ${behind.layer.name} has come to rest`, behind, { route })
    );
    return [...found, ...rested.filter(({ id }) => !known.has(id))];
  },
};

function unseen({ layer }: Node, when: string, behind: Node | null, more: Pick<Finding, 'route' | 'fix'>): Finding {
  const { name, scene, id } = layer;
  const because = behind ? `: ${behind.layer.name} lies before it and lets presses through` : '';
  return finding(
    'unseen-hit',
    'look',
    { scene, layer: id },
    `${name} takes presses unseen`,
    `${name} takes presses while nothing is seen of it${when}${because}.`,
    more
  );
}

const keepingOff = ({ id, name }: Layer): NonNullable<Finding['fix']> => ({
  label: `Let ${name} keep presses off`,
  operations: [{ op: 'set', table: 'layers', id, path: ['hit'], value: { how: 'block' } }],
});
