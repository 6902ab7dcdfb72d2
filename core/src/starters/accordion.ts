import type { Starter } from './starter.ts';
import { deep, ink, none, pale, words } from './paint.ts';

/** Headings that unfold, one at a time. */
export const accordion: Starter = {
  id: 'accordion',
  name: 'Accordion',
  meaning: 'three headings; a press unfolds one and folds the others',
  parts: {
    Accordion: {
      size: [342, 296],
      background: none,
      states: {
        Folded: {},
        First: { 'First text': { style: { opacity: 1 } }, 'Second heading': { pose: { y: 172 } }, 'Third heading': { pose: { y: 224 } } },
        Second: { 'Second text': { style: { opacity: 1 } }, 'Third heading': { pose: { y: 224 } } },
        Third: { 'Third text': { style: { opacity: 1 } } },
      },
      layers: {
        ...Object.fromEntries(
          ['First', 'Second', 'Third'].map((name, i) => [
            `${name} text`,
            {
              at: [16, 52 + i * 52, 310, 110] as const,
              type: 'text' as const,
              text: `What there is to say about the ${name.toLowerCase()} one.`,
              style: { ink, opacity: 0 },
              letters: { size: 15 },
            },
          ])
        ),
        ...Object.fromEntries(
          ['First', 'Second', 'Third'].map((name, i) => [
            `${name} heading`,
            {
              at: [0, i * 52, 342, 48] as const,
              type: 'box' as const,
              text: `${name} heading`,
              style: { fill: pale, ink: deep, corner: 10 },
              letters: { ...words, weight: 650, align: 'center' as const },
              looks: { hover: { style: { fill: '#e8dcc4' } } },
              role: 'button' as const,
              lines: [`click → toggle this with ${name} · tween 250 ms ease-in-out`],
            },
          ])
        ),
      },
    },
  },
};
