import { Number as Num, Optional } from '@sinclair/typebox';
import { isOutlined } from '../layers/all.ts';
import { defineProperty } from './define.ts';

export const corner = defineProperty({
  name: 'corner',
  words: 'corner',
  group: 'style',
  schema: Optional(Num({ minimum: 0, maximum: 10_000, description: 'corner radius, CSS px' })),
  neutral: 0,
  isNothing: true,
  mixing: 'length',
  suits: (layer) => !isOutlined(layer),
});
