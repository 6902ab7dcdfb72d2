import { expect, test } from 'vitest';
import { compose } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { lookingBack } from './back.ts';
import { explore } from './explore.ts';

type Spec = Parameters<typeof compose>[0];

const button = (x: number, ...lines: string[]) => ({ at: [x, 0, 60, 60] as const, lines });
const asked = (spec: Spec) => {
  const found = lookingBack(compile(compose(spec)));
  return found === null ? 'all' : [...found].sort();
};

const to = (frame: string, more = '') => ({ layers: { on: button(0, `click → ${more || `go to ${frame}`}`) } });

test('it is asked where something goes back, and where a way leads there without a trace', () => {
  const home = { layers: { on: button(0, 'click → go to shop'), other: button(100, 'click → go to help') } };
  expect(asked({ frames: { home, shop: to('', 'go to back'), help: to('home') } })).toEqual(['shop']);
  expect(asked({ frames: { home, shop: to('', 'go to back'), help: to('', 'go replacing to shop') } })).toEqual(['help', 'shop']);
  expect(asked({ frames: { home, shop: to('', 'go to back'), help: to('', 'go replacing to home') } })).toEqual(['shop']);
});

test('of a sheet it is asked on the frames that carry it; of the piece, a part, or what lies over others everywhere', () => {
  const frames = { home: to('shop'), shop: { ...to('home'), over: ['Bar'] } };
  expect(asked({ sheets: { Bar: to('', 'go to back') }, frames })).toEqual(['shop']);
  expect(asked({ frames, sheets: { Bar: {} }, lines: ['key b → go to back'] })).toBe('all');
  const placed = { home: { layers: { one: { part: 'Arrow', at: [0, 0, 60, 60] as const } } }, shop: to('home') };
  expect(asked({ parts: { Arrow: to('', 'go to back') }, frames: placed })).toBe('all');
  expect(asked({ frames: { home: to('', 'lay over ask at center'), ask: to('', 'go to back') } })).toBe('all');
  expect(asked({ frames: { home: to('', 'go to shop; wait 1 s; go to back'), shop: {} } })).toBe('all');
});

test('where it is not asked, ways that differ by it alone are one; where back leads is found all the same', () => {
  const hub = (...frames: string[]) => ({
    layers: Object.fromEntries(frames.map((frame, i) => [`to ${frame}`, button(i * 70, `click → go to ${frame}`)])),
  });
  const frames = { home: hub('one', 'two', 'help'), one: hub('home', 'two', 'help'), two: hub('home', 'one', 'help'), help: to('', 'go to back') };
  const exploration = explore(compile(compose({ frames })));
  // Help is come to from three frames.
  expect([exploration.states.length, exploration.cut]).toEqual([6, null]);
  const help = exploration.states.flatMap(({ frame }, at) => (frame === 'help' ? at : []));
  const led = help.flatMap((at) => exploration.edges.endsOf(at).map((to) => exploration.states[to]!.frame));
  expect(led.sort()).toEqual(['home', 'one', 'two']);
});

test('a piece that leads on as it begins can be gone back to where it began', () => {
  const home = { states: { calm: {}, wild: {} }, lines: ['any state → if Fresh → set Fresh to false; go to shop'] };
  const shop = { layers: { on: button(0, 'click → go to back') } };
  const { cut, reached } = explore(compile(compose({ variables: { Fresh: { type: 'yes/no', initial: true } }, frames: { home, shop } })));
  expect([cut, [...reached.keys()]]).toEqual([null, ['shop', 'home']]);
});
