import { finding, type Rule } from '../finding.ts';
import { endingUnheard } from './media-hangs.ts';

export const deadEnd: Rule = {
  id: 'dead-end',
  words: 'dead end',
  meaning: 'a frame that can be reached and from which nothing leads on, always or while something is so, and which is not marked as an ending',
  spares: 'a frame marked as an ending, one that a key, time or a swipe leads on from, and one laid over that can be closed',
  check: ({ program, traps }) =>
    traps
      .filter((trap) => trap.deadEnd && !endingUnheard(program, trap.frames[0]!))
      .map(({ frames, from, route, when }) => {
        const { scene } = program.scenes.get(frames[0]!)!;
        const sentence = `Nothing leads on from ${scene.name}${when ? ` ${when}` : ''}.`;
        return finding('dead-end', 'must', { scene: scene.id }, `${scene.name} is a dead end`, sentence, {
          route: { from, events: route },
          ...(!when && {
            fix: { label: 'Mark as an ending', operations: [{ op: 'set', table: 'scenes', id: scene.id, path: ['ending'], value: true }] },
          }),
        });
      }),
};
