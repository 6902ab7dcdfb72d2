import { defineProperty } from './define.ts';
import { DEFAULT_INK } from './ink.ts';
import { FRESH_LINE } from './line.ts';

export const lineColor = defineProperty({
  name: 'lineColor',
  words: 'line colour',
  group: 'style',
  of: { field: 'line', inner: 'color', fresh: FRESH_LINE },
  neutral: DEFAULT_INK,
  canMiss: true,
  mixing: 'colour',
});
