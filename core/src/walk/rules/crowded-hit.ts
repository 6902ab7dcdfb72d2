import { valueWords } from '../../expression/ast.ts';
import { finding, type Rule } from '../finding.ts';
import { routeBy } from '../moment.ts';

export const crowdedHit: Rule = {
  id: 'crowded-hit',
  words: 'crowded',
  meaning: 'two areas to press that overlap in part, or stand so near to each other that a thumb meets the wrong one',
  spares: 'large areas that touch along a whole side, and what lies wholly on something',
  check: ({ exploration, told }) =>
    exploration.views.list('crowds').map((seen) =>
      told(seen, ({ a, b, gap, at }) => {
        const near = Math.round(gap * 10) / 10;
        const how = gap < 0 ? `overlap by ${valueWords(-near)} px` : gap === 0 ? 'touch' : `are ${valueWords(near)} px apart`;
        const place = { scene: b.layer.scene, layer: b.layer.id };
        const found = finding('crowded-hit', 'look', place, `${b.layer.name} crowds ${a.layer.name}`, `${a.layer.name} and ${b.layer.name} ${how}.`, {
          route: routeBy(at),
        });
        return { ...found, id: `${found.id}:${a.layer.id}` };
      })
    ),
};
