import { defineProperty } from './define.ts';

export const x = defineProperty({
  name: 'x',
  words: 'x',
  group: 'pose',
  neutral: 0,
  mixing: 'number',
  moves: true,
  places: true,
});
