import type { Starter } from './starter.ts';
import { deep, ink, line, none, white, words } from './paint.ts';

/** One of three, with a dot in the ring of the chosen one. */
export const choice: Starter = {
  id: 'choice',
  name: 'Choice',
  meaning: 'one of three; the words are fields',
  parts: {
    Choice: {
      size: [240, 132],
      background: none,
      choices: { Choice: null },
      layers: Object.fromEntries(
        ['First', 'Second', 'Third'].flatMap((name, i) => [
          [
            `${name} option`,
            {
              at: [0, i * 44, 240, 44] as const,
              type: 'box' as const,
              style: { fill: none },
              selected: i === 0,
              choice: 'Choice',
              choiceValue: name,
              looks: { hover: { style: { fill: '#f3ead9' } }, selected: {} },
              label: name,
              lines: [`click → select ${name} option`],
            },
          ],
          [`${name} ring`, { at: [8, 10 + i * 44, 24, 24] as const, type: 'oval' as const, style: { fill: white, line } }],
          [
            `${name} dot`,
            { at: [14, 16 + i * 44, 12, 12] as const, type: 'oval' as const, style: { fill: deep }, when: { shown: `${name} option.selected` } },
          ],
          [
            `${name} words`,
            { at: [44, 6 + i * 44, 190, 32] as const, type: 'text' as const, text: `${name} choice`, style: { ink }, letters: words },
          ],
        ])
      ),
    },
  },
};
