import { expect, test } from 'vitest';
import { compose } from '../../compose/compose.ts';
import { compile } from '../../program/compile.ts';
import { unwrap } from '../../result.ts';
import { printLine } from '../../lines/line.ts';
import { scopeOf } from '../../lines/scope.ts';
import { threadsOf, type Piece } from '../../piece/piece.ts';
import { apply } from '../apply.ts';
import { carryToTwins, leftIn, twinKinds, twinsOf, unlikeIn, type Shared } from './twins.ts';

const title = (text: string, y: number, fill: string) => ({ type: 'text', text, at: [16, y, 200, 30], style: { ink: fill } }) as const;

const piece = compose({
  variables: { Seats: { type: 'number', initial: 2 } },
  frames: {
    home: {
      layers: {
        Title: title('Kittiwake Line', 20, '#0b7a75'),
        Next: {
          at: [16, 700, 120, 44],
          style: { fill: '#e59a00' },
          looks: { hover: { style: { fill: '#ffb020' } } },
          lines: ['click → go to times'],
        },
        Left: { type: 'text', text: '{Seats} left', at: [16, 400, 100, 20] },
      },
    },
    times: {
      layers: {
        title: title('Times', 24, '#26232c'),
        Next: { at: [16, 690, 100, 44], style: { fill: '#e59a00' }, lines: ['click → go to pay'] },
        Left: { type: 'text', text: 'none left', at: [16, 400, 100, 20] },
      },
    },
    pay: { layers: { Title: { at: [0, 0, 50, 50] }, Next: { at: [16, 700, 120, 44], style: { fill: '#e59a00' }, lines: ['click → go to home'] } } },
  },
  parts: { Card: { size: [100, 100], layers: { Title: title('Card', 0, '#000000') } } },
});
const program = compile(piece);

const from = (...names: string[]) =>
  twinsOf(
    piece,
    names.map((name) => `home_${name}`)
  );
const madeSo = (twins: ReturnType<typeof from>, ...kinds: Shared[]) => unwrap(apply(piece, carryToTwins(program, twins, kinds, newId))).piece;

test('twins have one name and one type, in frames alone, however the name is written', () => {
  expect(from('Title').map(({ id }) => id)).toEqual(['times_title']);
  expect(from('Next', 'Title').map(({ id, frame }) => `${frame} ${id}`)).toEqual(['times times_title', 'times times_Next', 'pay pay_Next']);
  expect(twinsOf(piece, [])).toEqual([]);
  expect(twinsOf(piece, ['gone'])).toEqual([]);
});

test('of several with one name the first is that of the first, and what has none there has no twin', () => {
  const chips = (count: number) => ({
    layers: Object.fromEntries(Array.from({ length: count }, (_, i) => [`c${i}`, { name: 'Chip', at: [i * 50, 0, 40, 40] as const }])),
  });
  const twins = twinsOf(compose({ frames: { a: chips(3), b: chips(2) } }), ['a_c0', 'a_c1', 'a_c2']);
  expect(twins.map(({ source, id }) => [source, id])).toEqual([
    ['a_c0', 'b_c0'],
    ['a_c1', 'b_c1'],
  ]);
});

test('only what is otherwise is carried over, and then nothing is otherwise any more', () => {
  const twins = from('Title', 'Next');
  expect(unlikeIn(program, twins, 'place').map(({ id }) => id)).toEqual(['times_title', 'times_Next']);
  expect(unlikeIn(program, twins, 'paint').map(({ id }) => id)).toEqual(['times_title']);
  expect(unlikeIn(program, twins, 'looks').map(({ id }) => id)).toEqual(['times_Next', 'pay_Next']);
  const now = madeSo(twins, ...(Object.keys(twinKinds) as Shared[]));
  for (const kind of Object.keys(twinKinds) as Shared[]) expect(unlikeIn(compile(now), twins, kind)).toEqual([]);
  expect(now.layers.get('times_title')).toMatchObject({ text: 'Kittiwake Line', style: { ink: '#0b7a75' }, pose: { x: 16, y: 20 } });
  expect(now.layers.get('pay_Next')!.looks).toEqual(piece.layers.get('home_Next')!.looks);
  // Where they lead stays their own where that is not asked for.
  expect(linesOf(now, 'pay_Next')).toEqual(['click → go to times']);
  expect(madeSo(twins, 'place', 'paint', 'words').threads).toBe(piece.threads);
  expect(carryToTwins(compile(now), twins, ['place', 'paint'], newId)).toEqual([]);
});

test('each way is carried alone, and what a twin has besides goes where the other has none', () => {
  const now = madeSo(from('Next'), 'paint');
  expect(now).toBe(piece);
  const back = twinsOf(piece, ['times_Next']).filter(({ frame }) => frame === 'home');
  expect(unwrap(apply(piece, carryToTwins(program, back, ['looks'], newId))).piece.layers.get('home_Next')!.looks).toBeUndefined();
});

