import fc from 'fast-check';
import { strFromU8, strToU8, unzipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { compose } from '../../../testing/index.ts';
import type { PageParts } from '../../html.ts';
import { baked, bakedNumber } from './baked.ts';
import { lottie } from './lottie.ts';
import { areAlike, beziersOf } from './outlines.ts';

/** What keyframes say at a moment, by the rules of the format: straight from one to the next. */
function saidAt(property: ReturnType<typeof baked>, t: number): readonly number[] {
  if (property.a === 0) return [property.k].flat();
  const keys = property.k as readonly { t: number; s: readonly number[] }[];
  const next = keys.findIndex((key) => key.t >= t);
  if (next <= 0) return keys[Math.max(0, next)]!.s;
  const [a, b] = [keys[next - 1]!, keys[next]!];
  const share = (t - a.t) / (b.t - a.t);
  return a.s.map((value, i) => value + (b.s[i]! - value) * share);
}

describe('keyframes', () => {
  test('say at each moment what was there, within as much as they may be off', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: -500, max: 500 }), fc.double({ min: -1, max: 1, noNaN: true })), { minLength: 1, maxLength: 80 }),
        (moments) => {
          const property = baked(moments);
          moments.forEach((moment, t) => saidAt(property, t).forEach((value, i) => expect(Math.abs(value - moment[i]!)).toBeLessThan(0.02)));
        }
      )
    );
  });

  test('are as few as say it: one for what stays, two for a straight way', () => {
    expect(bakedNumber([5, 5, 5])).toEqual({ a: 0, k: 5 });
    expect(baked(Array.from({ length: 25 }, (_, t) => [t * 4, 7]))).toMatchObject({
      a: 1,
      k: [
        { t: 0, s: [0, 7] },
        { t: 24, s: [96, 7] },
      ],
    });
    expect((bakedNumber([0, 0, 0, 9, 9]) as unknown as { k: { t: number }[] }).k.map(({ t }) => t)).toEqual([0, 2, 3, 4]);
  });
});

describe('outlines', () => {
  test('have their points once, and handles beside them', () => {
    expect(beziersOf('M0 0L100 0L100 100L0 0Z', 50, 20)).toEqual([
      {
        c: true,
        v: [
          [0, 0],
          [50, 0],
          [50, 20],
        ],
        i: [
          [0, 0],
          [0, 0],
          [0, 0],
        ],
        o: [
          [0, 0],
          [0, 0],
          [0, 0],
        ],
      },
    ]);
    const [curve] = beziersOf('M0 0C10 20 90 20 100 0', 100, 100);
    expect(curve).toMatchObject({
      c: false,
      o: [
        [10, 20],
        [0, 0],
      ],
      i: [
        [0, 0],
        [-10, 20],
      ],
    });
    const [square] = beziersOf('M0 0Q50 60 100 0', 100, 100);
    expect(square!.o[0]!.map(Math.round)).toEqual([33, 40]);
    expect(beziersOf('M0 0H100V100Z M10 10h20v20z', 100, 100)).toHaveLength(2);
    // A whole circle of two arcs comes to at least four points.
    expect(beziersOf('M0 50A50 50 0 1 1 100 50A50 50 0 1 1 0 50Z', 100, 100)[0]!.v.length).toBeGreaterThanOrEqual(4);
  });

  test('go over into each other where they have as many points', () => {
    const [triangle, other, square] = ['M0 0L100 0L50 100Z', 'M0 0L50 0L50 50Z', 'M0 0H100V100H0Z'].map((path) => beziersOf(path, 100, 100));
    expect([areAlike([triangle!, other!]), areAlike([triangle!, square!])]).toEqual([true, false]);
  });
});

test('a file for each timeline, with its pictures in it; a piece without any says so', () => {
  const parts = { base64: () => 'AAAA' } as unknown as PageParts;
  const asset = { id: 'a'.repeat(64), name: 'boat.png', mediaType: 'image/png' as const, size: 3, width: 40, height: 20 };
  const piece = compose({
    assets: [asset],
    frames: {
      Pier: {
        size: [100, 50],
        layers: { Boat: { type: 'picture', at: [0, 0, 80, 40], asset: asset.id } },
        timeline: {
          length: 5,
          tracks: [
            [
              'Boat',
              'x',
              [
                [0, 0, 'linear'],
                [4, 20],
              ],
            ],
          ],
        },
      },
      PIER: { layers: {}, timeline: { length: 3 } },
      'Pier 2': { layers: {}, timeline: { length: 4 } },
    },
  });
  const files = unzipSync(lottie.write(piece, new Map([[asset.id, strToU8('png')]]), parts) as Uint8Array);
  expect(Object.keys(files).sort()).toEqual(['pier-2-2.json', 'pier-2.json', 'pier.json']);
  const json = JSON.parse(strFromU8(files['pier.json']!)) as { op: number; assets: object[]; layers: { ty: number; ks: { s: object } }[] };
  expect([json.op, json.assets]).toEqual([5, [{ id: 'picture_0', w: 40, h: 20, u: '', p: 'data:image/png;base64,AAAA', e: 1 }]]);
  // From the front: the picture, what moves it, the ground.
  expect(json.layers.map(({ ty }) => ty)).toEqual([2, 3, 1]);
  expect(json.layers[0]!.ks.s).toEqual({ a: 0, k: [200, 200] });
  expect(lottie.omits!(compose({ frames: { Still: { layers: {} } } }))).toEqual(['anything: it has no timeline']);
});
