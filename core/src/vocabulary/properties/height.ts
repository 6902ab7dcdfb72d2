import { defineProperty } from './define.ts';

export const height = defineProperty({
  name: 'height',
  words: 'height',
  group: 'pose',
  neutral: 0,
  mixing: 'length',
  moves: true,
  places: true,
});
