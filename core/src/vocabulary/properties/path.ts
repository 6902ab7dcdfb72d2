import { isOutlined } from '../layers/all.ts';
import { defineProperty } from './define.ts';

export const path = defineProperty({
  name: 'path',
  words: 'outline',
  group: 'layer',
  neutral: '',
  mixing: 'path',
  moves: true,
  suits: isOutlined,
});
