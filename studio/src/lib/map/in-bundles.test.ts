import fc from 'fast-check';
import { expect, test } from 'vitest';
import { areBundled, inBundles } from './in-bundles';

const frame = (id: string, bundle: string | null) => ({ id, bundle, width: 90, height: 230 });

test('bundles follow each other as one comes to them, frames in their own order, those in none at the end', () => {
  const frames = [frame('loose', null), frame('p1', 'pay'), frame('p2', 'pay'), frame('h1', 'home'), frame('h2', 'home')];
  const { places } = inBundles(
    frames,
    [
      ['h1', 'p2'],
      ['p2', 'loose'],
    ],
    ['h1']
  );
  const x = (id: string) => places.get(id)!.x;
  expect(x('h1')).toBeLessThan(x('h2'));
  expect(x('h2')).toBeLessThan(x('p1'));
  expect(x('p1')).toBeLessThan(x('p2'));
  expect(places.get('loose')!.y > places.get('p1')!.y || x('loose') > x('p2')).toBe(true);
});

test('no frame stands over another or on the cloth of another bundle, and all are within the map', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom('a', 'b', 'c', 'd', null), { minLength: 1, maxLength: 60 }), (bundles) => {
      const frames = bundles.map((bundle, i) => frame(`f${i}`, bundle));
      const { places, width, height } = inBundles(frames, [], []);
      expect(places.size).toBe(frames.length);
      const cloth = (bundle: string | null) => {
        const own = frames.filter((one) => one.bundle === bundle).map(({ id }) => places.get(id)!);
        return [
          Math.min(...own.map(({ x }) => x)),
          Math.min(...own.map(({ y }) => y)),
          Math.max(...own.map(({ x }) => x)) + 90,
          Math.max(...own.map(({ y }) => y)) + 230,
        ] as const;
      };
      for (const { id, bundle } of frames) {
        const { x, y } = places.get(id)!;
        expect(x >= 0 && y >= 0 && x + 90 <= width && y + 230 <= height).toBe(true);
        for (const other of new Set(bundles)) {
          if (other === bundle) continue;
          const [left, top, right, bottom] = cloth(other);
          expect(x + 90 < left || x > right || y + 230 < top || y > bottom).toBe(true);
        }
      }
      expect(new Set([...places.values()].map(({ x, y }) => `${x} ${y}`)).size).toBe(frames.length);
    })
  );
});

test('frames count as bundled where most of them are, in more than one bundle', () => {
  expect(areBundled([frame('a', 'x'), frame('b', 'x')])).toBe(false);
  expect(areBundled([frame('a', 'x'), frame('b', 'y'), frame('c', null)])).toBe(true);
  expect(areBundled([frame('a', 'x'), frame('b', 'y'), frame('c', null), frame('d', null)])).toBe(false);
});
