import { defineLayer } from './define.ts';

export const box = defineLayer({
  type: 'box',
  words: 'box',
  meaning: 'a rectangle, also with round corners, and words in it',
  draws: 'ground',
  takesWords: true,
});
