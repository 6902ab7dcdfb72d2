import { ownerOf, placeOfThread } from '../at-thread.ts';
import { finding, type Rule } from '../finding.ts';
import { routeBy } from '../moment.ts';
import { durationWords } from '../../words.ts';

export const timerRace: Rule = {
  id: 'timer-race',
  words: 'races',
  meaning: 'two things that are due at the same moment in a state that can be reached, and lead to different places',
  spares: 'things due at different moments, and things that lead to the same place',
  check: ({ program: { piece }, exploration: { races } }) =>
    races.flatMap(({ threads, ms, at }) => {
      const [one, other] = threads.map((id) => piece.threads.get(id));
      if (!one || !other) return [];
      const owners = [...new Set([ownerOf(piece, one), ownerOf(piece, other)])];
      const sentence = `${owners.length === 1 ? 'Two threads' : 'Threads'} of ${owners.join(' and ')} are due at the same moment, ${durationWords(Math.round(ms))} on, and lead to different places.`;
      return [
        finding('timer-race', 'must', placeOfThread(piece, one), `${ownerOf(piece, one)} races`, sentence, {
          route: routeBy(at),
        }),
      ];
    }),
};
