import { isMediaLayer } from '../../vocabulary/layers/all.ts';
import type { Layer } from '../../piece/piece.ts';
import { expand } from '../../program/expand.ts';
import type { Program } from '../../program/program.ts';
import { finding, type Rule } from '../finding.ts';

export const mediaHangs: Rule = {
  id: 'media-hangs',
  words: 'hangs at the end',
  meaning: 'a video or sound that ends while nothing listens, in a frame from which nothing else leads on',
  spares: 'a film that goes round, one that something listens to, and one in a frame that other ways lead out of',
  check: ({ program, traps }) =>
    traps.flatMap(({ frames, deadEnd, from, route, when }) => {
      const media = deadEnd ? endingUnheard(program, frames[0]!) : undefined;
      if (!media) return [];
      const { name } = program.scenes.get(frames[0]!)!.scene;
      const sentence = `When ${media.name} has ended nothing follows, and nothing else leads on from ${name}${when ? ` ${when}` : ''}.`;
      const place = { scene: media.scene, layer: media.id };
      return [finding('media-hangs', 'must', place, `${name} hangs when ${media.name} ends`, sentence, { route: { from, events: route } })];
    }),
};

/** A video or sound of a frame that comes to an end which no thread waits for. */
export function endingUnheard(program: Program, frame: string): Layer | undefined {
  const { nodes } = expand(program, program.scenes.get(frame)!);
  const node = nodes.find(
    ({ layer, item }) =>
      isMediaLayer(layer) && !layer.media?.loop && !item.threads.some(({ enabled, cue }) => enabled && cue.type === 'media' && cue.what === 'ended')
  );
  return node?.layer;
}
