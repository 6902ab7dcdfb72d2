import { Number as Num, Optional } from '@sinclair/typebox';
import { defineProperty, hasWords } from './define.ts';

export const size = defineProperty({
  name: 'size',
  words: 'size',
  group: 'letters',
  schema: Optional(Num({ minimum: 1, maximum: 1000, description: 'CSS px' })),
  neutral: 16,
  mixing: 'length',
  moves: true,
  isRead: true,
  suits: hasWords,
});
