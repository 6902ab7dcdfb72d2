import { Optional } from '@sinclair/typebox';
import { share } from '../../fields/scalars.ts';
import { defineProperty, hasWords } from './define.ts';

export const typed = defineProperty({
  name: 'typed',
  words: 'typed out',
  group: 'letters',
  schema: Optional(share('how many of the letters are there, from the first on')),
  neutral: 1,
  isNothing: true,
  mixing: 'share',
  moves: true,
  isRead: true,
  suits: hasWords,
});
