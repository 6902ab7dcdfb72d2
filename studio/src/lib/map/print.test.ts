import { expect, test, vi } from 'vitest';

vi.mock('svgcanvas', () => ({ Context: class {} }));
vi.mock('$lib/shared/thumb-paint', () => ({ paintWhole: () => null }));

const { seenWhole } = await import('./print');

const box = (x: number, width: number) => ({ x, y: 0, width, height: 200 });

test('on paper a usual frame is so wide that it can be read, and all of the map is there', () => {
  const seen = seenWhole([box(0, 100), box(200, 100), box(400, 300)], { x: -40, y: -40, width: 800, height: 300 });
  expect(seen.view.scale).toBe(1.4);
  expect(100 * seenWhole([box(0, 390)], { x: 0, y: 0, width: 1, height: 1 }).view.scale).toBeCloseTo(100 * (150 / 390));
  const right = (-40 + 800) * seen.view.scale + seen.view.x;
  expect([-40 * seen.view.scale + seen.view.x, right]).toEqual([24, seen.width - 24]);
});

test('a map without frames is a sheet of paper', () => {
  expect(seenWhole([], { x: 0, y: 0, width: 1, height: 1 })).toMatchObject({ width: 49, height: 49 });
});
