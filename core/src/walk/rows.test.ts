import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Rows } from './rows.ts';

test('rows are kept once, and hold what was set, however wide and many they become', () => {
  const change = fc.array(fc.tuple(fc.nat(70), fc.nat(3)), { maxLength: 6 });
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(400), change), { maxLength: 400 }), (steps) => {
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
    { numRuns: 60 }
  );
});
