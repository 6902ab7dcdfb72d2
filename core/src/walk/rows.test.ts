import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Rows } from './rows.ts';

test('numbers of any size are held: what differs by more than 16 bits is another row', () => {
  const rows = new Rows();
  const small = rows.with(-1, [0, 20], [1, 7]);
  const large = rows.with(-1, [0, 20], [1 + 0x10000, 7]);
  expect(large).not.toBe(small);
  expect([rows.at(small, 0), rows.at(large, 0), rows.at(large, 20)]).toEqual([1, 0x10001, 7]);
  const wider = rows.with(large, [40], [3]);
  expect([rows.at(wider, 0), rows.at(wider, 40)]).toEqual([0x10001, 3]);
});

test('numbers that come one after the other are all held', () => {
  const rows = new Rows();
  const met = Array.from({ length: 70_000 }, (_, value) => rows.with(-1, [3], [value]));
  expect(met).toEqual(met.map((_, i) => i));
  expect(met.filter((row, value) => rows.at(row, 3) !== value)).toEqual([]);
});

test('rows are kept once, and hold what was set, however wide and many they become', () => {
  // Few columns, of which all rows that can be have a place each; and many.
  const change = (columns: number) =>
    fc.uniqueArray(fc.tuple(fc.nat(columns), fc.oneof(fc.nat(3), fc.nat(3), fc.nat(500))), { maxLength: 6, selector: ([column]) => column });
  const steps = fc.constantFrom(5, 20, 70).chain((columns) => fc.array(fc.tuple(fc.nat(400), change(columns)), { maxLength: 400 }));
  fc.assert(
    fc.property(steps, (steps) => {
      const rows = new Rows();
      const known: number[][] = [];
      const numbers = new Map<string, number>();
      for (const [from, cells] of steps) {
        const base = known.length ? from % known.length : -1;
        const made = base < 0 ? [] : [...known[base]!];
        for (const [column, value] of cells) made[column] = value;
        const whole = Array.from({ length: 71 }, (_, i) => made[i] ?? 0);
        const before = rows.length;
        const row = rows.with(
          base,
          cells.map(([column]) => column),
          cells.map(([, value]) => value)
        );
        const key = whole.join();
        const isNew = rows.length > before;
        expect(isNew).toBe(!numbers.has(key));
        if (isNew) {
          numbers.set(key, row);
          known[row] = whole;
        }
        expect(row).toBe(numbers.get(key));
      }
      known.forEach((whole, row) => whole.forEach((value, column) => expect(rows.at(row, column)).toBe(value)));
    }),
    { numRuns: 100 }
  );
});
