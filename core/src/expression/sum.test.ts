import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sumIn } from './sum.ts';

test.each([
  ['12', 12],
  [' 12.5 ', 12.5],
  ['12,5', 12.5],
  ['-8', -8],
  ['−8', -8],
  ['100-16', 84],
  ['+8', 48],
  ['+ -8', 32],
  ['/2', 20],
  ['* 3', 120],
  ['×1,5', 60],
  ['÷ 4', 10],
  ['(2 + 3) * 4', 20],
  ['390 / 3 - 2 * 8', 114],
  ['24 px', 24],
  ['50%', 50],
  ['90°', 90],
  ['max(3, 4)', 4],
])('%s written over 40 is %d', (written, number) => {
  expect(sumIn(written, 40)).toBe(number);
});

test.each(['', ' ', 'wide', '1 +', '/', '1/0', '"5"', '1 < 2', '‹some›', 'frame.name', '8 8', '1e999'])('%j is no number', (written) => {
  expect(sumIn(written, 40)).toBeNull();
});

test('a number is itself, whatever was there, and goes on from a negative one', () => {
  fc.assert(
    fc.property(fc.integer({ min: -1e6, max: 1e6 }), fc.integer({ min: -1e6, max: 1e6 }), (number, from) => {
      expect(sumIn(String(number), from)).toBe(number);
      expect(sumIn(`+${Math.abs(number)}`, from)).toBe(from + Math.abs(number));
    })
  );
});
