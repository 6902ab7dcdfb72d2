import { defineLayer } from './define.ts';

export const placement = defineLayer({
  type: 'placement',
  words: 'placement',
  meaning: 'a part, where it is placed',
  draws: 'layers',
});
