import { expect, test } from 'vitest';
import fc from 'fast-check';
import { compose, type PlacedSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { exploreNaively, textOf } from '../testing/naive.ts';
import { timesOver } from '../testing/runs.ts';
import { Ambient } from './ambient.ts';
import { lookingBack } from './back.ts';
import { explore, exploring } from './explore.ts';
import { Slots } from './slots.ts';
import { tellingOf } from './telling.ts';

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

test('of a sheet, a part and a frame laid over it is asked where they are shown, of the piece everywhere', () => {
  const frames = { home: to('shop'), shop: { ...to('home'), over: ['Bar'] } };
  expect(asked({ sheets: { Bar: to('', 'go to back') }, frames })).toEqual(['shop']);
  expect(asked({ frames, sheets: { Bar: {} }, lines: ['key b → go to back'] })).toBe('all');
  const placed = { home: { layers: { one: { part: 'Arrow', at: [0, 0, 60, 60] as const } } }, shop: to('home') };
  expect(asked({ parts: { Arrow: to('', 'go to back') }, frames: placed })).toEqual(['home']);
  const within = { Frame: { layers: { inner: { part: 'Arrow', at: [0, 0, 60, 60] as const } } }, Arrow: to('', 'go to back') };
  const far = { ...frames, far: { layers: { one: { part: 'Frame', at: [0, 0, 60, 60] as const } } } };
  expect(asked({ parts: within, sheets: { Bar: { layers: { two: { part: 'Arrow', at: [0, 0, 60, 60] } } } }, frames: far })).toEqual(['far', 'shop']);
  expect(asked({ frames: { home: to('', 'lay over ask at center'), ask: to('', 'go to back') } })).toEqual(['ask']);
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

/** Explores as far as it goes, and by trying everything; gives what only one of them found. */
function beside(spec: Spec) {
  const program = compile(compose(spec));
  const exploration = explore(program, { maxStates: 3000, slicedFrom: 1e9 });
  const naive = exploreNaively(program, 300, 5);
  const telling = tellingOf(program);
  const slots = new Slots(program, telling, () => undefined);
  const texts = new Set(exploration.states.map((_, at) => textOf(program, new Ambient(program), slots, exploration.runOf(at), telling)));
  return {
    cut: exploration.cut,
    isWhole: naive.isWhole,
    missed: [...naive.states].filter((one) => !texts.has(one)),
    untrue: naive.isWhole ? [...texts].filter((one) => !naive.states.has(one)) : [],
    silent: [...naive.branches].filter((one) => !exploration.branches.has(one)),
    frames: [...exploration.reached.keys()].filter((one) => !naive.reached.has(one)),
  };
}

const at = (place: number, ...lines: string[]): PlacedSpec => ({ at: [place * 60, 0, 50, 50], lines });
const only = (...lines: string[]) => ({ layers: { on: at(0, ...lines) } });
const variables: Spec['variables'] = { V: { type: 'yes/no', initial: false } };

const atOnce: Record<string, Spec['frames']> = {
  'a signal that is sent as it is led on': { f: only('click → go to a; send x'), a: { ...only('click → go to e'), lines: ['signal x → back'] } },
  'a variable that is set as it is led on': {
    f: only('click → go to a; set V to true'),
    a: { ...only('click → go to e'), lines: ['variable V → back'] },
  },
  'a way without a trace in answer to that': {
    f: only('click → go to b; set V to true'),
    b: { ...only('click → go to e'), lines: ['variable V → go replacing to a'] },
    a: only('click → back'),
  },
  'a way on from where was gone back to': {
    f: { ...only('click → go to a'), lines: ['signal x → go to b'] },
    a: only('click → back; send x'),
    b: only('click → back'),
  },
  'steps that go on elsewhere': { f: only('click → lasting go to a; wait 1 s; back'), a: only('click → go to e') },
  'a frame that is laid over': { f: only('click → lay over a at center'), a: only('click → back') },
};

test.each(Object.entries(atOnce))('what is gone back to at once is what the engine says: %s', (_, frames) => {
  expect(beside({ variables, frames: { e: only('click → go to f'), ...frames } })).toMatchObject({
    cut: null,
    missed: [],
    untrue: [],
    silent: [],
    frames: [],
  });
});

const FRAMES = ['a', 'b', 'c', 'd'];
const cues = ['click', 'press', 'release', 'hover', 'leave', 'blur', 'focus', 'swipe left', 'double click', 'key k', 'signal x', 'variable V'];
const toFrame = fc.constantFrom(...FRAMES);
const steps = fc.oneof(
  { weight: 2, arbitrary: fc.constantFrom('back', 'send x', 'set V to true', 'set V to false', 'wait 1 s', 'lift') },
  { weight: 2, arbitrary: toFrame.map((frame) => `go to ${frame}`) },
  { weight: 1, arbitrary: toFrame.map((frame) => `go replacing to ${frame}`) },
  { weight: 1, arbitrary: toFrame.map((frame) => `lay over ${frame} at bottom scrim 30 %`) }
);
const lines = fc
  .tuple(fc.constantFrom(...cues), fc.boolean(), fc.array(steps, { minLength: 1, maxLength: 2 }))
  .map(([cue, isAsked, done]) => `${cue} → ${isAsked ? 'if V = true → ' : ''}${done.join('; ')}`);
const frames = fc.tuple(fc.array(fc.array(lines, { minLength: 1, maxLength: 2 }), { minLength: 1, maxLength: 3 }), fc.array(lines, { maxLength: 1 }));

test('where frames lead on and back in answer to anything, in pieces of all kinds, is what the engine says', () => {
  let whole = 0;
  fc.assert(
    fc.property(fc.tuple(frames, frames, frames, frames), (all) => {
      const made = all.map(([layers, own], i) => [
        FRAMES[i]!,
        { lines: own.map((line) => line.replace(/^(focus|blur|hover|leave) /, 'swipe right ')), layers: layersOf(FRAMES[i]!, layers) },
      ]);
      const { cut, isWhole, ...found } = beside({ variables, frames: Object.fromEntries(made) as NonNullable<Spec['frames']> });
      if (cut !== null) return;
      if (isWhole) whole++;
      else found.frames = [];
      expect(found).toEqual({ missed: [], untrue: [], silent: [], frames: [] });
    }),
    { numRuns: timesOver(25) }
  );
  expect(whole).toBeGreaterThan(5);
});

const layersOf = (frame: string, all: readonly (readonly string[])[]): Record<string, PlacedSpec> =>
  Object.fromEntries(all.map((own, i) => [`${frame}${i}`, at(i, ...own)]));

test('a press that leads on tells no more states apart than a click does', () => {
  const hub = (cue: string) => ({
    frames: {
      home: { layers: { one: at(0, `${cue} → go to shop`), two: at(1, `${cue} → go to help`) } },
      shop: { layers: { one: at(0, `${cue} → go to help`), two: at(1, `${cue} → go to home`) } },
      help: only('swipe right → back'),
    },
  });
  const counts = ['click', 'press', 'hover'].map((cue) => explore(compile(compose(hub(cue)))).count);
  expect(new Set(counts).size).toBe(1);
});

test('of frames that turn out to be gone back from one after the other, all are told apart, however many', () => {
  const many = Array.from({ length: 30 }, (_, i) => `n${i}`);
  const frames = Object.fromEntries(
    many.map((name, i) => [name, { layers: { on: at(0, `click → go to ${many[(i + 1) % 30]}`), over: at(1, 'click → lay over ask at center') } }])
  );
  const going = exploring(compile(compose({ frames: { ...frames, ask: only('click → back') } })), null, 1e9);
  expect(going.on(5000)).toBe('end');
  const { cut, reached } = going.result();
  expect([cut, reached.size]).toEqual([null, 31]);
});
