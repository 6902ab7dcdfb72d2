import type { Starter } from './starter.ts';
import { deep, label, none, pressable, white } from './paint.ts';

/** A button with hover, press, focus and disabled looks. */
export const button: Starter = {
  id: 'button',
  name: 'Button',
  meaning: 'a button with its looks; the words are a field',
  parts: {
    Button: {
      size: [200, 48],
      background: none,
      layers: {
        Face: {
          at: [0, 0, 200, 48],
          type: 'box',
          text: 'Button',
          style: { fill: deep, ink: white, corner: 12 },
          letters: label,
          looks: pressable,
          role: 'button',
        },
      },
    },
  },
};
