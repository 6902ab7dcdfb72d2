import { defineLayer } from './define.ts';

export const hit = defineLayer({
  type: 'hit',
  words: 'hit area',
  meaning: 'an area to be pressed that is not seen',
  draws: 'nothing',
});
