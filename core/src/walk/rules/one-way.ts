import type { Exploration } from '../exploration.ts';
import { routeOf } from '../explore.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { lostStates, type Lost } from '../one-way.ts';

export const oneWay: Rule = {
  id: 'one-way',
  words: 'no way back',
  meaning: 'a state that a person can bring something into and nothing brings it out of while its frame stays: opened and never closed',
  spares: 'what closes by itself or by anything else, what leads on by itself from there, and what only time brings',
  check: ({ program, exploration }) => {
    const found = [exploration, ...exploration.slices].flatMap((one) => lostStates(program, one).map((lost) => report(one, lost)));
    return [...new Map(found.map((one) => [one.id, one])).values()];
  },
};

function report(exploration: Exploration, { scene, what, name, state }: Lost): Finding {
  const found = finding(
    'one-way',
    'note',
    { scene },
    `${name} is for good`,
    `${name} can be come to, and nothing leads back while its frame stays.`,
    {
      route: routeOf(exploration, state),
    }
  );
  return { ...found, id: `${found.id}:${what}` };
}
