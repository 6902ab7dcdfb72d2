import { eventWords } from '../event-words.ts';
import { finding, type Rule } from '../finding.ts';
import { walkKept } from '../kept.ts';
import type { RunEvent } from '../../run/state.ts';

export const brokenRoute: Rule = {
  id: 'broken-route',
  words: 'broken walk',
  meaning: 'a kept walk that no longer leads where it led, with the first step that differs',
  spares: 'a walk that comes to the same frames and states, however long it takes there',
  check: ({ program }) =>
    Object.entries(program.piece.head.walks ?? {}).flatMap(([id, walk]) => {
      const { held, broken } = walkKept(program, walk);
      if (broken === null) return [];
      const scene = held === 0 ? walk.from : walk.steps[held - 1]!.frame;
      const step = walk.steps[held]!.event as RunEvent;
      const place = { scene: program.scenes.has(scene) ? scene : null };
      const begins = program.frameAt.has(walk.from);
      const sentence = begins ? `At step ${held + 1}, ${eventWords(program, step)}: ${broken}.` : broken;
      const found = finding('broken-route', 'must', place, `The walk ${walk.name} no longer holds`, sentence, {
        ...(begins && { route: { from: walk.from, events: walk.steps.slice(0, held + 1).map(({ event }) => event as RunEvent) } }),
      });
      return [{ ...found, id: `broken-route:${id}` }];
    }),
};
