import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Pairs } from './pairs.ts';

const few = fc.integer({ min: 0, max: 40 });

test('what was put at a pair last stands there, and nothing at others', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(few, few, fc.nat(1e6)), { maxLength: 600 }), (put) => {
      const pairs = new Pairs();
      const known = new Map<string, number>();
      for (const [a, b, value] of put) {
        pairs.set(a, b, value);
        known.set(`${a} ${b}`, value);
      }
      for (let a = 0; a <= 40; a++) for (let b = 0; b <= 40; b++) expect(pairs.get(a, b)).toBe(known.get(`${a} ${b}`) ?? -1);
    }),
    { numRuns: 20 }
  );
});

test('very many pairs are told apart, also with great numbers', () => {
  const pairs = new Pairs();
  for (let i = 0; i < 50_000; i++) pairs.set(i * 7, 2 ** 21 - (i % 300), i);
  for (let i = 0; i < 50_000; i++) expect(pairs.get(i * 7, 2 ** 21 - (i % 300))).toBe(i);
  expect(pairs.get(3, 2 ** 21)).toBe(-1);
});
