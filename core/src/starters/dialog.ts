import type { Starter } from './starter.ts';
import { deep, ink, label, none, pale, pressable, white, words } from './paint.ts';

/** A question with two answers over a darkened ground. */
export const dialog: Starter = {
  id: 'dialog',
  name: 'Dialog',
  meaning: 'asks something over a darkened ground; put it in Open to show it',
  parts: {
    Dialog: {
      size: [390, 844],
      background: none,
      states: {
        Shut: {},
        Open: { Shade: { hidden: false, style: { opacity: 1 } }, Card: { hidden: false }, 'Card face': { style: { opacity: 1 } } },
      },
      layers: {
        Shade: {
          at: [0, 0, 390, 844],
          type: 'box',
          style: { fill: '#26232c99', opacity: 0 },
          hidden: true,
          label: 'Beside the dialog',
          lines: ['click → put this in Shut · dissolve 150 ms ease'],
        },
        Card: { at: [32, 300, 326, 200], type: 'group', hidden: true },
        'Card face': { in: 'Card', at: [0, 0, 326, 200], type: 'box', style: { fill: white, corner: 18 }, hit: { how: 'block' } },
        Title: {
          in: 'Card',
          at: [24, 22, 278, 28],
          type: 'text',
          text: 'Leave without paying?',
          style: { ink },
          letters: { size: 19, weight: 700, place: 'middle' },
        },
        Words: {
          in: 'Card',
          at: [24, 58, 278, 60],
          type: 'text',
          text: 'Your seats are kept for ten minutes.',
          style: { ink },
          letters: { ...words, place: 'top' },
        },
        No: {
          in: 'Card',
          at: [24, 132, 132, 48],
          type: 'box',
          text: 'Stay',
          style: { fill: pale, ink: deep, corner: 12 },
          letters: label,
          looks: { hover: { style: { fill: '#e8dcc4' } } },
          role: 'button',
          lines: ['click → put this in Shut · dissolve 150 ms ease'],
        },
        Yes: {
          in: 'Card',
          at: [170, 132, 132, 48],
          type: 'box',
          text: 'Leave',
          style: { fill: deep, ink: white, corner: 12 },
          letters: label,
          looks: pressable,
          role: 'button',
          lines: ['click → put this in Shut · dissolve 150 ms ease; send left'],
        },
      },
    },
  },
};
