import { Optional } from '@sinclair/typebox';
import { share } from '../../fields/scalars.ts';
import { defineProperty, hasWords } from './define.ts';

export const counted = defineProperty({
  name: 'counted',
  words: 'counted up',
  group: 'letters',
  schema: Optional(share('how far numbers in the text have counted up')),
  neutral: 1,
  isNothing: true,
  mixing: 'share',
  moves: true,
  suits: hasWords,
});
