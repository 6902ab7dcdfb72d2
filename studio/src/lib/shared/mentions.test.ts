import { expect, test } from 'vitest';
import { begunAt, spokenTo } from './mentions';

const names = ['Liv', 'Liv Moe', 'Odd Vik', ''];

test.each([
  ['@Liv Moe, is it so?', ['Liv Moe']],
  ['@liv: and @Odd Vik', ['Liv', 'Odd Vik']],
  ['@Livia and liv@odd.example', []],
  ['nobody', []],
])('who is spoken to in “%s”', (body, found) => {
  expect(spokenTo(body, names)).toEqual(found);
});

test.each([
  ['ask @Li', 7, { from: 4, name: 'Li' }],
  ['@', 1, { from: 0, name: '' }],
  ['liv@od', 6, null],
  ['@Liv\nand', 8, null],
  ['none', 4, null],
])('a name that is being written: “%s” at %i', (text, at, begun) => {
  expect(begunAt(text, at)).toEqual(begun);
});
