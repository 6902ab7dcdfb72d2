import fc from 'fast-check';
import { expect, test } from 'vitest';
import { withRoom, type Label } from './labels';

const label = (key: string, x: number, weight: number): Label => ({ key, x, y: 0, width: 40, height: 16, weight });

test('of two labels in one place the weightier stands, whatever their order', () => {
  expect([...withRoom([label('a', 0, 1), label('b', 30, 2), label('c', 75, 1)])].sort()).toEqual(['b', 'c']);
  expect([...withRoom([label('b', 30, 2), label('a', 0, 1)])]).toEqual(['b']);
});

test('none stands over another, and each that is left out would', () => {
  const size = fc.integer({ min: 1, max: 200 });
  const at = fc.integer({ min: -300, max: 300 });
  const labels = fc.array(fc.record({ x: at, y: at, width: size, height: size, weight: fc.integer({ min: 0, max: 5 }) }), { maxLength: 30 });
  const over = (a: Label, b: Label) => a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
  fc.assert(
    fc.property(labels, (list) => {
      const all = list.map((one, i): Label => ({ ...one, key: String(i) }));
      const kept = withRoom(all);
      const shown = all.filter(({ key }) => kept.has(key));
      for (const a of shown) for (const b of shown) if (a !== b) expect(over(a, b)).toBe(false);
      for (const one of all) if (!kept.has(one.key)) expect(shown.some((other) => over(one, other) && other.weight >= one.weight)).toBe(true);
    })
  );
});
