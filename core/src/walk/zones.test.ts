import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  dueFirst,
  isDueNow,
  earliest,
  holds,
  isInside,
  isReached,
  later,
  mostLeft,
  NOTHING_WAITS,
  soonest,
  started,
  without,
  type Zone,
} from './zones.ts';

const anyone = () => false;
const begin = (...spans: number[]): Zone =>
  started(
    NOTHING_WAITS,
    spans.map((span, wait) => ({ wait, span }))
  );
/** What can be due first. */
const firsts = (zone: Zone) => zone.waits.filter((_, i) => dueFirst(zone, i, anyone) !== null);

describe('zones', () => {
  test('what began together is due in the order of how long it takes', () => {
    const zone = later(begin(20, 30));
    expect(firsts(zone)).toEqual([0]);
    const then = without(dueFirst(zone, 0, anyone)!, (i) => i === 0);
    expect([then.waits, soonest(then)]).toEqual([[1], [10]]);
  });

  test('what was begun at any moment before something is due can be due before it or after it', () => {
    const zone = later(started(later(begin(20)), [{ wait: 1, span: 10 }]));
    expect(firsts(zone)).toEqual([0, 1]);
    const longer = later(started(later(begin(20)), [{ wait: 1, span: 25 }]));
    expect(firsts(longer)).toEqual([0]);
  });

  test('things that are due at one moment come in an order: one that is behind waits for the other to be gone', () => {
    const zone = later(begin(20, 20));
    expect([dueFirst(zone, 0, anyone), dueFirst(zone, 1, (i) => i === 0)].map((one) => one !== null)).toEqual([true, false]);
    const then = dueFirst(zone, 0, anyone)!;
    expect([0, 1].map((i) => isDueNow(then, i))).toEqual([true, true]);
    const rest = without(then, (i) => i === 0);
    expect(later(rest)).toBe(rest);
  });

  test('the most that is left of something that another one had to come before is a bit less', () => {
    const zone = later(started(later(begin(20)), [{ wait: 1, span: 20 }]));
    const after = later(without(dueFirst(zone, 0, anyone)!, (i) => i === 0));
    expect([mostLeft(after, 0), isReached(after, 0)]).toEqual([19, false]);
    expect([mostLeft(zone, 0), isReached(zone, 0)]).toEqual([20, true]);
  });

  test('as little time as can be has passed where that is asked for', () => {
    const zone = later(begin(20, 30));
    const then = earliest(zone, [0]);
    expect(soonest(then)).toEqual([20, 30]);
    expect([holds(then, [20, 30]), holds(then, [10, 20]), holds(zone, [10, 20]), holds(zone, [10, 30])]).toEqual([true, false, true, false]);
    expect(earliest(zone, [])).toBe(zone);
  });

  test('a zone in which time has passed is wider than the moment it began with', () => {
    const zone = begin(20, 30);
    expect([isInside(zone, later(zone)), isInside(later(zone), zone)]).toEqual([true, false]);
    expect(later(NOTHING_WAITS)).toBe(NOTHING_WAITS);
    expect(started(zone, [])).toBe(zone);
    expect(without(zone, anyone)).toBe(zone);
  });
});

/** What somebody does: begins one more thing, after so long, or lets what is due next come. */
type Deed = { readonly after: number; readonly span: number } | 'next';

const deeds = fc.array(
  fc.oneof(fc.record({ after: fc.integer({ min: 0, max: 12 }), span: fc.integer({ min: 1, max: 20 }) }), fc.constant('next' as const)),
  { maxLength: 8 }
);

test('whatever is done when, what is left of everything lies in the zone of what was done', () => {
  fc.assert(
    fc.property(deeds, (all: Deed[]) => {
      let zone = NOTHING_WAITS;
      let left: number[] = [];
      all.forEach((deed, wait) => {
        const least = Math.min(...left);
        if (deed === 'next') {
          if (left.length === 0) return;
          const at = left.indexOf(least);
          const then = dueFirst(zone, at, (j) => j < at);
          expect(then).not.toBeNull();
          left = left.map((one) => one - least).filter((_, i) => i !== at);
          zone = later(without(then!, (i) => i === at));
        } else {
          // Less than until something is due.
          const passed = Math.min(deed.after, Math.max(0, least - 1));
          if (left.length && passed >= least) return;
          left = [...left.map((one) => (left.length ? one - passed : one)), deed.span];
          zone = later(started(zone, [{ wait, span: deed.span }]));
        }
        expect(zone.waits.length).toBe(left.length);
        expect(holds(zone, left)).toBe(true);
      });
    }),
    { numRuns: 300 }
  );
});
