import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Transition } from '../vocabulary/transitions/all.ts';
import { parseEasing } from './easing.ts';
import { startMotion, still, placedAt, withoutMovement, type FrameMotion, type Placed } from './frames.ts';

const size = { width: 390, height: 844 };
const transition = fc.oneof(
  fc.constant({ type: 'cut' }),
  fc.record({ type: fc.constant('dissolve'), ms: fc.integer({ min: 1, max: 900 }), easing: fc.constantFrom('linear', 'ease-out') }),
  fc.record({
    type: fc.constantFrom('push', 'cover', 'wipe'),
    direction: fc.constantFrom('left', 'right', 'up', 'down'),
    ms: fc.integer({ min: 1, max: 900 }),
    easing: fc.constantFrom('linear', 'ease-in-out', 'cubic-bezier(0.3, -0.4, 0.6, 1.4)'),
  })
) as fc.Arbitrary<Transition>;

describe('moving from frame to frame', () => {
  test('ends exactly on the new frame and begins exactly with what was on screen', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('a', 'b', 'c', 'd'), transition, fc.double({ min: 0, max: 1, noNaN: true })), { maxLength: 8 }),
        (changes) => {
          let screen: Placed[] = [still('home')];
          let running: FrameMotion | null = null;
          let current = 'home';
          for (const [to, how, stop] of changes) {
            if (to === current) continue;
            const motion: FrameMotion = startMotion(screen, to, how, size, running);
            expect(placedAt(motion, motion.ms)).toEqual([still(to)]);
            if (how.type !== 'cut' && motion.ms === 0) {
              // It is at rest already, and nothing is to be seen in front of it.
              const at = screen.findIndex(({ frame }) => frame === to);
              expect(screen[at]).toEqual(still(to));
              expect(screen.slice(at + 1).filter((surface) => !isUnseen(surface))).toEqual([]);
            } else if (how.type !== 'cut') {
              const first = placedAt(motion, 0);
              const seen = screen.filter((surface) => !isUnseen(surface));
              for (const surface of seen) expect(first).toContainEqual(surface);
              // What was in front stays in front, and at the end nothing is left in front of the new one to vanish.
              const order = first.map(({ frame }) => frame);
              expect(order.filter((frame) => seen.some((one) => one.frame === frame))).toEqual(seen.map(({ frame }) => frame));
              const last = placedAt(motion, motion.ms * (1 - 1e-9));
              for (const surface of last.slice(last.findIndex(({ frame }) => frame === to) + 1)) expect(isNearlyUnseen(surface)).toBe(true);
              for (const surface of first) if (!screen.some((old) => old.frame === surface.frame)) expect(isUnseen(surface)).toBe(true);
            }
            screen = placedAt(motion, motion.ms * stop);
            running = stop < 1 && motion.ms > 0 ? motion : null;
            current = to;
          }
        }
      ),
      { numRuns: 500 }
    );
  });

  test('a push keeps frames edge to edge, also when interrupted', () => {
    const first = startMotion([still('a')], 'b', { type: 'push', direction: 'left', ms: 100, easing: 'linear' }, size);
    const half = placedAt(first, 50);
    expect(half.map(({ frame, x }) => [frame, x])).toEqual([
      ['a', -195],
      ['b', 195],
    ]);
    const second = startMotion(half, 'c', { type: 'push', direction: 'left', ms: 100, easing: 'linear' }, size);
    expect(placedAt(second, 0).map(({ x }) => x)).toEqual([-195, 195, 585]);
    const back = startMotion(half, 'a', { type: 'push', direction: 'right', ms: 100, easing: 'linear' }, size);
    expect(placedAt(back, 99.999).find(({ frame }) => frame === 'a')!.x).toBeCloseTo(0, 2);
  });

  test.each(['push', 'cover', 'uncover', 'wipe'] as const)('a way back of a %s takes the time it needs', (type) => {
    const how = (direction: 'left' | 'right') => ({ type, direction, ms: 400, easing: 'linear' }) as const;
    const there = startMotion([still('a')], 'b', how('left'), size);
    const back = startMotion(placedAt(there, 100), 'a', how('right'), size, there);
    expect(back.ms).toBeCloseTo(100, 6);
    expect(placedAt(back, 50)).toEqual(
      placedAt(there, 50).map((placed) => expect.objectContaining({ frame: placed.frame, x: expect.closeTo(placed.x, 6) }))
    );
  });

  test('an overshoot in a push never bares the ground', () => {
    const motion = startMotion([still('a')], 'b', { type: 'push', direction: 'left', ms: 300, easing: 'overshoot(0.4)' }, size);
    for (let ms = 0; ms <= 300; ms += 10) {
      const placed = placedAt(motion, ms);
      expect(Math.min(...placed.map(({ x }) => x))).toBeLessThanOrEqual(0);
      expect(Math.max(...placed.map(({ x }) => x))).toBeGreaterThanOrEqual(0);
    }
  });

  test('without movement a push is a dissolve', () => {
    expect(withoutMovement({ type: 'push', direction: 'up', ms: 250, easing: 'ease' })).toEqual({ type: 'dissolve', ms: 250, easing: 'ease' });
  });
});

const isNearlyUnseen = ({ x, y, opacity, cut }: Placed) =>
  opacity < 1e-3 ||
  Math.abs(x) > size.width - 1 ||
  Math.abs(y) > size.height - 1 ||
  cut[0] + cut[2] > size.width - 1 ||
  cut[1] + cut[3] > size.height - 1;

const isUnseen = ({ x, y, opacity, cut }: Placed) =>
  opacity === 0 || Math.abs(x) >= size.width || Math.abs(y) >= size.height || cut[0] + cut[2] >= size.width || cut[1] + cut[3] >= size.height;

describe('easing', () => {
  test.each(['ease', 'ease-in', 'ease-out', 'ease-in-out', 'linear', 'cubic-bezier(1,0,0,1)', 'linear(0, 1)'])(
    '%s begins at 0 and ends at 1',
    (text) => {
      const easing = parseEasing(text)!;
      expect(easing(0)).toBe(0);
      expect(easing(1)).toBe(1);
    }
  );

  test('known values', () => {
    expect(parseEasing('ease')!(0.5)).toBeCloseTo(0.8024, 4);
    expect(parseEasing('ease-in-out')!(0.25)).toBeCloseTo(0.1292, 3);
    expect(parseEasing('steps(4)')!(0.5)).toBe(0.5);
    expect(parseEasing('steps(4, jump-start)')!(0.01)).toBe(0.25);
    expect(parseEasing('linear(0, 0.5 20%, 1)')!(0.1)).toBeCloseTo(0.25, 10);
  });

  test.each([
    '',
    'wobble',
    'cubic-bezier(2,0,0,1)',
    'cubic-bezier(0,0,1)',
    'steps(0)',
    'steps(1, jump-none)',
    'linear(1)',
    'linear(a, b)',
    'steps(2.5)',
    'expression(1)',
  ])('refuses “%s”', (text) => expect(parseEasing(text)).toBeNull());
});
