import { defineProperty } from './define.ts';

export const scale = defineProperty({
  name: 'scale',
  words: 'scale',
  group: 'pose',
  neutral: 1,
  isNothing: true,
  mixing: 'length',
  moves: true,
  places: true,
});
