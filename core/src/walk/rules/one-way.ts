import { listWords } from '../../words.ts';
import type { Exploration } from '../exploration.ts';
import { routeOf } from '../explore.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { lostStates, type Lost } from '../one-way.ts';

export const oneWay: Rule = {
  id: 'one-way',
  words: 'no way back',
  meaning: 'what a person can open and nothing closes while its frame stays: a state of something, a frame laid over, a panel in front of buttons',
  spares: 'what closes by itself or by anything else, what leads on by itself from there, and what only time brings',
  check: ({ program, exploration }) => {
    const found = [exploration, ...exploration.slices].flatMap((one) => lostStates(program, one).map((lost) => report(one, lost)));
    return [...new Map(found.map((one) => [one.id, one])).values()];
  },
};

/** So many names are said. */
const MOST_NAMES = 4;

const someOf = (names: readonly string[]): string =>
  listWords(names.length > MOST_NAMES ? [...names.slice(0, MOST_NAMES - 1), `${names.length - MOST_NAMES + 1} more`] : names);

function report(exploration: Exploration, { scene, layer, what, name, behind, state }: Lost): Finding {
  const sentence = behind
    ? `${name} can be brought up, and nothing takes it away while its frame stays: ${someOf(behind)} ${behind.length > 1 ? 'lie' : 'lies'} behind it.`
    : `${name} can be come to, and nothing leads back while its frame stays.`;
  const found = finding('one-way', 'note', { scene, ...(layer && { layer }) }, `${name} is for good`, sentence, {
    route: routeOf(exploration, state),
  });
  return { ...found, id: `${found.id}:${what}` };
}
