import { keysOf } from '../../motion/track.ts';
import type { Layer } from '../../piece/piece.ts';
import { outward } from '../../program/items.ts';
import type { Program } from '../../program/program.ts';
import { isThereAt, spansOf } from '../../run/playhead.ts';
import { isMediaLayer } from '../../vocabulary/layers/all.ts';
import { scenesInTime } from '../in-time.ts';
import { finding, type Rule } from '../finding.ts';

export const outOfTime: Rule = {
  id: 'out-of-time',
  words: 'out of time',
  meaning:
    'keys, spans, labels or cues that stand beyond the end of their timeline, and cues on what is not there at that moment or has no time; spans that end before they begin',
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
      const cued = Object.values(cues).flatMap((cue) => {
        const place = { scene: scene.id, layer: cue.layer };
        const toDo = `At frame ${cue.time + 1} it is to ${cue.do}, and`;
        if (!isThereAt(timeline, cue.layer, cue.time))
          return [finding('out-of-time', 'must', place, `${nameOf(cue.layer)} is cued while it is away`, `${toDo} it is not there then.`)];
        if (!program.piece.layers.has(cue.layer) || hasTime(program, scene.id, cue.layer)) return [];
        return [finding('out-of-time', 'must', place, `${nameOf(cue.layer)} is cued, and does not play`, `${toDo} it has no time of its own.`)];
      });
      const never = [...spansOf(timeline)].flatMap(([layer, own]) => {
        if (own.some(({ from, to }) => from <= to)) return [];
        const sentence = `Its span begins at frame ${own[0]!.from + 1} and ends at frame ${own[0]!.to + 1}, before that.`;
        return [finding('out-of-time', 'must', { scene: scene.id, layer }, `${nameOf(layer)} is never there`, sentence)];
      });
      return [...late, ...cued, ...never];
    }),
};

/** Whether a layer, or something in it where it is a group, can play: a part in time, a film, a sound. */
function hasTime(program: Program, scene: string, id: string): boolean {
  const { layers, scenes } = program.piece;
  const isTimed = (layer: Layer) => isMediaLayer(layer) || (layer.part !== undefined && scenes.get(layer.part)?.timeline !== undefined);
  if (layers.get(id)!.type !== 'group') return isTimed(layers.get(id)!);
  return program.scenes.get(scene)!.items.some((item) => isTimed(item.layer) && outward(item).some(({ layer }) => layer.id === id));
}
