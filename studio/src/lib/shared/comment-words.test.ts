import { expect, test } from 'vitest';
import { commentWords } from './comment-words';

test('a picture is a word where none are drawn', () => {
  expect(commentWords('See\n![picture](picture:A1b2)\nand ![the quay](picture:C3) [link](https://x.example)')).toBe(
    'See (picture) and (the quay) [link](https://x.example)'
  );
});
