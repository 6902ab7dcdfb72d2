import { defineProperty } from './define.ts';

export const rotation = defineProperty({
  name: 'rotation',
  words: 'turned',
  group: 'pose',
  neutral: 0,
  isNothing: true,
  mixing: 'number',
  moves: true,
  places: true,
});
