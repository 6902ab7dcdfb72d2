import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Ints, MostlyZero } from './ints.ts';

test('a list says what was put into it, however long it gets, and where most of it is nothing', () => {
  const numbers = fc.array(fc.oneof({ weight: 5, arbitrary: fc.constant(0) }, fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 })), { maxLength: 900 });
  fc.assert(
    fc.property(numbers, (all) => {
      for (const list of [new Ints(), new MostlyZero()]) {
        for (const one of all) list.push(one);
        expect(all.map((_, i) => list.at(i))).toEqual(all);
      }
    }),
    { numRuns: 60 }
  );
});

test('what is nothing to its end takes no room', () => {
  const list = new MostlyZero();
  for (let i = 0; i < 10_000; i++) list.push(i === 3 ? 7 : 0);
  expect([list.length, list.at(3), list.at(9999)]).toEqual([4, 7, 0]);
});
