import type { Starter } from './starter.ts';
import { deep, ink, none, pressable, white } from './paint.ts';

const letters = { size: 22, weight: 700, align: 'center', place: 'middle' } as const;
const sign = { type: 'box', style: { fill: deep, ink: white, corner: 12 }, letters, looks: pressable } as const;

/** Less, a number, more. */
export const stepper: Starter = {
  id: 'stepper',
  name: 'Stepper',
  meaning: 'a number made less and more by one, within limits',
  parts: {
    Stepper: {
      size: [180, 48],
      background: none,
      variables: { Count: { type: 'number', initial: 1, min: 0, max: 9 } },
      layers: {
        Less: {
          at: [0, 0, 48, 48],
          ...sign,
          text: '−',
          label: 'One less',
          when: { enabled: 'Count > 0' },
          lines: ['click → set Count to Count - 1'],
        },
        Number: {
          at: [56, 0, 68, 48],
          type: 'text',
          text: '{Count}',
          style: { ink },
          letters,
        },
        More: {
          at: [132, 0, 48, 48],
          ...sign,
          text: '+',
          label: 'One more',
          when: { enabled: 'Count < 9' },
          lines: ['click → set Count to Count + 1'],
        },
      },
    },
  },
};
