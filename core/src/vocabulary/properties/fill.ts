import { Optional } from '@sinclair/typebox';
import { paint } from '../../fields/scalars.ts';
import { defineProperty } from './define.ts';

export const fill = defineProperty({
  name: 'fill',
  words: 'fill',
  group: 'style',
  schema: Optional(paint('what the shape is filled with')),
  neutral: '#ffffff00',
  isNothing: true,
  canMiss: true,
  mixing: 'colour',
  isRead: true,
});
