import fc from 'fast-check';
import { expect, it } from 'vitest';
import { recycled } from './recycle';

const ids = fc.uniqueArray(fc.constantFrom(...'abcdefghij'), { maxLength: 10 });

it('gives every entry a row of its own, keeps those that stay, and makes no more rows than were ever needed at once', () => {
  fc.assert(
    fc.property(fc.array(ids, { minLength: 1, maxLength: 8 }), (lists) => {
      let rows = new Map<string, number>();
      let most = 0;
      for (const list of lists) {
        const next = recycled(rows, list);
        most = Math.max(most, list.length);
        expect([...next.keys()]).toEqual(list);
        expect(new Set(next.values()).size).toBe(list.length);
        for (const id of list) if (rows.has(id)) expect(next.get(id)).toBe(rows.get(id));
        for (const row of next.values()) expect(row).toBeLessThan(most);
        rows = next;
      }
    })
  );
});

it('fills a whole new list into the rows of the old one in order', () => {
  const old = recycled(new Map(), ['a', 'b', 'c']);
  expect([...recycled(old, ['x', 'y', 'z', 'w'])]).toEqual([
    ['x', 0],
    ['y', 1],
    ['z', 2],
    ['w', 3],
  ]);
});
