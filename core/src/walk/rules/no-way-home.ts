import { count, listWords } from '../../words.ts';
import { finding, type Rule } from '../finding.ts';

export const noWayHome: Rule = {
  id: 'no-way-home',
  words: 'no way home',
  meaning: 'frames that lead only to each other: once there, always or while something is so, no start frame can be reached any more',
  spares: 'frames from which some way leads home, however long, and those marked as endings',
  check: ({ program, traps }) =>
    traps
      .filter((trap) => !trap.deadEnd)
      .map((trap) => {
        const names = trap.frames.map((id) => program.scenes.get(id)!.scene.name);
        const shown = names.length > 4 ? [...names.slice(0, 3), count(names.length - 3, 'more', 'more')] : names;
        const sentence = `From ${listWords(shown)} no start frame can be reached any more${trap.when ? `, ${trap.when}` : ''}.`;
        return finding('no-way-home', 'must', { scene: trap.frames[0]! }, `No way home from ${names[0]}`, sentence, {
          route: { from: trap.from, events: trap.route },
        });
      }),
};
