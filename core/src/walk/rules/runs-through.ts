import { sectionsOf } from '../../run/playhead.ts';
import { labelsAsked, scenesInTime } from '../in-time.ts';
import { finding, type Rule } from '../finding.ts';

export const runsThrough: Rule = {
  id: 'runs-through',
  words: 'runs through',
  meaning: 'a section that is played by itself and goes on into another one that is, while most of their neighbours hold',
  spares: 'a section that goes on where most of its neighbours do so, or that nothing plays by itself',
  check: ({ program }) => {
    const inTime = scenesInTime(program);
    if (inTime.length === 0) return [];
    const asked = labelsAsked(program);
    return inTime.flatMap(({ scene, timeline }) => {
      const sections = sectionsOf(timeline).filter((section) => section.label !== null);
      const played = sections.filter(({ label }) => asked.has(label!));
      const holding = played.filter(({ ending }) => ending.do === 'hold').length;
      return sections.flatMap((section, i) => {
        const next = sections[i + 1];
        const isMeant =
          section.ending.do !== 'go on' || !next || !asked.has(section.label!) || !asked.has(next.label!) || holding * 2 < played.length;
        if (isMeant) return [];
        const [name, into] = [timeline.labels![section.label!]!.name, timeline.labels![next.label!]!.name];
        const found = finding(
          'runs-through',
          'look',
          { scene: scene.id },
          `${name} runs through`,
          `${name} goes on into ${into}, which is played by itself elsewhere.`,
          {
            fix: {
              label: 'Let it hold',
              operations: [
                { op: 'set', table: 'scenes', id: scene.id, path: ['timeline', 'labels', section.label!, 'ending'], value: { do: 'hold' } },
              ],
            },
          }
        );
        return [{ ...found, id: `${found.id}:${section.label}` }];
      });
    });
  },
};
