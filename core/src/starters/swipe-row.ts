import type { Starter } from './starter.ts';
import { ink, label, none, pale, white, words } from './paint.ts';

/** A row with two buttons behind it. */
export const swipeRow: Starter = {
  id: 'swipe-row',
  name: 'Swipe row',
  meaning: 'a row that is dragged aside to two buttons behind it',
  parts: {
    'Swipe row': {
      size: [358, 72],
      background: none,
      states: {
        Here: {},
        Gone: { Row: { hidden: true }, Keep: { hidden: true }, Drop: { hidden: true } },
      },
      layers: {
        Keep: {
          at: [158, 0, 100, 72],
          type: 'box',
          text: 'Keep',
          style: { fill: '#0b7a75', ink: white },
          letters: label,
          role: 'button',
          looks: { hover: { style: { fill: '#0a6c67' } }, press: { style: { fill: '#085652' } } },
          lines: ['click → move Row to 0, 0 · 200 ms ease-out'],
        },
        Drop: {
          at: [258, 0, 100, 72],
          type: 'box',
          text: 'Drop',
          style: { fill: '#b23a26', ink: white },
          letters: label,
          role: 'button',
          looks: { hover: { style: { fill: '#9d3321' } }, press: { style: { fill: '#7e291a' } } },
          lines: ['click → put this in Gone · tween 250 ms ease-in stagger 60 ms'],
        },
        Row: {
          at: [0, 0, 358, 72],
          type: 'box',
          text: '10:40 to Skarra',
          style: { fill: pale, ink },
          letters: { ...words, align: 'center' },
          drag: {
            axis: 'x',
            bounds: { left: -200, right: 0, top: 0, bottom: 0 },
            snap: [
              { x: 0, y: 0 },
              { x: -200, y: 0 },
            ],
          },
        },
      },
    },
  },
};
