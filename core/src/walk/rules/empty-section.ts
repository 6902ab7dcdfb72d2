import { isMediaLayer } from '../../vocabulary/layers/all.ts';
import { keysOf, valueAt } from '../../motion/track.ts';
import type { Timeline } from '../../piece/schema.ts';
import { sectionsOf, type Section } from '../../run/playhead.ts';
import { scenesInTime } from '../in-time.ts';
import { threadsIn } from '../at-thread.ts';
import { finding, type Rule } from '../finding.ts';

export const emptySection: Rule = {
  id: 'empty-section',
  words: 'empty section',
  meaning: 'a labelled section in which nothing happens: it looks all along as the one before it ends',
  spares: 'a section in which something comes, goes, moves or is cued',
  check: ({ program }) =>
    scenesInTime(program).flatMap(({ scene, timeline }) => {
      const plays = program.scenes.get(scene.id)!.items.some(({ layer }) => layer.type === 'placement' || isMediaLayer(layer));
      if (plays) return [];
      const heard = new Set(threadsIn(program.piece).flatMap(({ cue }) => (cue.type === 'label' && cue.label ? [cue.label] : [])));
      return sectionsOf(timeline).flatMap((section) => {
        if (section.label === null || section.from === 0 || heard.has(section.label) || happensIn(timeline, section)) return [];
        const { name } = timeline.labels![section.label]!;
        const found = finding(
          'empty-section',
          'note',
          { scene: scene.id },
          `Nothing happens in ${name}`,
          `${name} looks all along as what comes before it.`
        );
        return [{ ...found, id: `${found.id}:${section.label}` }];
      });
    }),
};

function happensIn(timeline: Timeline, { from, to }: Section): boolean {
  const isIn = (time: number) => time >= from && time <= to;
  return (
    Object.values(timeline.cues ?? {}).some(({ time }) => isIn(time)) ||
    Object.values(timeline.spans ?? {}).some((span) => isIn(span.from) || (span.to + 1 >= from && span.to < to)) ||
    Object.values(timeline.tracks ?? {}).some((track) => {
      const keys = keysOf(track);
      const at = (time: number) => valueAt(keys, time, track.property);
      return at(from) !== at(from - 1) || at(to) !== at(from) || keys.some((key) => isIn(key.time) && key.value !== at(from));
    })
  );
}
