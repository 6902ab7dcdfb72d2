import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { RAIL, Sides, type Side } from './sides.svelte';

const stored = new Map<string, string>();

beforeEach(() => {
  vi.stubGlobal('innerWidth', 1600);
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => stored.set(key, value),
  });
});

afterEach(() => {
  vi.unstubAllGlobals();
  stored.clear();
});

const columnsOf = (sides: Sides) => sides.columns((side) => !sides.isFolded(side));

test('sides open as wide as usual, and are folded to a rail', () => {
  const sides = new Sides();
  expect(columnsOf(sides)).toBe('92px 352px minmax(0,1fr) 250px');
  sides.fold('cues');
  expect(columnsOf(sides)).toBe(`92px ${RAIL}px minmax(0,1fr) 250px`);
  sides.fold('cues');
  sides.window = 1024;
  expect(columnsOf(sides)).toBe('72px 262px minmax(0,1fr) 208px');
});

test('where there is less room the side column begins folded, until somebody opens it', () => {
  vi.stubGlobal('innerWidth', 1280);
  const sides = new Sides();
  expect(columnsOf(sides)).toBe(`72px 282px minmax(0,1fr) ${RAIL}px`);
  sides.fold('beside');
  expect(new Sides().isFolded('beside')).toBe(false);
});

test('what is folded and how wide it was pulled is there again the next time; a width has its bounds', () => {
  const sides = new Sides();
  sides.fold('beside');
  sides.widen('cues', 400.4);
  sides.widen('shelf', 4000);
  sides.keep();
  const again = new Sides();
  expect([again.isFolded('beside'), again.widthOf('cues'), again.widthOf('shelf')]).toEqual([true, 400, 180]);
  again.widen('cues', null);
  again.keep();
  expect(new Sides().widthOf('cues')).toBe(352);
});

test('all is folded at once, and comes back as it was', () => {
  const sides = new Sides();
  const all: Side[] = ['shelf', 'cues', 'beside', 'strip'];
  sides.fold('strip');
  sides.foldAll();
  expect(all.every(sides.isFolded)).toBe(true);
  sides.foldAll();
  expect(all.filter(sides.isFolded)).toEqual(['strip']);
});

test('what was kept and is no such thing is passed over', () => {
  for (const broken of ['{', 'null', '7', '{"folded":"shelf","widths":{"cues":"wide","nobody":7}}', '{"folded":["nobody"],"widths":{"beside":1}}']) {
    stored.set('zany-sides', broken);
    const sides = new Sides();
    expect(columnsOf(sides)).toBe(broken.includes('beside') ? '92px 352px minmax(0,1fr) 200px' : '92px 352px minmax(0,1fr) 250px');
  }
});
