import { defineLayer } from './define.ts';

export const sound = defineLayer({
  type: 'sound',
  words: 'sound',
  meaning: 'a sound',
  draws: 'sound',
  shows: 'audio/',
});
