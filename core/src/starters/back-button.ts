import type { Starter } from './starter.ts';
import { deep, label, lightly, none, pale } from './paint.ts';

/** A way back, ready to be carried across frames. */
export const backButton: Starter = {
  id: 'back-button',
  name: 'Back',
  meaning: 'goes back to the frame before',
  parts: {
    Back: {
      size: [96, 44],
      background: none,
      layers: {
        Face: {
          at: [0, 0, 96, 44],
          type: 'box',
          text: '‹ Back',
          style: { fill: pale, ink: deep, corner: 22 },
          letters: label,
          looks: lightly,
          role: 'button',
          lines: ['click → go to back · push right 250 ms ease-out'],
        },
      },
    },
  },
};
