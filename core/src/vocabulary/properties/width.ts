import { defineProperty } from './define.ts';

export const width = defineProperty({
  name: 'width',
  words: 'width',
  group: 'pose',
  neutral: 0,
  mixing: 'length',
  moves: true,
  places: true,
});
