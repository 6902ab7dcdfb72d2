import fc from 'fast-check';
import { expect, test } from 'vitest';
import { inColumns } from './columns';

const size = { width: 240, height: 500, bundle: null };
const frames = (count: number) => Array.from({ length: count }, (_, i) => ({ id: `f${i}`, ...size }));

test('a frame stands to the right of those fewer steps from the start', () => {
  const { places } = inColumns(
    frames(5),
    [
      ['f0', 'f2'],
      ['f2', 'f1'],
      ['f0', 'f3'],
      ['f1', 'f0'],
    ],
    ['f0']
  );
  const x = (id: string) => places.get(id)!.x;
  expect(x('f0')).toBeLessThan(x('f2'));
  expect(x('f2')).toBe(x('f3'));
  expect(x('f2')).toBeLessThan(x('f1'));
  expect(x('f4')).toBe(x('f0'));
});

test('hundreds of frames with thousands of links are placed at once, each once, none over another, in the shape of a desk', () => {
  const link = fc.tuple(fc.nat(299), fc.nat(299)).map(([a, b]) => [`f${a}`, `f${b}`] as const);
  fc.assert(
    fc.property(fc.array(link, { minLength: 1500, maxLength: 2000, size: 'max' }), (links) => {
      const { places, width, height } = inColumns(frames(300), links, ['f7']);
      expect(places.size).toBe(300);
      expect(width / height).toBeGreaterThan(0.7);
      expect(width / height).toBeLessThan(3);
      const taken = [...places.values()];
      const touches = (a: (typeof taken)[number]) => (b: typeof a) =>
        a !== b && Math.abs(a.x - b.x) < size.width && Math.abs(a.y - b.y) < size.height;
      expect(taken.filter((a) => a.x < 0 || a.y < 0 || a.x + size.width > width || a.y + size.height > height)).toEqual([]);
      expect(taken.filter((a) => taken.some(touches(a)))).toEqual([]);
    }),
    { numRuns: 5 }
  );
});

test('no frames, or frames that nothing leads to', () => {
  expect(inColumns([], [], []).places.size).toBe(0);
  expect(inColumns(frames(3), [], ['gone']).places.size).toBe(3);
});
