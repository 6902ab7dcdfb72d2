import { expect, test } from 'vitest';
import { compose } from '../../compose/compose.ts';
import { printLine } from '../../lines/line.ts';
import { scopeOf } from '../../lines/scope.ts';
import { framesOf, layerIdsOf, threadsOf, type Piece } from '../../piece/piece.ts';
import { unwrap } from '../../result.ts';
import { apply } from '../apply.ts';
import { duplicateFrame, leadsToNext, newSection, type Section } from './frames.ts';

const counter = () => {
  let n = 0;
  return () => `new${++n}`;
};

const text = (words: string, lines: readonly string[] = []) => ({ type: 'text', text: words, at: [16, 20, 200, 30], lines }) as const;

const piece = compose({
  frames: {
    home: {
      layers: {
        Title: text('home'),
        Other: text('home sweet home'),
        On: text('on', ['click → go to pay · dissolve 300 ms ease-out', 'key h → go to times']),
      },
    },
    pay: { layers: { Back: text('back', ['click → go to back']) } },
    times: {},
  },
});

const made = (of: Piece, section: Partial<Section> & Pick<Section, 'names'>) => {
  const { operations, ids } = newSection(of, { after: 'home', like: null, leadsOn: false, ...section }, counter());
  return { next: unwrap(apply(of, operations)).piece, ids };
};

const namesOf = (of: Piece) => framesOf(of).map(({ name }) => name);

const linesIn = (of: Piece, frame: string) =>
  [...layerIdsOf(of, frame)].flatMap((layer) => threadsOf(of, layer).map((thread) => printLine(thread, scopeOf(of, frame, layer))));

test('a section of empty frames comes after one, in order, under names of their own', () => {
  const { next, ids } = made(piece, { names: ['Seat', 'pay', 'Seat'] });
  expect(namesOf(next)).toEqual(['home', 'Seat', 'pay 2', 'Seat 2', 'pay', 'times']);
  expect(ids.map((id) => layerIdsOf(next, id).size)).toEqual([0, 0, 0]);
  expect(namesOf(made(piece, { names: ['Last'], after: null }).next).at(-1)).toBe('Last');
  expect(made(piece, { names: [] }).next).toBe(piece);
});

test('copies are called as they are named, where their frame said so itself, and lead on from each to the next', () => {
  expect([leadsToNext(piece, 'home'), leadsToNext(piece, 'pay'), leadsToNext(piece, 'times')]).toEqual([true, false, false]);
  const { next, ids } = made(piece, { names: ['One', 'Two'], like: 'home', leadsOn: true });
  const texts = ids.map((id) => [...layerIdsOf(next, id)].map((layer) => next.layers.get(layer)!.text).sort());
  expect(texts).toEqual([
    ['One', 'home sweet home', 'on'],
    ['Two', 'home sweet home', 'on'],
  ]);
  expect(linesIn(next, ids[0]!).sort()).toEqual(['click → go to Two · dissolve 300 ms ease-out', 'key h → go to times']);
  expect(linesIn(next, ids[1]!).sort()).toEqual(['click → go to pay · dissolve 300 ms ease-out', 'key h → go to times']);
  expect(linesIn(made(piece, { names: ['One', 'Two'], like: 'home' }).next, 'new1')).toContain('click → go to pay · dissolve 300 ms ease-out');
});

test('a copy leads where its frame does, home from a copy of home as well', () => {
  const bar = compose({ frames: { home: { layers: { Home: text('Home', ['click → go to home']) }, lines: ['after 9 s → go to home'] }, pay: {} } });
  const { next, ids } = made(bar, { names: ['Plan'], like: 'home' });
  expect(linesIn(next, ids[0]!)).toEqual(['click → go to home']);
  expect(threadsOf(next, ids[0]!).map((thread) => printLine(thread, scopeOf(next, ids[0]!, null)))).toEqual(['after 9 s → go to home']);
});

test('they are in the bundle that is named, else in that of the frame they come after', () => {
  const put = (id: string, bundle: string) => ({ op: 'set' as const, table: 'scenes' as const, id, path: ['bundle'], value: bundle });
  const bundles = {
    op: 'set' as const,
    table: 'piece' as const,
    id: piece.head.id,
    path: ['bundles'],
    value: { sea: { name: 'Sea', order: 'a0' }, land: { name: 'Land', order: 'a1' } },
  };
  const bundled = unwrap(apply(piece, [bundles, put('home', 'sea')])).piece;
  const bundleOf = (section: Partial<Section>) => {
    const { next, ids } = made(bundled, { names: ['One'], ...section });
    return next.scenes.get(ids[0]!)!.bundle;
  };
  expect([bundleOf({}), bundleOf({ after: 'pay' }), bundleOf({ bundle: 'land' }), bundleOf({ like: 'pay' })]).toEqual([
    'sea',
    undefined,
    'land',
    'sea',
  ]);
});

test('a copy has variables of its own where its frame has', () => {
  const counting = compose({
    frames: {
      home: {
        variables: { Deck: { type: 'number', initial: 1 } },
        layers: { Up: { ...text('Deck {Deck}', ['click → set Deck to Deck + 1']), when: { shown: 'Deck < 4' } } },
      },
    },
  });
  const { operations, id } = duplicateFrame(counting, 'home', counter());
  const next = unwrap(apply(counting, operations)).piece;
  const [variable] = [...next.variables.values()].filter(({ scene }) => scene === id);
  expect(variable).toMatchObject({ name: 'Deck', initial: 1 });
  const [layer] = layerIdsOf(next, id);
  expect(next.layers.get(layer!)!.bindings).toEqual({ shown: `‹${variable!.id}› < 4` });
  expect(next.layers.get(layer!)!.text).toContain(variable!.id);
  expect(JSON.stringify(threadsOf(next, layer!))).not.toContain('home_v_Deck');
});
