import fc from 'fast-check';
import { expect, test } from 'vitest';
import { contains, partsBeside, type Point, type Rect } from './geometry.ts';

const rect = fc.record({ x: fc.nat(20), y: fc.nat(20), width: fc.integer({ min: 1, max: 20 }), height: fc.integer({ min: 1, max: 20 }) });

test('a rectangle but for what another one covers: each point that is left is in one part, and no other is in any', () => {
  fc.assert(
    fc.property(rect, rect, (one: Rect, cover: Rect) => {
      const parts = partsBeside(one, cover);
      const points = Array.from({ length: 40 * 40 }, (_, i) => ({ x: i % 40, y: Math.floor(i / 40) }));
      const isLeft = (point: Point) => contains(one, point) && !contains(cover, point);
      const wrong = points.filter((point) => parts.filter((part) => contains(part, point)).length !== (isLeft(point) ? 1 : 0));
      expect(wrong).toEqual([]);
    })
  );
});

test('nothing is left of what is covered, and all of what is not', () => {
  const one = { x: 10, y: 10, width: 30, height: 20 };
  expect(partsBeside(one, { x: 0, y: 0, width: 100, height: 100 })).toEqual([]);
  expect(partsBeside(one, { x: 40, y: 10, width: 30, height: 20 })).toEqual([one]);
});
