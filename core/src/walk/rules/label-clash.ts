import { scenesInTime } from '../in-time.ts';
import { finding, type Rule } from '../finding.ts';

export const labelClash: Rule = {
  id: 'label-clash',
  words: 'labels clash',
  meaning: 'two labels of one timeline with the same name, or at the same time, so that one of them opens nothing',
  spares: 'the same name in two timelines',
  check: ({ program }) =>
    scenesInTime(program).flatMap(({ scene, timeline }) => {
      const labels = Object.values(timeline.labels ?? {});
      const twins = labels.filter((label, i) => labels.slice(0, i).some((other) => other.name.toLowerCase() === label.name.toLowerCase()));
      const hidden = labels.filter((label, i) => labels.slice(0, i).some((other) => other.time === label.time));
      const words = [
        ...twins.map(({ name }) => `There are two labels called ${name}.`),
        ...hidden.map(({ name }) => `${name} stands where another label stands, so its section is empty.`),
      ];
      if (!words.length) return [];
      return [finding('label-clash', hidden.length ? 'must' : 'look', { scene: scene.id }, `Labels of ${scene.name} clash`, words.join(' '))];
    }),
};
