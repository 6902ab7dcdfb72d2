import { defineLayer } from './define.ts';

export const path = defineLayer({
  type: 'path',
  words: 'path',
  meaning: 'any outline, filled and drawn around',
  draws: 'outline',
});
