import { defineLayer } from './define.ts';

export const field = defineLayer({
  type: 'field',
  words: 'field',
  meaning: 'something to fill in: text, a number, a box to tick, a choice, a slider',
  draws: 'field',
});
