import { defineProperty } from './define.ts';
import { FRESH_LINE } from './line.ts';

export const lineWidth = defineProperty({
  name: 'lineWidth',
  words: 'line width',
  group: 'style',
  of: { field: 'line', inner: 'width', fresh: FRESH_LINE },
  neutral: 0,
  mixing: 'length',
});
