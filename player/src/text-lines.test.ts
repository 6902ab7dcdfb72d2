import fc from 'fast-check';
import { beforeEach, expect, it } from 'vitest';
import { forgetLines, linesOf } from './text-lines.ts';

/** Every letter is one wide. */
const measure = (words: string) => [...words].length;
const lines = (text: string, width: number) => linesOf(text, width, 'any', measure);

beforeEach(forgetLines);

it('breaks at spaces, at line ends, and inside words that are wider than the box', () => {
  expect(lines('to the pier', 20)).toEqual(['to the pier']);
  expect(lines('to the pier', 6)).toEqual(['to the', 'pier']);
  expect(lines('to\nthe pier', 20)).toEqual(['to', 'the pier']);
  expect(lines('Kittiwake Line', 5)).toEqual(['Kitti', 'wake', 'Line']);
  expect(lines('', 5)).toEqual(['']);
  expect(lines('ab\n\ncd', 5)).toEqual(['ab', '', 'cd']);
});

it('loses no letter, and gives no line that is wider than the box unless it is one letter', () => {
  fc.assert(
    fc.property(
      fc.string({ unit: fc.constantFrom('a', 'b', ' ', '\n', 'é', '🚢'), maxLength: 60 }),
      fc.integer({ min: 1, max: 12 }),
      (text, width) => {
        forgetLines();
        const found = lines(text, width);
        expect(found.join('').replace(/\s/g, '')).toBe(text.replace(/\s/g, ''));
        for (const line of found) expect(measure(line.trim()) <= width || [...line].length === 1).toBe(true);
      }
    )
  );
});

it('measures what it knows no second time', () => {
  let measured = 0;
  const counting = (words: string) => (measured++, measure(words));
  linesOf('to the pier', 6, 'any', counting);
  const first = measured;
  linesOf('to the pier', 6, 'any', counting);
  expect(measured).toBe(first);
  linesOf('to the pier', 6, 'another', counting);
  expect(measured).toBeGreaterThan(first);
});
