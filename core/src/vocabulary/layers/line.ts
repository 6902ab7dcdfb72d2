import { defineLayer } from './define.ts';

export const line = defineLayer({
  type: 'line',
  words: 'line',
  meaning: 'a straight line across its box, or a way that is drawn',
  draws: 'outline',
  outline: 'M0 0L100 100',
  stroke: 2,
});
