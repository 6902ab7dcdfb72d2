import type { Starter } from './starter.ts';
import { deep, none, pale } from './paint.ts';

/** A bar that fills up. */
export const progress: Starter = {
  id: 'progress',
  name: 'Progress',
  meaning: 'a bar that fills in four steps; put it in the next state to go on',
  parts: {
    Progress: {
      size: [310, 12],
      background: none,
      states: {
        Begun: {},
        Half: { Bar: { pose: { width: 155 } } },
        Nearly: { Bar: { pose: { width: 232 } } },
        Done: { Bar: { pose: { width: 310 } } },
      },
      layers: {
        Track: { at: [0, 0, 310, 12], type: 'box', style: { fill: pale, corner: 6 } },
        Bar: { at: [0, 0, 78, 12], type: 'box', style: { fill: deep, corner: 6 } },
      },
    },
  },
};
