import type { Starter } from './starter.ts';
import { deep, ink, line, none, white, words } from './paint.ts';

/** A box to tick, with its words. */
export const checkbox: Starter = {
  id: 'checkbox',
  name: 'Checkbox',
  meaning: 'ticked and unticked by a press; asked about as Checkbox.state = "On"',
  parts: {
    Checkbox: {
      size: [240, 44],
      background: none,
      states: { Off: {}, On: { Box: { style: { fill: deep } }, Tick: { style: { opacity: 1 } } } },
      layers: {
        Area: { at: [0, 0, 240, 44], type: 'hit', hit: { how: 'own' } },
        Box: { at: [8, 10, 24, 24], type: 'box', style: { fill: white, line, corner: 6 } },
        Tick: {
          at: [8, 10, 24, 24],
          type: 'text',
          text: '✓',
          style: { ink: white, opacity: 0 },
          letters: { size: 18, weight: 800, align: 'center', place: 'middle' },
        },
        Words: { at: [44, 6, 190, 32], type: 'text', text: 'I agree', style: { ink }, letters: words },
      },
      lines: ['click → toggle this with On · tween 120 ms ease'],
    },
  },
};