test('words and bindings that speak of the whole piece are carried; those that speak of their own frame stay, and that is known', () => {
  const left = (text: string, more: object = {}) => ({ type: 'text', text, at: [16, 400, 100, 20], ...more }) as const;
  const own = compose({
    variables: { Seats: { type: 'number', initial: 2 } },
    frames: {
      home: {
        variables: { Deck: { type: 'number', initial: 1 } },
        layers: {
          Left: left('{Seats} left', { when: { shown: 'Seats > 0' } }),
          Deck: left('Deck {Deck}', { when: { shown: 'Deck = 1' } }),
          Sign: left('{if Left.selected then "on" else "off"}'),
        },
      },
      times: { layers: { Left: left('none left'), Deck: left('Deck 1'), Sign: left('{if Left.selected then "on" else "off"}') } },
    },
  });
  const [at, twins] = [compile(own), twinsOf(own, ['home_Left', 'home_Deck', 'home_Sign'])];
  const ids = (some: readonly { readonly id: string }[]) => some.map(({ id }) => id);
  expect(ids(unlikeIn(at, twins, 'words'))).toEqual(['times_Left']);
  expect(ids(leftIn(at, twins, 'words'))).toEqual(['times_Deck', 'times_Sign']);
  expect(ids(unlikeIn(at, twins, 'bindings'))).toEqual(['times_Left']);
  expect(ids(leftIn(at, twins, 'bindings'))).toEqual(['times_Deck']);
  expect(leftIn(at, twins, 'place')).toEqual([]);
  const now = unwrap(apply(own, carryToTwins(at, twins, ['words', 'bindings'], newId))).piece;
  const { text, bindings } = own.layers.get('home_Left')!;
  expect(now.layers.get('times_Left')).toMatchObject({ text, bindings });
  expect(now.layers.get('times_Deck')).toEqual(own.layers.get('times_Deck'));
  expect(leftIn(compile(own), twinsOf(own, ['times_Deck']), 'words')).toEqual([]);
});

let ids = 0;
const newId = () => `new${++ids}`;

const linesOf = (of: Piece, id: string) => {
  const { scene } = of.layers.get(id)!;
  return threadsOf(of, id).map((thread) => printLine(thread, scopeOf(of, scene, id)));
};

test('threads are carried as they are read: what they name is there what is called so; those that say the same stay the ones they are', () => {
  const frame = (lines: string[], more = {}) => ({ states: { Shut: {}, Open: {} }, layers: { Bar: {}, Next: { lines } }, ...more });
  const spec = compose({
    frames: {
      home: frame(['click → go to pay', 'hover → show Bar; put home in Open', 'key Enter → go to pay']),
      times: frame(['click → go to home', 'key Enter → go to pay']),
      pay: { layers: { Next: { lines: ['click → back'] } } },
    },
  });
  const made = compile(spec);
  const twins = twinsOf(spec, ['home_Next']);
  expect(unlikeIn(made, twins, 'threads').map(({ id }) => id)).toEqual(['times_Next']);
  expect(leftIn(made, twins, 'threads').map(({ id }) => id)).toEqual(['pay_Next']);
  const next = unwrap(apply(spec, carryToTwins(made, twins, ['threads'], newId))).piece;
  expect(linesOf(next, 'times_Next')).toEqual(linesOf(spec, 'home_Next'));
  expect(linesOf(next, 'pay_Next')).toEqual(['click → go to back']);
  // The key is the thread it was, and what names the frame's own state names that of the other frame.
  expect(threadsOf(next, 'times_Next').at(-1)!.id).toBe(threadsOf(spec, 'times_Next').at(-1)!.id);
  expect(threadsOf(next, 'times_Next')[1]!.branches[0]!.steps[1]).toMatchObject({ do: 'state', to: { state: 'times_s_Open' } });
  expect(unlikeIn(compile(next), twins, 'threads')).toEqual([]);
});

test('how something behaves goes along, but for a field that fills what only its frame has', () => {
  const home = {
    variables: { Name: { type: 'text', initial: '' } },
    layers: { Card: { drag: { axis: 'x' }, role: 'button' }, Name: { field: { kind: 'text' } } },
  } as const;
  const spec = compose({ frames: { home, times: { layers: { Card: { scroll: 'y' }, Name: {} } } } });
  const filled = unwrap(apply(spec, [{ op: 'set', table: 'layers', id: 'home_Name', path: ['field', 'variable'], value: 'home_v_Name' }])).piece;
  const twins = twinsOf(filled, ['home_Card', 'home_Name']);
  expect(leftIn(compile(filled), twins, 'behaves').map(({ id }) => id)).toEqual(['times_Name']);
  const next = unwrap(apply(filled, carryToTwins(compile(filled), twins, ['behaves'], newId))).piece;
  expect(next.layers.get('times_Card')).toMatchObject({ drag: { axis: 'x' }, role: 'button' });
  expect(next.layers.get('times_Card')).not.toHaveProperty('scroll');
  expect(next.layers.get('times_Name')).not.toHaveProperty('field');
});
