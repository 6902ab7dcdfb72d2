import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Transition } from '../steps/schemas.ts';
import { parseEasing } from './easing.ts';
import { startMotion, still, placedAt, withoutMovement, type Placed } from './frames.ts';

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
          for (const [to, how, stop] of changes) {
            const motion = startMotion(screen, to, how, size);
            expect(placedAt(motion, motion.ms)).toEqual([still(to)]);
            if (how.type !== 'cut') {
              const first = placedAt(motion, 0);
              for (const surface of screen) expect(first).toContainEqual(surface);
              for (const surface of first) if (!screen.some((old) => old.frame === surface.frame)) expect(isUnseen(surface)).toBe(true);
            }
            screen = placedAt(motion, motion.ms * stop);
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

  test('without movement a push is a dissolve', () => {
    expect(withoutMovement({ type: 'push', direction: 'up', ms: 250, easing: 'ease' })).toEqual({ type: 'dissolve', ms: 250, easing: 'ease' });
  });
});

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
