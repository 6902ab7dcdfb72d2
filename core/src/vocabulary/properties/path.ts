import { isOutlined } from '../layers/all.ts';
import { defineProperty } from './define.ts';

export const path = defineProperty({
  name: 'path',
  words: 'outline',
  group: 'layer',
  neutral: '',
  canMiss: true,
  mixing: 'path',
  moves: true,
  suits: isOutlined,
});
