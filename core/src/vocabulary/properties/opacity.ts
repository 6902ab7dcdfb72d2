import { Number as Num, Optional } from '@sinclair/typebox';
import { defineProperty } from './define.ts';

export const opacity = defineProperty({
  name: 'opacity',
  words: 'opacity',
  group: 'style',
  schema: Optional(Num({ minimum: 0, maximum: 1 })),
  neutral: 1,
  isNothing: true,
  mixing: 'share',
  isRead: true,
  css: { name: 'opacity', text: (value: number) => (value === 1 ? '' : String(Math.round(value * 10_000) / 10_000)), isPainted: true },
});
