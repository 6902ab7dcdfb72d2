import type { Starter } from './starter.ts';
import { deep, label, none, pale } from './paint.ts';

/** Cards that slide, with arrows and dots. */
export const carousel: Starter = {
  id: 'carousel',
  name: 'Carousel',
  meaning: 'three cards that slide, with arrows that stop at the ends and dots that follow',
  parts: {
    Carousel: {
      size: [342, 244],
      background: none,
      states: { 'Slide 1': {}, 'Slide 2': { Slides: { pose: { x: -342 } } }, 'Slide 3': { Slides: { pose: { x: -684 } } } },
      layers: {
        Window: { at: [0, 0, 342, 200], type: 'group', clip: true },
        Slides: { in: 'Window', at: [0, 0, 1026, 200], type: 'group', clip: true },
        ...Object.fromEntries(
          ['First', 'Second', 'Third'].map((name, i) => [
            `${name} card`,
            {
              in: 'Slides',
              at: [i * 342, 0, 342, 200] as const,
              type: 'box' as const,
              text: `${name} card`,
              style: { fill: ['#cfe1ea', pale, '#d8e6d2'][i]!, corner: 16, ink: deep },
              letters: label,
            },
          ])
        ),
        Back: {
          at: [8, 78, 44, 44],
          type: 'oval',
          text: '‹',
          style: { fill: deep, ink: '#ffffff' },
          letters: label,
          label: 'Back',
          looks: { hover: { style: { fill: '#2b6678' } }, disabled: { style: { opacity: 0.3 } } },
          when: { enabled: 'Carousel.state != "Slide 1"' },
          lines: ['click → previous state · tween 400 ms ease-in-out'],
        },
        On: {
          at: [290, 78, 44, 44],
          type: 'oval',
          text: '›',
          style: { fill: deep, ink: '#ffffff' },
          letters: label,
          label: 'On',
          looks: { hover: { style: { fill: '#2b6678' } }, disabled: { style: { opacity: 0.3 } } },
          when: { enabled: 'Carousel.state != "Slide 3"' },
          lines: ['click → next state · tween 400 ms ease-in-out'],
        },
        ...Object.fromEntries(
          [1, 2, 3].map((n) => [
            `Dot ${n}`,
            {
              at: [121 + (n - 1) * 44, 222, 12, 12] as const,
              type: 'oval' as const,
              style: { fill: deep, opacity: 0.25 },
              hit: { how: 'own' as const, grow: 16 },
              label: `Card ${n}`,
              looks: { hover: { style: { opacity: 0.7 } }, selected: { style: { opacity: 1 } } },
              when: { selected: `Carousel.state = "Slide ${n}"` },
              lines: [`click → put this in Slide ${n} · tween 400 ms ease-in-out`],
            },
          ])
        ),
      },
    },
  },
};
