import type { Starter } from './starter.ts';
import { deep, label, none, pale, ink, small, white } from './paint.ts';

/** A bar of three words with a menu below each. */
export const menuBar: Starter = {
  id: 'menu-bar',
  name: 'Menu bar',
  meaning: 'a press opens a menu below its word, another press closes it; one is open at most',
  parts: {
    'Menu bar': {
      size: [360, 180],
      background: none,
      choices: { Menu: null },
      layers: {
        Ground: { at: [0, 0, 360, 48], type: 'box', style: { fill: deep } },
        ...Object.fromEntries(
          ['Boats', 'Fares', 'Help'].flatMap((name, i) => [
            [
              name,
              {
                at: [i * 120, 0, 120, 48] as const,
                type: 'box' as const,
                text: name,
                style: { fill: none, ink: white },
                letters: label,
                selected: false,
                choice: 'Menu',
                role: 'button' as const,
                looks: { hover: { style: { fill: '#2b6678' } }, selected: { style: { fill: '#163b48' } } },
                lines: [`click → select or unselect ${name}`],
              },
            ],
            [`${name} menu`, { at: [i * 120, 48, 1, 1] as const, type: 'group' as const, when: { shown: `${name}.selected` } }],
            [`${name} sheet`, { in: `${name} menu`, at: [0, 0, 120, 96] as const, type: 'box' as const, style: { fill: pale } }],
            ...['One', 'Two'].map(
              (entry, n) =>
                [
                  `${name} ${entry}`,
                  {
                    in: `${name} menu`,
                    at: [0, n * 48, 120, 48] as const,
                    type: 'box' as const,
                    text: `${name} ${entry.toLowerCase()}`,
                    style: { fill: none, ink },
                    letters: { ...small, align: 'center' as const },
                    looks: { hover: { style: { fill: '#e8dcc4' } } },
                  },
                ] as const
            ),
          ])
        ),
      },
    },
  },
};
