import { ownerOf, placeOfThread } from '../at-thread.ts';
import { finding, type Rule } from '../finding.ts';
import { routeBy } from '../moment.ts';

export const endlessLoop: Rule = {
  id: 'endless-loop',
  words: 'goes round for ever',
  meaning: 'threads that set each other off without end, or bindings that do: the run is stopped in the middle',
  spares: 'threads that set each other off and come to rest by themselves',
  check: ({ program: { piece }, exploration: { endless } }) => {
    // Those that were stopped together are one loop, told at the first of them.
    const loops = new Map<string, string[]>();
    for (const [thread, at] of endless) {
      const key = JSON.stringify([at.start, at.route(at.step)]);
      loops.set(key, [...(loops.get(key) ?? []), thread]);
    }
    return [...loops.values()].flatMap((ids) => {
      const threads = ids.flatMap((id) => piece.threads.get(id) ?? []);
      const [one] = threads;
      if (!one) return [];
      const at = endless.get(one.id)!;
      const names = [...new Set(threads.map((thread) => ownerOf(piece, thread)))];
      const sentence = `What threads of ${names.slice(0, 4).join(', ')} set off goes on without end.`;
      return [
        finding('endless-loop', 'must', placeOfThread(piece, one), `${names[0]} sets itself off without end`, sentence, {
          route: routeBy(at, at.step),
        }),
      ];
    });
  },
};
