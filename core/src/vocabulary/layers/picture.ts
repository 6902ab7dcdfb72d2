import { defineLayer } from './define.ts';

export const picture = defineLayer({
  type: 'picture',
  words: 'picture',
  meaning: 'a picture file',
  draws: 'picture',
  shows: 'image/',
});
