import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { HANDLES, pull, pullSnapped } from './handles';
import { angleFrom, distancesBetween } from './measure';
import { evenPlaces, snapEdge, snapMove } from './snap';

const box = { x: 100, y: 100, width: 80, height: 40 };

describe('handles', () => {
  test('each moves its own edges and leaves the others', () => {
    fc.assert(
      fc.property(fc.constantFrom(...HANDLES), fc.integer({ min: -60, max: 60 }), fc.integer({ min: -30, max: 30 }), (handle, dx, dy) => {
        const pulled = pull(box, handle, dx, dy, false);
        expect(pulled.x + pulled.width).toBe(handle.includes('e') ? 180 + dx : 180);
        expect(pulled.x).toBe(handle.includes('w') ? 100 + dx : 100);
        expect(pulled.y + pulled.height).toBe(handle.includes('s') ? 140 + dy : 140);
        expect(pulled.y).toBe(handle.includes('n') ? 100 + dy : 100);
      })
    );
  });

  test('a box never gets smaller than a pixel, and a corner can keep the shape', () => {
    expect(pull(box, 'e', -500, 0, false).width).toBe(1);
    expect(pull(box, 'w', 500, 0, false)).toMatchObject({ x: 179, width: 1 });
    expect(pull(box, 'se', 80, 0, true)).toMatchObject({ width: 160, height: 80 });
    expect(pull(box, 'nw', -80, 0, true)).toMatchObject({ x: 20, y: 60, width: 160, height: 80 });
  });
});

describe('stretching', () => {
  const others = [{ x: 0, y: 0, width: 390, height: 844 }];

  test('an edge near a line is caught by it, another lands on a whole pixel, and those not moved stay', () => {
    expect(pullSnapped(box, 'e', 207.6, 3, false, others, 5)).toEqual({ box: { ...box, width: 290 }, guides: [{ axis: 'x', at: 390 }] });
    expect(pullSnapped(box, 'nw', -97, -20.4, false, others, 5)).toEqual({
      box: { x: 0, y: 80, width: 180, height: 60 },
      guides: [{ axis: 'x', at: 0 }],
    });
    expect(pullSnapped(box, 's', 40, 30.3, false, others, 5)).toEqual({ box: { ...box, height: 70 }, guides: [] });
  });
});

describe('snapping', () => {
  const others = [{ x: 0, y: 0, width: 390, height: 844 }];

  test('edges and middles catch within reach and draw a guide there', () => {
    expect(snapMove({ x: 3, y: 300, width: 50, height: 20 }, others, 5)).toEqual({ dx: -3, dy: 0, guides: [{ axis: 'x', at: 0 }] });
    expect(snapMove({ x: 168, y: 300, width: 50, height: 20 }, others, 5)).toMatchObject({ dx: 2 });
    expect(snapMove({ x: 60, y: 300, width: 50, height: 20 }, others, 5)).toEqual({ dx: 0, dy: 0, guides: [] });
    expect(snapEdge(387, others, 'x', 5)).toEqual({ value: 390, guide: { axis: 'x', at: 390 } });
    expect(snapEdge(340, others, 'x', 5)).toEqual({ value: 340, guide: null });
  });
});

describe('even gaps', () => {
  const row = [
    { x: 20, y: 100, width: 50, height: 40 },
    { x: 90, y: 100, width: 50, height: 40 },
  ];

  test('a box catches where it is as far from its neighbours as they are from each other', () => {
    expect(snapMove({ x: 162, y: 110, width: 50, height: 40 }, row, 5)).toMatchObject({ dx: -2 });
    expect(evenPlaces({ x: 0, y: 110, width: 30, height: 20 }, row, 'x')).toEqual([160, -30, 65]);
    expect(evenPlaces({ x: 0, y: 300, width: 30, height: 20 }, row, 'x')).toEqual([]);
  });
});

describe('measuring', () => {
  test('says how far boxes are apart, or how they lie in each other', () => {
    expect(distancesBetween(box, { x: 200, y: 110, width: 20, height: 20 })).toEqual([
      { axis: 'x', from: 180, to: 200, at: 120 },
      { axis: 'y', from: 100, to: 110, at: 190 },
      { axis: 'y', from: 130, to: 140, at: 190 },
    ]);
    expect(distancesBetween(box, { x: 0, y: 0, width: 390, height: 844 }).map(({ axis, from, to }) => [axis, from, to])).toEqual([
      ['x', 0, 100],
      ['x', 180, 390],
      ['y', 0, 100],
      ['y', 140, 844],
    ]);
    expect(distancesBetween(box, box)).toEqual([]);
  });

  test('turns by the pointer, in steps where they are asked for', () => {
    const middle = { x: 50, y: 50 };
    expect(angleFrom(middle, { x: 50, y: 0 })).toBe(0);
    expect(angleFrom(middle, { x: 100, y: 50 })).toBe(90);
    expect(angleFrom(middle, { x: 50, y: 100 })).toBe(180);
    expect(angleFrom(middle, { x: 58, y: 0 }, 15)).toBe(15);
  });
});
