import { compile } from '@zany/core';
import { compose, type ComposeSpec } from '@zany/core/testing';
import { expect, test } from 'vitest';
import { around, webOf } from './web';

const webFor = (spec: ComposeSpec) => webOf(compile(compose(spec)));

const to = (...lines: string[]) => ({ layers: Object.fromEntries(lines.map((line, i) => [`l${i}`, { lines: [line] }])) });

test('stitches between the same two frames are one ribbon', () => {
  const { stitches, ribbons } = webFor({
    variables: { Seats: { type: 'number', initial: 1 } },
    frames: {
      Harbour: to('click → go to Boats', 'hover → go to Boats', 'click → if Seats > 0 → go to Pay; otherwise → go to Boats'),
      Boats: {},
      Pay: {},
    },
  });
  expect(stitches).toHaveLength(4);
  expect(ribbons.map(({ from, to, stitches, isConditional, isToHub }) => [from, to, stitches.length, isConditional, isToHub])).toEqual([
    ['Harbour', 'Boats', 3, true, false],
    ['Harbour', 'Pay', 1, true, false],
  ]);
});

test('what leads back, from a sheet and from anywhere is a mark where it is, not a line across the map', () => {
  const { ribbons, marks } = webFor({
    sheets: { 'Tab bar': to('click → go to Boats', 'click → go to Boats', 'click → go to Pay') },
    frames: { Harbour: { ...to('click → go to back', 'click → go to back'), over: ['Tab bar'] }, Boats: { over: ['Tab bar'] }, Pay: {} },
    lines: ['key Home → go to Harbour', 'key End → go to start'],
  });
  expect(ribbons).toEqual([]);
  const meanings = (frame: string) => marks.get(frame)?.map(({ kind, meaning }) => [kind, meaning]);
  expect(meanings('Harbour')).toEqual([
    ['back', '2 threads of Harbour lead back'],
    ['piece', 'From anywhere: 2 threads of the piece lead to Harbour'],
  ]);
  expect(meanings('Boats')).toEqual([['sheet', '2 threads of the sheet Tab bar lead to Boats']]);
  expect(meanings('Pay')).toEqual([['sheet', '1 thread of the sheet Tab bar leads to Pay']]);
});

test('a frame that many lead to is a hub, on a map of more than a few frames', () => {
  const many = (count: number): ComposeSpec => ({
    frames: { Home: {}, ...Object.fromEntries(Array.from({ length: count }, (_, i) => [`Page ${i}`, i < 8 ? to('click → go to Home') : {}])) },
  });
  const small = webFor(many(9));
  expect(small.ribbons.some(({ isToHub }) => isToHub)).toBe(false);
  const { ribbons, marks } = webFor(many(20));
  expect(ribbons.filter(({ isToHub }) => isToHub)).toHaveLength(8);
  expect(marks.get('Home')).toEqual([{ kind: 'hub', words: '⇥ 8', meaning: '8 frames lead to Home' }]);
  expect(marks.get('Page-0')?.[0]).toMatchObject({ kind: 'toHub', words: '→ Home' });
});

test('what is around a frame leads there or on from it, in so many steps', () => {
  const web = webFor({
    frames: {
      A: to('click → go to B'),
      B: to('click → go to C'),
      C: to('click → go to D'),
      D: to('click → go to E'),
      E: {},
      F: to('click → go to C'),
    },
  });
  expect([...around(web, 'C', 0)]).toEqual(['C']);
  expect([...around(web, 'C', 1)].sort()).toEqual(['B', 'C', 'D', 'F']);
  expect([...around(web, 'C', 2)].sort()).toEqual(['A', 'B', 'C', 'D', 'E', 'F']);
});
