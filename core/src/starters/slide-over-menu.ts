import type { Starter } from './starter.ts';
import { deep, ink, none, pale, white, words } from './paint.ts';

/** A menu icon and the list that it brings in. */
export const slideOverMenu: Starter = {
  id: 'slide-over-menu',
  name: 'Slide-over menu',
  meaning: 'an icon that turns into a cross while a list slides in from the left',
  parts: {
    'Slide-over menu': {
      size: [320, 420],
      background: none,
      states: {
        Shut: {},
        Open: {
          List: { pose: { x: 0 } },
          'Bar one': { pose: { y: 22, rotation: 45 } },
          'Bar two': { style: { opacity: 0 } },
          'Bar three': { pose: { y: 22, rotation: -45 } },
        },
      },
      layers: {
        Window: { at: [0, 56, 320, 364], type: 'group', clip: true },
        List: { in: 'Window', at: [-280, 0, 280, 364], type: 'group', clip: true },
        'List ground': { in: 'List', at: [0, 0, 280, 364], type: 'box', style: { fill: pale }, hit: { how: 'block' } },
        ...Object.fromEntries(
          ['Boats', 'Fares', 'Tides', 'Islands'].map((name, i) => [
            name,
            {
              in: 'List',
              at: [0, 12 + i * 56, 280, 52] as const,
              type: 'box' as const,
              text: name,
              style: { fill: none, ink },
              letters: { ...words, align: 'center' as const },
              looks: { hover: { style: { fill: '#e8dcc4' } } },
              role: 'button' as const,
            },
          ])
        ),
        Icon: {
          at: [0, 0, 48, 48],
          type: 'group',
          label: 'Menu',
          looks: {
            hover: { inside: { 'Icon ground': { style: { fill: '#2b6678' } } } },
            press: { inside: { 'Icon ground': { style: { fill: '#163b48' } } }, ms: 60 },
          },
          lines: ['click → toggle this with Open · tween 350 ms ease-in-out stagger 30 ms'],
        },
        'Icon ground': { in: 'Icon', at: [0, 0, 48, 48], type: 'box', style: { fill: deep, corner: 12 } },
        'Bar one': { in: 'Icon', at: [12, 14, 24, 4], type: 'box', style: { fill: white, corner: 2 } },
        'Bar two': { in: 'Icon', at: [12, 22, 24, 4], type: 'box', style: { fill: white, corner: 2 } },
        'Bar three': { in: 'Icon', at: [12, 30, 24, 4], type: 'box', style: { fill: white, corner: 2 } },
      },
    },
  },
};
