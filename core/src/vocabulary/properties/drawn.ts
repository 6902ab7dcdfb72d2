import { Optional } from '@sinclair/typebox';
import { share } from '../../fields/scalars.ts';
import { isOutlined } from '../layers/all.ts';
import { defineProperty } from './define.ts';

export const drawn = defineProperty({
  name: 'drawn',
  words: 'drawn',
  group: 'style',
  schema: Optional(share('how much of its line is drawn, from where it begins')),
  neutral: 1,
  isNothing: true,
  mixing: 'share',
  moves: true,
  suits: isOutlined,
});
