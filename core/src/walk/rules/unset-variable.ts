import { valueWords } from '../../expression/ast.ts';
import { finding, type Rule } from '../finding.ts';
import { mentionsIn } from '../mentions.ts';

export const unsetVariable: Rule = {
  id: 'unset-variable',
  words: 'never set',
  meaning: 'a variable that something reads and nothing ever sets: no step, no field, no choice',
  spares: 'a variable that a field or a choice mirrors',
  check: ({ program }) => {
    if (program.variables.size === 0) return [];
    const { set, read } = mentionsIn(program);
    return [...program.variables.values()].flatMap(({ id, scene, name, initial }) => {
      if (!read.has(id) || set.has(id)) return [];
      const found = finding('unset-variable', 'note', { scene }, `${name} is never set`, `${name} is read, and always ${valueWords(initial)}.`);
      return [{ ...found, id: `unset-variable:${id}` }];
    });
  },
};
