import { defineLayer } from './define.ts';

export const video = defineLayer({
  type: 'video',
  words: 'video',
  meaning: 'a film',
  draws: 'film',
  shows: 'video/',
});
