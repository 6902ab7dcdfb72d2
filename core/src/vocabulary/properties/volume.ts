import { Optional } from '@sinclair/typebox';
import { share } from '../../fields/scalars.ts';
import { isMediaLayer } from '../layers/all.ts';
import { defineProperty } from './define.ts';

export const volume = defineProperty({
  name: 'volume',
  words: 'volume',
  group: 'style',
  schema: Optional(share('how loud a video or sound is')),
  neutral: 1,
  isNothing: true,
  mixing: 'share',
  suits: isMediaLayer,
});
