import fc from 'fast-check';
import { expect, test } from 'vitest';
import { distanceTo, nearestTo, pointOn, routeAll, type Box } from './routes';
import type { Ribbon } from './web';

const ribbon = (from: string, to: string): Ribbon => ({ key: `${from} ${to}`, from, to, stitches: [], isToHub: false, isConditional: false });
const box = (x: number, y: number): Box => ({ x, y, width: 90, height: 190 });

test('a ribbon leads on from the right to the left, back below, and beside where one stands under the other', () => {
  const boxes: Record<string, Box> = { a: box(0, 0), b: box(300, 40), c: box(20, 400) };
  const [on, back, under] = [ribbon('a', 'b'), ribbon('b', 'a'), ribbon('a', 'c')];
  const routes = routeAll([on, back, under], (id) => boxes[id] ?? null);
  expect(routes.get(on)!.slice(0, 2)[0]).toBe(90);
  expect(routes.get(on)![6]).toBe(294);
  const backward = routes.get(back)!;
  expect([backward[1], backward[7]]).toEqual([230, 196]);
  expect(backward[3]).toBeGreaterThan(230);
  expect([routes.get(under)![0], routes.get(under)![6]]).toEqual([90, 116]);
});

test('each has a port of its own, in the order of where it leads', () => {
  const boxes: Record<string, Box> = { a: box(0, 300), high: box(300, 0), middle: box(300, 300), low: box(300, 700) };
  const all = ['low', 'high', 'middle'].map((to) => ribbon('a', to));
  const routes = routeAll(all, (id) => boxes[id] ?? null);
  const begins = new Map(all.map((one) => [one.to, routes.get(one)![1]]));
  expect(begins.get('high')!).toBeLessThan(begins.get('middle')!);
  expect(begins.get('middle')!).toBeLessThan(begins.get('low')!);
  expect(routeAll([ribbon('a', 'gone')], (id) => boxes[id] ?? null).size).toBe(0);
});

test('ends are at the sides of frames, and a point on a curve is near it', () => {
  const at = fc.integer({ min: -2000, max: 2000 });
  fc.assert(
    fc.property(at, at, at, at, fc.double({ min: 0, max: 1, noNaN: true }), (ax, ay, bx, by, t) => {
      const boxes: Record<string, Box> = { a: box(ax, ay), b: box(bx, by) };
      const one = ribbon('a', 'b');
      const curve = routeAll([one], (id) => boxes[id]!).get(one)!;
      expect(curve[0]).toBeGreaterThanOrEqual(ax);
      expect(curve[0]).toBeLessThanOrEqual(ax + 90);
      expect(curve[7]).toBeGreaterThanOrEqual(by);
      expect(curve[7]).toBeLessThanOrEqual(by + 196);
      const { x, y } = pointOn(curve, t);
      expect(distanceTo(curve, x, y)).toBeLessThan(12);
      const { x: left } = boxes['a']!;
      expect(distanceTo(curve, Math.min(left, bx) - 4000, ay)).toBeGreaterThan(1000);
    })
  );
});

test('the nearest ribbon is the one that going through all of them finds', () => {
  const at = fc.integer({ min: -600, max: 600 });
  const place = fc.tuple(at, at);
  fc.assert(
    fc.property(fc.array(fc.tuple(place, place), { maxLength: 12 }), at, at, fc.integer({ min: 1, max: 300 }), (pairs, x, y, within) => {
      const boxes = new Map<string, Box>(
        pairs.flatMap(([[ax, ay], [bx, by]], i) => [[`a${i}`, box(ax, ay)] as const, [`b${i}`, box(bx, by)] as const])
      );
      const routes = routeAll(
        pairs.map((_, i) => ribbon(`a${i}`, `b${i}`)),
        (id) => boxes.get(id)!
      );
      const near = [...routes].map(([one, curve]) => [one, distanceTo(curve, x, y)] as const).filter(([, distance]) => distance < within);
      const least = Math.min(...near.map(([, distance]) => distance));
      expect(nearestTo(routes, x, y, within)).toBe(near.find(([, distance]) => distance === least)?.[0] ?? null);
    })
  );
});
