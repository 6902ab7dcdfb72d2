import { defineLayer } from './define.ts';

export const group = defineLayer({
  type: 'group',
  words: 'group',
  meaning: 'layers that belong together; it can cut them off, and scroll',
  draws: 'layers',
  holdsLayers: true,
});
