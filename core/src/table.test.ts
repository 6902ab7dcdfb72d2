import fc from 'fast-check';
import { expect, test } from 'vitest';
import { setAll, Table } from './table.ts';

test('behaves as a map that is copied at every change', () => {
  const action = fc.tuple(fc.boolean(), fc.integer({ min: 0, max: 40 }).map(String), fc.integer());
  fc.assert(
    fc.property(fc.array(action, { maxLength: 80 }), (actions) => {
      let table = Table.empty<number>();
      const map = new Map<string, number>();
      for (const [put, id, value] of actions) {
        const before = [...table.entries()].sort();
        const next = put ? table.set(id, value) : table.delete(id);
        expect([...table.entries()].sort()).toEqual(before);
        if (put) map.set(id, value);
        else map.delete(id);
        table = next;
      }
      expect(new Map(table.entries())).toEqual(map);
      expect(table.size).toBe(map.size);
    })
  );
});

test('many entries at once are what they are one by one', () => {
  const entries = fc.array(fc.tuple(fc.integer({ min: 0, max: 400 }).map(String), fc.integer({ min: 0, max: 3 })), { maxLength: 200 });
  fc.assert(
    fc.property(entries, entries, (first, then) => {
      const table = Table.from(first);
      const before = new Map(table.entries());
      const next = setAll(table, then);
      const single = then.reduce((all, [id, value]) => all.set(id, value), table);
      expect(new Map(next.entries())).toEqual(new Map(single.entries()));
      expect(next.size).toBe(single.size);
      expect(new Map(table.entries())).toEqual(before);
    })
  );
});

test('nothing changed means the same table', () => {
  const table = Table.from([['a', 1]]);
  expect(table.set('a', 1)).toBe(table);
  expect(table.delete('b')).toBe(table);
  expect(setAll(table, [['a', 1]])).toBe(table);
});
