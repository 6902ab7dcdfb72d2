import type { Starter } from './starter.ts';
import { deep, ink, none, white, words } from './paint.ts';

/** A switch with a knob that slides. */
export const switchPart: Starter = {
  id: 'switch',
  name: 'Switch',
  meaning: 'on and off by a press; asked about as Switch.state = "On"',
  parts: {
    Switch: {
      size: [240, 44],
      background: none,
      states: { Off: {}, On: { Track: { style: { fill: deep } }, Knob: { pose: { x: 210 } } } },
      layers: {
        Area: { at: [0, 0, 240, 44], type: 'hit', hit: { how: 'own' } },
        Words: { at: [0, 6, 170, 32], type: 'text', text: 'Tell me about delays', style: { ink }, letters: words },
        Track: { at: [182, 8, 54, 28], type: 'box', style: { fill: '#c9bda4', corner: 14 } },
        Knob: { at: [184, 10, 24, 24], type: 'oval', style: { fill: white } },
      },
      lines: ['click → toggle this with On · tween 180 ms ease-out'],
    },
  },
};
