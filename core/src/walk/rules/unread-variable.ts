import { finding, type Rule } from '../finding.ts';
import { mentionsIn } from '../mentions.ts';

export const unreadVariable: Rule = {
  id: 'unread-variable',
  words: 'never read',
  meaning: 'a variable that nothing reads: no condition, binding, text, step or cue; computing it from itself does not count',
  spares: 'a variable that a text, a binding, a condition, a step or a cue reads, or that a second field shows',
  check: ({ program }) => {
    if (program.variables.size === 0) return [];
    const { set, read } = mentionsIn(program);
    return [...program.variables.values()].flatMap(({ id, scene, name }) => {
      if (read.has(id)) return [];
      const sentence = set.has(id) ? `${name} is set, and nothing depends on it.` : `${name} is used nowhere.`;
      return [{ ...finding('unread-variable', 'note', { scene }, `${name} is never read`, sentence), id: `unread-variable:${id}` }];
    });
  },
};
