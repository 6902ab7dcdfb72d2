import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { randomPiece } from '../testing/arbitrary.ts';
import { build, click, go } from '../testing/build.ts';
import { pathText } from '../result.ts';
import { pieceToJson, readPiece } from './read.ts';
import type { PieceJson } from './schema.ts';

const seeds = fc.integer({ min: 0, max: 1e9 });

const sample = (): PieceJson =>
  JSON.parse(JSON.stringify(pieceToJson(build({ home: { layers: { buy: { threads: [click(go('pay'))] } } }, pay: {} }))));

/** Changes one place of a good document and says where reading stops. */
function broken(change: (json: ReturnType<typeof sample> & Record<string, any>) => void): { path: string; sentence: string } {
  const json = sample();
  change(json);
  const read = readPiece(json);
  if (read.ok) throw new Error('was read');
  return { path: pathText(read.error.path), sentence: read.error.sentence };
}

describe('reading a piece', () => {
  test('gives back what was written', () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const json = pieceToJson(randomPiece(seed));
        const read = readPiece(JSON.parse(JSON.stringify(json)));
        expect(read.ok && pieceToJson(read.value)).toEqual(json);
      }),
      { numRuns: 60 }
    );
  });

  test.each([
    ['another format', (json: any) => (json.format = 'zany-thread/9'), 'format'],
    ['a text where a number belongs', (json: any) => (json.layers.buy.pose.x = 'left'), 'layers/buy/pose/x'],
    ['not a number', (json: any) => (json.layers.buy.pose.y = NaN), 'layers/buy/pose/y'],
    ['an endless width', (json: any) => (json.scenes.home.width = Infinity), 'scenes/home/width'],
    ['an unknown field', (json: any) => (json.layers.buy.script = 'alert(1)'), 'layers/buy/script'],
    ['a wrong colour', (json: any) => (json.layers.buy.style.fill = 'url(x)'), 'layers/buy/style/fill'],
    ['an id of the language', (json: any) => (json.layers.buy.id = '__proto__'), 'layers/buy/id'],
    ['an id under another', (json: any) => (json.layers.buy.id = 'sell'), 'layers/buy/id'],
    ['a frame that is not there', (json: any) => (json.layers.buy.scene = 'gone'), 'layers/buy/scene'],
    ['a group that is not there', (json: any) => (json.layers.buy.parent = 'gone'), 'layers/buy/parent'],
    [
      'a layer in a layer that is no group',
      (json: any) => (json.layers.other = { ...json.layers.buy, id: 'other', parent: 'buy' }),
      'layers/other/parent',
    ],
    [
      'a picture file that is not there',
      (json: any) => ((json.layers.buy.type = 'picture'), (json.layers.buy.asset = 'a'.repeat(64))),
      'layers/buy/asset',
    ],
    ['an owner that is not there', (json: any) => (json.threads['buy-t0'].owner = 'gone'), 'threads/buy-t0/owner'],
    ['a start that is not there', (json: any) => (json.start = ['gone']), 'start/0'],
    ['an unknown step', (json: any) => (json.threads['buy-t0'].branches[0].steps[0].do = 'explode'), 'threads/buy-t0/branches/0/steps/0'],
    [
      'an easing that is none',
      (json: any) => (json.threads['buy-t0'].branches[0].steps[0].transition = { type: 'dissolve', ms: 1, easing: 'wobble' }),
      'threads/buy-t0',
    ],
    ['no table', (json: any) => delete json.layers, 'layers'],
  ])('refuses %s and names the place', (_, change, path) => {
    const found = broken(change);
    expect(found.path.startsWith(path)).toBe(true);
    expect(found.sentence.length).toBeGreaterThan(10);
  });

  test('refuses groups that are inside each other, with both names', () => {
    const { sentence } = broken((json: any) => {
      json.layers.a = { ...json.layers.buy, id: 'a', name: 'Left', type: 'group', parent: 'b' };
      json.layers.b = { ...json.layers.buy, id: 'b', name: 'Right', type: 'group', parent: 'a' };
    });
    expect(sentence).toContain('Left');
    expect(sentence).toContain('Right');
  });

  test('never throws and never hangs on any JSON', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.constantFrom('scenes', 'layers', 'threads', 'assets', 'start', 'name'), (value, key) => {
        expect(readPiece(value).ok).toBe(false);
        const json = sample() as Record<string, unknown>;
        json[key] = value;
        const read = readPiece(json);
        if (!read.ok) expect(read.error.sentence).not.toBe('');
      }),
      { numRuns: 300 }
    );
  });

  test('mutations of a good document are read or refused, never half of both', () => {
    fc.assert(
      fc.property(seeds, fc.nat(), fc.jsonValue(), (seed, place, value) => {
        const json = JSON.parse(JSON.stringify(pieceToJson(randomPiece(seed)))) as Record<string, unknown>;
        mutate(json, place, value);
        const read = readPiece(json);
        if (read.ok) expect(readPiece(pieceToJson(read.value)).ok).toBe(true);
      }),
      { numRuns: 300 }
    );
  });
});

/** Puts a value at the n-th place of a document. */
function mutate(json: Record<string, unknown>, place: number, value: unknown): void {
  const places: [Record<string, unknown>, string][] = [];
  const collect = (at: Record<string, unknown>): void => {
    for (const [key, inner] of Object.entries(at)) {
      places.push([at, key]);
      if (typeof inner === 'object' && inner !== null) collect(inner as Record<string, unknown>);
    }
  };
  collect(json);
  const [at, key] = places[place % places.length]!;
  at[key] = value;
}
