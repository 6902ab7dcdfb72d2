import { expect, test } from 'vitest';
import { inColumns } from './columns';
import type { LayoutTask } from './layout';
import { laidUnder, withThoseUnder } from './under';

const stitch = (from: string, to: string, isLaid = false) => ({ from, to, isLaid });
const none = () => null;

test('what is only laid over one frame stands under it; what is gone to, begins, or is laid over several, does not', () => {
  const all = [stitch('home', 'menu', true), stitch('home', 'menu', true), stitch('home', 'pay'), stitch('menu', 'pay'), stitch('menu', 'ask', true)];
  expect([...laidUnder(all, [], none)]).toEqual([
    ['menu', 'home'],
    ['ask', 'menu'],
  ]);
  expect(laidUnder([...all, stitch('pay', 'menu', true)], [], none).has('menu')).toBe(false);
  expect(laidUnder([...all, stitch('pay', 'menu')], [], none).has('menu')).toBe(false);
  expect(laidUnder(all, ['menu'], none).has('menu')).toBe(false);
  expect(laidUnder(all, [], (frame) => (frame === 'home' ? 'a' : 'b')).has('menu')).toBe(false);
  // Two that lie over each other, and nothing else leads to.
  expect(laidUnder([stitch('a', 'b', true), stitch('b', 'a', true)], [], none).size).toBeLessThan(2);
});

const frame = (id: string, width = 100, height = 200) => ({ id, width, height, bundle: null });

test('they stand below it side by side, over nothing else', () => {
  const frames = [frame('home'), frame('menu', 90, 60), frame('ask', 80, 50), frame('pay'), frame('far')];
  const links = [
    ['home', 'menu'],
    ['menu', 'ask'],
    ['menu', 'pay'],
    ['home', 'far'],
  ] as const;
  const under = new Map([
    ['menu', 'home'],
    ['ask', 'menu'],
  ]);
  const { places, width, height } = withThoseUnder({ frames, links, under }, (task) => inColumns(task.frames, task.links, ['home']));
  const home = places.get('home')!;
  expect(places.get('menu')).toEqual({ x: home.x + 26, y: home.y + 216 });
  expect(places.get('ask')).toEqual({ x: home.x + 26 + 90 + 16, y: home.y + 216 });
  const boxes = frames.map(({ id, width: w, height: h }) => ({ id, ...places.get(id)!, w, h }));
  for (const a of boxes) {
    expect(a.x + a.w <= width && a.y + a.h <= height, a.id).toBe(true);
    for (const b of boxes)
      if (a.id < b.id) expect(a.x + a.w <= b.x || b.x + b.w <= a.x || a.y + a.h <= b.y || b.y + b.h <= a.y, `${a.id} ${b.id}`).toBe(true);
  }
  // What leads on from what lies over leads on from the frame.
  expect(places.get('pay')!.x).toBeGreaterThan(home.x + 100);
});

test('without any it is what it was', () => {
  const frames = [frame('a'), frame('b')];
  const task = { frames, links: [['a', 'b']] } as const;
  const layout = (one: Pick<LayoutTask, 'frames' | 'links'>) => inColumns(one.frames, one.links, ['a']);
  expect(withThoseUnder({ ...task, under: new Map() }, layout)).toEqual(layout(task));
});
