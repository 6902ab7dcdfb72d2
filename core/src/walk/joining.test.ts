import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { joined } from './joining.ts';
import { dueFirst, holds, inOrder, isInside, later, NOTHING_WAITS, started, without, type Zone } from './zones.ts';

/** What waits after some things were begun one after the other, each at any moment, in the order of their numbers. */
const begunInTurn = (...turns: readonly (readonly [wait: number, span: number])[]): Zone => {
  const zone = turns.reduce((before, [wait, span]) => later(started(before, [{ wait, span }])), NOTHING_WAITS);
  const places = [...zone.waits.keys()].sort((a, b) => zone.waits[a]! - zone.waits[b]! || a - b);
  return inOrder(zone, places);
};
const ordersOf = <T>(all: readonly T[]): T[][] =>
  all.length === 0 ? [[]] : all.flatMap((one, i) => ordersOf(all.filter((_, j) => j !== i)).map((rest) => [one, ...rest]));

/** All whole times up to so many that can be left of so many things. */
const times = (count: number, most: number): number[][] =>
  count === 0 ? [[]] : times(count - 1, most).flatMap((rest) => Array.from({ length: most + 1 }, (_, time) => [time, ...rest]));

describe('zones that are one together', () => {
  test('two things begun in either order are one zone, in which neither is left for longer', () => {
    const [one, other] = [begunInTurn([0, 20], [1, 20]), begunInTurn([1, 20], [0, 20])];
    const both = joined(other, [one], [one]);
    expect([isInside(one, both), isInside(other, both)]).toEqual([true, true]);
    expect([holds(both, [20, 3]), holds(both, [3, 20]), holds(both, [11, 11])]).toEqual([true, true, true]);
    expect([holds(one, [20, 3]), holds(other, [3, 20])]).toEqual([false, false]);
  });

  test.each([3, 4])('all orders of %i things are one zone once the last of them is there, and not before', (count) => {
    const orders = ordersOf(Array.from({ length: count }, (_, wait) => [wait, 20] as const)).map((order) => begunInTurn(...order));
    const [last, ...others] = orders.reverse() as [Zone, ...Zone[]];
    const all = joined(last, others, others);
    expect(orders.every((one) => isInside(one, all))).toBe(true);
    const box = times(count, 4).filter((way) => way.every((time) => time > 0));
    expect(
      box.every((way) =>
        holds(
          all,
          way.map((time) => time * 5)
        )
      )
    ).toBe(true);
    const some = others.slice(0, -1);
    expect(orders.every((one) => isInside(one, joined(last, some, some)))).toBe(false);
  });

  test('what is left out by a gap is not taken in', () => {
    const begun = started(NOTHING_WAITS, [{ wait: 0, span: 20 }]);
    // More than one unit is left of it, and less than 8; more than 12, and up to 20; 8 to 12.
    const [soon, late, between] = [
      [1, -2, 16, 1],
      [1, -24, 41, 1],
      [1, -15, 25, 1],
    ].map((bounds): Zone => ({ ...begun, bounds })) as unknown as [Zone, Zone, Zone];
    expect(joined(soon, [late], [late])).toEqual(soon);
    expect(joined(between, [soon, late], [soon, late]).bounds).toEqual([1, -2, 41, 1]);
  });

  test('no way is taken in that is in none of them', () => {
    const turn = fc.tuple(fc.integer({ min: 0, max: 2 }), fc.constantFrom(3, 4, 5));
    // Each begun in some order, and one of them perhaps due again and begun anew since.
    const zones = fc
      .tuple(fc.array(fc.array(turn, { minLength: 3, maxLength: 5 }), { minLength: 2, maxLength: 6 }))
      .map(([all]) => all.map((turns) => [...new Map(turns).entries()]).filter((turns) => turns.length === 3));
    fc.assert(
      fc.property(zones, fc.nat(), (turns, seed) => {
        const spans = [3 + (seed % 3), 3 + ((seed >> 2) % 3), 3 + ((seed >> 4) % 3)];
        const all = turns.flatMap((order, i): Zone[] => {
          const zone = begunInTurn(...order.map(([wait]) => [wait, spans[wait]!] as const));
          const due = (seed >> i) % 2 === 0 ? null : dueFirst(zone, 0, () => true);
          return due ? [begunAnew(due, spans[0]!)] : [zone];
        });
        const [first, ...others] = all;
        if (!first) return;
        const wide = joined(first, others, others);
        expect(isInside(first, wide)).toBe(true);
        for (const way of times(3, 10).map((all) => all.map((time) => time / 2)))
          if (holdsExactly(wide, way)) expect(all.some((one) => holdsExactly(one, way))).toBe(true);
      }),
      { numRuns: 150 }
    );
  });
});

/** The first of what waits, being due, begun anew at any moment. */
const begunAnew = (due: Zone, span: number): Zone => {
  const zone = later(started(later(without(due, (i) => i === 0)), [{ wait: 0, span }]));
  const places = [...zone.waits.keys()].sort((a, b) => zone.waits[a]! - zone.waits[b]!);
  return inOrder(zone, places);
};

/** As `holds`, to the unit. */
const holdsExactly = ({ waits, bounds }: Zone, left: readonly number[]): boolean => {
  const all = [0, ...left];
  const size = waits.length + 1;
  return all.every((a, i) =>
    all.every((b, j) => {
      const bound = bounds[i * size + j]!;
      return bound % 2 === 0 ? a - b < bound / 2 : a - b <= (bound - 1) / 2;
    })
  );
};
