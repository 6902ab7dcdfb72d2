import type { Starter } from './starter.ts';
import { ink, none, white, words } from './paint.ts';

/** A message that goes away by itself. */
export const toast: Starter = {
  id: 'toast',
  name: 'Toast',
  meaning: 'a short message that comes up and goes by itself; put it in Shown',
  parts: {
    Toast: {
      size: [342, 56],
      background: none,
      states: { Hidden: { Face: { pose: { y: 70 }, style: { opacity: 0 } } }, Shown: { Face: { pose: { y: 0 }, style: { opacity: 1 } } } },
      layers: {
        Face: {
          at: [0, 70, 342, 56],
          type: 'box',
          text: 'Your seat is kept.',
          style: { fill: ink, ink: white, corner: 14, opacity: 0 },
          letters: { ...words, align: 'center' },
          role: 'text',
        },
      },
      lines: ['after 2500 ms in Shown → put this in Hidden · tween 250 ms ease-in'],
    },
  },
};
