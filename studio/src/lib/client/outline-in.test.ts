import { expect, test } from 'vitest';
import { outlineIn } from './outline-in';

test('an outline looks the same where it is, in the box of another layer', () => {
  const sea = { x: 0, y: 100, width: 400, height: 200 };
  expect(outlineIn(sea, 'M0 0L100 0L100 100Z', sea)).toBe('M0 0L100 0 100 100Z');
  // From 100 to 300 across, from 50 to 100 down, seen from the sea: above it.
  expect(outlineIn(sea, 'M0 0L100 100', { x: 100, y: 50, width: 200, height: 50 })).toBe('M25-25L75 0');
});

test('arcs stay arcs', () => {
  expect(outlineIn({ x: 0, y: 0, width: 100, height: 100 }, 'M0 0A50 50 0 0 1 100 0', { x: 0, y: 0, width: 200, height: 200 })).toBe(
    'M0 0A100 100 0 0 1 200 0'
  );
});
