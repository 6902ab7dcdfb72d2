import { Optional } from '@sinclair/typebox';
import { paint } from '../../fields/scalars.ts';
import { defineProperty, hasWords } from './define.ts';

/** Of what has none of its own. */
export const DEFAULT_INK = '#26232c';

export const ink = defineProperty({
  name: 'ink',
  words: 'ink',
  group: 'style',
  schema: Optional(paint('colour of the text')),
  neutral: DEFAULT_INK,
  isNothing: true,
  mixing: 'colour',
  isRead: true,
  suits: hasWords,
});
