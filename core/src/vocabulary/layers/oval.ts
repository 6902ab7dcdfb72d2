import { defineLayer } from './define.ts';

export const oval = defineLayer({
  type: 'oval',
  words: 'oval',
  meaning: 'an ellipse, and words in it',
  draws: 'ground',
  isRound: true,
  takesWords: true,
});
