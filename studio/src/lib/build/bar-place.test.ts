import fc from 'fast-check';
import { expect, test } from 'vitest';
import { placeBar } from './bar-place';

const bar = { width: 400, height: 34 };
const view = { width: 700, height: 600 };

test('stands above the selection, below where there is no room, at an edge where neither is', () => {
  expect(placeBar({ x: 100, y: 200, width: 80, height: 40 }, bar, view)).toEqual({ left: 100, top: 154 });
  expect(placeBar({ x: 100, y: 20, width: 80, height: 40 }, bar, view)).toEqual({ left: 100, top: 86 });
  expect(placeBar({ x: 600, y: 20, width: 80, height: 540 }, bar, view)).toEqual({ left: 294, top: 560 });
  expect(placeBar({ x: 100, y: -300, width: 80, height: 200 }, bar, view).top).toBe(6);
});

test('never reaches beyond the view, and covers nothing where there is room not to', () => {
  const size = fc.integer({ min: 1, max: 1500 });
  const at = fc.integer({ min: -800, max: 800 });
  fc.assert(
    fc.property(at, at, size, size, (x, y, width, height) => {
      const { left, top } = placeBar({ x, y, width, height }, bar, view);
      expect(left).toBeGreaterThanOrEqual(6);
      expect(left + bar.width).toBeLessThanOrEqual(694);
      expect(top).toBeGreaterThanOrEqual(6);
      expect(top + bar.height).toBeLessThanOrEqual(594);
      const isFree = y >= 52 || y + height <= 534;
      if (isFree) expect(top + bar.height <= y || top >= y + height).toBe(true);
    })
  );
});
