import { defineProperty } from './define.ts';

export const y = defineProperty({
  name: 'y',
  words: 'y',
  group: 'pose',
  neutral: 0,
  mixing: 'number',
  moves: true,
  places: true,
});
