import { keysOf } from '../../motion/track.ts';
import { isThereAt } from '../../run/playhead.ts';
import { scenesInTime } from '../in-time.ts';
import { finding, type Rule } from '../finding.ts';

export const outOfTime: Rule = {
  id: 'out-of-time',
  words: 'out of time',
  meaning: 'keys, spans, labels or cues that stand beyond the end of their timeline, and cues on what is not there at that moment',
  spares: 'what ends with the timeline to the frame',
  check: ({ program }) =>
    scenesInTime(program).flatMap(({ scene, timeline }) => {
      const { length, tracks = {}, spans = {}, labels = {}, cues = {} } = timeline;
      const nameOf = (path: string) => program.piece.layers.get(path.split('/').at(-1)!)?.name ?? 'a layer that is gone';
      const beyond = [
        ...Object.values(tracks).flatMap((track) => (keysOf(track).at(-1)!.time >= length ? [`a key of ${nameOf(track.layer)}`] : [])),
        ...Object.values(spans).flatMap(({ layer, to }) => (to >= length ? [`a span of ${nameOf(layer)}`] : [])),
        ...Object.values(labels).flatMap(({ name, time }) => (time >= length ? [`the label ${name}`] : [])),
        ...Object.values(cues).flatMap(({ layer, time }) => (time >= length ? [`a cue on ${nameOf(layer)}`] : [])),
      ];
      const last = Math.max(
        length - 1,
        ...Object.values(tracks).map((track) => keysOf(track).at(-1)!.time),
        ...[...Object.values(labels), ...Object.values(cues)].map(({ time }) => time),
        ...Object.values(spans).map(({ to }) => to)
      );
      const late = beyond.length
        ? [
            finding(
              'out-of-time',
              'look',
              { scene: scene.id },
              `${scene.name} ends too early`,
              `Its time ends at frame ${length}; beyond it stands ${beyond[0]}${beyond.length > 1 ? ` and ${beyond.length - 1} more` : ''}.`,
              {
                fix: {
                  label: `Make it ${last + 1} frames long`,
                  operations: [{ op: 'set', table: 'scenes', id: scene.id, path: ['timeline', 'length'], value: last + 1 }],
                },
              }
            ),
          ]
        : [];
      const absent = Object.values(cues).flatMap((cue) => {
        if (isThereAt(timeline, cue.layer, cue.time)) return [];
        const sentence = `At frame ${cue.time + 1} it is to ${cue.do}, and it is not there then.`;
        return [finding('out-of-time', 'must', { scene: scene.id, layer: cue.layer }, `${nameOf(cue.layer)} is cued while it is away`, sentence)];
      });
      return [...late, ...absent];
    }),
};
