import type { Starter } from './starter.ts';
import { deep, ink, label, none, pale } from './paint.ts';

/** Three tabs; the mark slides to the open one. */
export const tabs: Starter = {
  id: 'tabs',
  name: 'Tabs',
  meaning: 'three tabs with their panels; asked about as Tabs.state',
  parts: {
    Tabs: {
      size: [342, 200],
      background: none,
      states: {
        First: {},
        Second: { Mark: { pose: { x: 114 } }, 'First panel': { hidden: true }, 'Second panel': { hidden: false } },
        Third: { Mark: { pose: { x: 228 } }, 'First panel': { hidden: true }, 'Third panel': { hidden: false } },
      },
      layers: {
        ...Object.fromEntries(
          ['First', 'Second', 'Third'].map((name, i) => [
            `${name} tab`,
            {
              at: [i * 114, 0, 114, 44] as const,
              type: 'box' as const,
              text: name,
              style: { fill: none, ink },
              letters: label,
              looks: { hover: { style: { fill: pale } } },
              role: 'button' as const,
              lines: [`click → put this in ${name} · tween 200 ms ease-out`],
            },
          ])
        ),
        Mark: { at: [0, 41, 114, 3], type: 'box', style: { fill: deep } },
        ...Object.fromEntries(
          ['First', 'Second', 'Third'].map((name, i) => [
            `${name} panel`,
            {
              at: [0, 52, 342, 148] as const,
              type: 'box' as const,
              text: `What belongs to ${name.toLowerCase()}`,
              style: { fill: pale, ink, corner: 12 },
              letters: label,
              ...(i > 0 && { hidden: true }),
            },
          ])
        ),
      },
    },
  },
};
