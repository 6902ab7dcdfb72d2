import { strToU8, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { apply } from '../../../edit/apply.ts';
import { emptyPiece, layersUnder, scenesOf, type Asset } from '../../../piece/piece.ts';
import { compile } from '../../../program/compile.ts';
import type { Program } from '../../../program/program.ts';
import { unwrap } from '../../../result.ts';
import { boundsOf } from '../../../run/resolve.ts';
import { stillScreen } from '../../../run/still.ts';
import { compose, type ComposeSpec } from '../../../testing/index.ts';
import { animationOf } from '../../exports/lottie/animation.ts';
import { importFor } from '../all.ts';
import { fromBase64 } from './base64.ts';
import { lottieAnimation } from './lottie.ts';

const empty = emptyPiece({ id: 'p', name: 'P', width: 390, height: 844, start: [] });

function read(json: object, assets = new Map<string, Asset>()) {
  let made = 0;
  const came = unwrap(lottieAnimation.read(empty, strToU8(JSON.stringify(json)), () => `n${++made}`, assets));
  const piece = unwrap(apply(empty, came.operations)).piece;
  const [part] = scenesOf(piece, 'part');
  return { came, piece, part: part!, program: compile(piece) };
}

/** What is painted at a timeline frame: its colour, how opaque it is with all around it, and where it is. */
function painted(program: Program, scene: string, frame: number) {
  const { surfaces } = stillScreen(program, scene, { frame })!;
  return surfaces
    .flatMap(({ all }) => all)
    .filter(({ node, style }) => node.layer.type !== 'group' && style.fill)
    .map((shown) => {
      let opacity = 1;
      for (let one: typeof shown | null = shown; one; one = one.parent) opacity *= one.opacity;
      return { fill: shown.style.fill!, opacity, ...boundsOf(shown) };
    })
    .filter(({ opacity }) => opacity > 0.001)
    .sort((a, b) => (a.fill.slice(0, 7) < b.fill.slice(0, 7) ? -1 : 1));
}

const spec: ComposeSpec = {
  size: [240, 160],
  fps: 24,
  parts: {
    Gull: {
      size: [40, 40],
      background: '#ffffff00',
      layers: { Wing: { at: [15, 0, 10, 20], style: { fill: '#1f4e5f' } } },
      timeline: {
        length: 10,
        loop: true,
        tracks: [
          [
            'Wing',
            'y',
            [
              [0, 0, 'linear'],
              [9, 18],
            ],
          ],
        ],
      },
    },
  },
  frames: {
    Sea: {
      size: [240, 160],
      background: '#ffffff00',
      layers: {
        Boat: { at: [10, 60, 40, 30], style: { fill: '#0b7a75', corner: 6 } },
        Sun: { at: [180, 10, 40, 40], type: 'oval', style: { fill: '#b23a26' } },
        Sail: { at: [90, 20, 60, 60], type: 'path', path: 'M50 0L100 100L0 100Z', style: { fill: '#6d3a7c' } },
        Birds: { at: [60, 90, 80, 80], type: 'placement', part: 'Gull' },
        Late: { at: [0, 0, 20, 20], style: { fill: '#26232c' } },
      },
      timeline: {
        length: 24,
        labels: { Ebb: [0, 'go on'], Flood: [12, 'hold'] },
        spans: [['Late', 12, 17]],
        tracks: [
          [
            'Boat',
            'x',
            [
              [0, 10, 'ease-in-out'],
              [23, 150],
            ],
          ],
          [
            'Boat',
            'rotation',
            [
              [0, 0, 'spring(0.4)'],
              [23, 45],
            ],
          ],
          [
            'Sun',
            'opacity',
            [
              [0, 1, 'linear'],
              [23, 0.2],
            ],
          ],
          [
            'Sail',
            'scale',
            [
              [0, 1, 'ease-out'],
              [23, 1.5],
            ],
          ],
        ],
      },
    },
  },
};

describe('animations', () => {
  test('that were written from a timeline are at each timeline frame what that is', () => {
    const program = compile(compose(spec));
    const [sea] = program.frames;
    const json = animationOf(program, program.scenes.get(sea!)!.scene, { picture: () => null });
    const { part, program: after, came } = read(json);
    expect(came.left).toEqual([]);
    expect(part).toMatchObject({ name: 'Sea', width: 240, height: 160, timeline: { length: 24 } });
    expect(Object.values(part.timeline!.labels!).map(({ name, time }) => [name, time])).toEqual([
      ['Ebb', 0],
      ['Flood', 12],
    ]);
    for (let frame = 0; frame < 24; frame++) {
      const [was, is] = [painted(program, sea!, frame), painted(after, part.id, frame)];
      expect(
        is.map(({ fill }) => fill),
        `timeline frame ${frame}`
      ).toEqual(was.map(({ fill }) => fill));
      for (const [i, one] of was.entries())
        for (const side of ['x', 'y', 'width', 'height', 'opacity'] as const)
          expect(Math.abs(is[i]![side] - one[side]), `${one.fill}, ${side}, timeline frame ${frame}`).toBeLessThan(side === 'opacity' ? 0.02 : 0.6);
    }
  });

  const shape = (items: object[], more: object = {}) => ({
    fr: 24,
    ip: 0,
    op: 24,
    w: 100,
    h: 100,
    nm: 'One',
    layers: [{ ty: 4, ind: 1, nm: 'Shape', ip: 0, op: 24, st: 0, ks: {}, shapes: items, ...more }],
  });
  const at = (value: unknown) => ({ a: 0, k: value });
  const red = { ty: 'fl', c: at([0.698, 0.227, 0.149, 1]), o: at(100) };

  test('as others write them: curves between keys, holds, ends in the key, sides apart, groups, lines on the edge', () => {
    const eased = { a: 1, k: [{ t: 0, s: [0, 0], e: [80, 0], i: { x: 0.58, y: 1 }, o: { x: 0.42, y: 0 } }, { t: 20 }] };
    const { piece, part } = read(
      shape(
        [
          {
            ty: 'gr',
            nm: 'Wheel',
            it: [
              { ty: 'el', s: at([20, 20]), p: eased },
              { ty: 'st', c: at([0, 0, 0, 1]), o: at(50), w: at(4) },
              red,
              { ty: 'tr', p: at([10, 30]), a: at([0, 0]), s: at([100, 100]), r: at(0), o: at(100) },
            ],
          },
          { ty: 'tm', s: at(0), e: at(100) },
        ],
        {
          ks: {
            p: {
              s: true,
              x: at(5),
              y: {
                a: 1,
                k: [
                  { t: 0, s: [1], h: 1 },
                  { t: 12, s: [9] },
                ],
              },
            },
          },
        }
      )
    );
    const layers = [...piece.layers.values()];
    const wheel = layers.find(({ type }) => type === 'oval')!;
    // The line lies half outside of what it goes round.
    expect(wheel).toMatchObject({
      pose: { x: -12, y: -12, width: 24, height: 24 },
      style: { fill: '#b23a26', line: { color: '#00000080', width: 4 } },
    });
    const program = compile(piece);
    const x = (frame: number) => painted(program, part.id, frame).map((one) => Math.round(one.x + 12))[0]!;
    expect([x(0), x(20), x(23)]).toEqual([15, 95, 95]);
    // Slow at both ends: by half of the time half of the way, by a quarter less than that.
    expect(Math.abs(x(10) - 55)).toBeLessThan(2);
    expect(x(5)).toBeLessThan(32);
    const y = (frame: number) => Math.round(painted(program, part.id, frame)[0]!.y);
    expect([y(0), y(11), y(12)]).toEqual([19, 19, 27]);
  });

  test('compositions in them, parents, pictures and words', () => {
    const asset: Asset = { id: 'a'.repeat(64), name: 'boat.png', mediaType: 'image/png', size: 3, width: 4, height: 3 };
    const json = {
      fr: 12,
      ip: 0,
      op: 12,
      w: 100,
      h: 100,
      assets: [
        { id: 'boat', w: 40, h: 30, p: 'data:image/png;base64,cG5n', e: 1 },
        {
          id: 'inside',
          layers: [
            {
              ty: 1,
              ind: 1,
              sw: 10,
              sh: 10,
              sc: '#0B7A75',
              ip: 0,
              op: 6,
              ks: {
                p: {
                  a: 1,
                  k: [
                    { t: 0, s: [0, 0], i: { x: 1, y: 1 }, o: { x: 0, y: 0 } },
                    { t: 5, s: [50, 0] },
                  ],
                },
              },
            },
          ],
        },
      ],
      layers: [
        { ty: 2, ind: 1, nm: 'Boat', refId: 'boat', ip: 0, op: 12, parent: 9, ks: {} },
        { ty: 0, ind: 2, nm: 'Inner', refId: 'inside', w: 100, h: 100, ip: 0, op: 12, st: 2, ks: { p: at([0, 60]) } },
        {
          ty: 5,
          ind: 3,
          nm: 'Word',
          ip: 0,
          op: 12,
          ks: { p: at([50, 50]) },
          t: { d: { k: [{ t: 0, s: { s: 20, f: 'x', t: 'Ahoy\rthere {you}', j: 2, fc: [0, 0, 0], lh: 24 } }] } },
        },
        { ty: 3, ind: 9, ks: { p: at([20, 10]), s: at([50, 50]) } },
      ],
    };
    expect([...unwrap(lottieAnimation.pictures!(strToU8(JSON.stringify(json))))]).toEqual([['boat.png', strToU8('png')]]);
    const { piece, part, program, came } = read(json, new Map([['boat.png', asset]]));
    expect(came.left).toEqual([]);
    // Twelve a second there are twenty-four here.
    expect(part.timeline!.length).toBe(24);
    const boat = [...piece.layers.values()].find(({ type }) => type === 'picture')!;
    expect([boat.asset, boat.pose.width, piece.layers.get(boat.parent!)!.pose]).toMatchObject([asset.id, 40, { x: 20, y: 10, scale: 0.5 }]);
    expect([...piece.layers.values()].find(({ type }) => type === 'text')).toMatchObject({
      text: 'Ahoy\nthere \\{you}',
      letters: { size: 20, align: 'center', leading: 1.2 },
    });
    const sea = (frame: number) => painted(program, part.id, frame).map(({ x, y }) => [Math.round(x), Math.round(y)]);
    // It begins two frames later there, four here, and is gone after six.
    expect([sea(3), sea(4), sea(14), sea(16)]).toEqual([[], [[0, 60]], [[50, 60]], []]);
    expect(layersUnder(piece, part.id, null).map(({ name }) => name)).toEqual(['Word', 'Inner', 'Boat']);
  });

  test('what has no place is left by name', () => {
    const { came } = read(
      shape(
        [
          { ty: 'rc', s: at([10, 10]), p: at([0, 0]) },
          { ty: 'gf', g: { p: 2, k: at([0, 1, 0, 0, 1, 0, 0, 1]) }, o: at(100) },
          { ty: 'rp' },
          { ty: 'sr' },
        ],
        { ef: [{}], masksProperties: [{}], ks: { s: at([100, 50]) } }
      )
    );
    expect(came.left).toEqual([
      'Shape: its masks',
      'Shape: its effects',
      'Shape: that it is stretched or turned over: it grows alike in width and height',
      'Shape: its shades; it has one colour',
      'Shape: a part of it that is made by others (rp)',
      'Shape: a star',
    ]);
  });

  test('a file is told by what is in it where others have its ending', () => {
    const animation = strToU8(JSON.stringify(shape([])));
    const tokens = strToU8('{"sea": {"$type": "color", "$value": "#0b7a75"}}');
    expect([importFor('a.json', animation)!.kind, importFor('a.json', tokens)!.kind, importFor('a.json')!.kind]).toEqual([
      'lottie',
      'tokens',
      'tokens',
    ]);
  });

  test('what is none is refused with a sentence; damaged ones are refused or can be applied', () => {
    const sentence = (text: string) => {
      const result = lottieAnimation.read(empty, strToU8(text), () => 'x', new Map());
      return result.ok ? 'read' : result.error.sentence;
    };
    expect(sentence('hm')).toMatch(/no JSON/);
    expect(sentence('{}')).toBe('This holds no animation: it has no layers.');
    const good = JSON.stringify(
      shape([
        {
          ty: 'gr',
          it: [
            {
              ty: 'rc',
              s: {
                a: 1,
                k: [
                  { t: 0, s: [10, 10] },
                  { t: 9, s: [40, 20] },
                ],
              },
              p: at([5, 5]),
              r: at(2),
            },
            red,
          ],
        },
      ])
    );
    let seed = 5;
    const random = (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below;
    let refused = 0;
    for (let i = 0; i < 1000; i++) {
      const place = random(good.length);
      const broken = good.slice(0, place) + (i % 2 ? String(random(10)) : String.fromCharCode(32 + random(95))) + good.slice(place + 1);
      let made = 0;
      const result = lottieAnimation.read(empty, strToU8(broken), () => `n${++made}`, new Map());
      if (!result.ok) refused++;
      else expect(apply(empty, result.value.operations), broken).toMatchObject({ ok: true });
    }
    expect(refused).toBeGreaterThan(100);
    expect(refused).toBeLessThan(1000);
  });
});

test('base64 is read as others write it', () => {
  const written = { '': '', f: 'Zg==', fo: 'Zm8=', foo: 'Zm9v', foob: 'Zm9vYg==', fooba: 'Zm9vYmE=', foobar: 'Zm9vYmFy' };
  for (const [text, coded] of Object.entries(written)) expect(fromBase64(coded)).toEqual(strToU8(text));
  expect(fromBase64('a*b')).toBeNull();
});

describe('in a zip', () => {
  const animation = {
    op: 10,
    ip: 0,
    fr: 24,
    w: 40,
    h: 40,
    nm: 'Gull',
    layers: [],
    assets: [{ id: 'sea', w: 9, h: 9, u: '/i/', p: 'sea.png', e: 0 }],
  };
  const text = (json: object) => strToU8(JSON.stringify(json));
  const second = (more: Record<string, Uint8Array> = {}) =>
    zipSync({
      'manifest.json': text({ version: '2', animations: [{ id: 'gull' }, { id: 'boat' }] }),
      'a/boat.json': text(animation),
      'a/gull.json': text(animation),
      ...more,
    });
  const readIn = (bytes: Uint8Array) =>
    lottieAnimation.read(
      empty,
      bytes,
      (
        (made) => () =>
          `n${++made}`
      )(0),
      new Map()
    );

  test('the first that its manifest names comes in, with its pictures; the others are named', () => {
    const bytes = second({ 'i/sea.png': new Uint8Array([1, 2, 3]) });
    expect(importFor('gull.lottie', bytes)).toBe(lottieAnimation);
    expect([...unwrap(lottieAnimation.pictures!(bytes))]).toEqual([['sea.png', new Uint8Array([1, 2, 3])]]);
    const came = unwrap(readIn(bytes));
    expect(came.made).toEqual(['the part Gull with 0 layers']);
    expect(came.left).toContain('the animation boat, which is in the same file');
  });

  test('the first version of the form, and one without a manifest', () => {
    const old = zipSync({ 'animations/gull.json': text(animation), 'images/sea.png': new Uint8Array([4]) });
    expect([...unwrap(lottieAnimation.pictures!(old))]).toEqual([['sea.png', new Uint8Array([4])]]);
    expect(unwrap(readIn(old)).left.filter((line) => line.includes('same file'))).toEqual([]);
    expect(readIn(zipSync({ 'manifest.json': strToU8('{'), 'a/x.json': text(animation) })).ok).toBe(true);
  });

  test('what holds none, or cannot be unpacked, says so', () => {
    const said = (bytes: Uint8Array) => {
      const read = readIn(bytes);
      return read.ok ? '' : read.error.sentence;
    };
    expect(said(zipSync({ 'manifest.json': text({}) }))).toMatch(/holds no animation: there is none in its folders/);
    expect(said(zipSync({ 'a/x.json': text({ layers: 3 }) }))).toMatch(/it has no layers/);
    expect(said(second().slice(0, 60))).toMatch(/cannot be unpacked/);
  });
});
