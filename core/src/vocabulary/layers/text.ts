import { defineLayer } from './define.ts';

export const text = defineLayer({
  type: 'text',
  words: 'text',
  meaning: 'words, with values of expressions in them',
  draws: 'ground',
  isProse: true,
  takesWords: true,
});
