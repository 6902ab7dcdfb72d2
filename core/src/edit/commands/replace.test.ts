import { describe, expect, test } from 'vitest';
import { compose } from '../../compose/compose.ts';
import { printLine } from '../../lines/line.ts';
import { scopeFor } from '../../lines/scope.ts';
import type { Piece } from '../../piece/piece.ts';
import { unwrap } from '../../result.ts';
import { apply } from '../apply.ts';
import { addSwatch } from './swatches.ts';
import { findAll, operationsOf, paintWritten, type SearchKind, type Sought } from './replace.ts';

const piece = compose({
  variables: { Seats: { type: 'number', initial: 1, min: 0, max: 9 } },
  parts: { Seat: { size: [20, 20], states: { Free: {}, Taken: { word: { text: 'taken by Pay' } } }, layers: { word: { text: 'free' } } } },
  frames: {
    Harbour: {
      layers: {
        pay: {
          at: [0, 0, 80, 40],
          text: 'Pay {Seats} seats',
          looks: { hover: { text: 'Pay now' } },
          lines: ['click → if Seats > 1 → go to Pay; otherwise → go to Help'],
        },
        hint: { at: [0, 50, 80, 40], text: 'Payments are safe', style: { fill: '#E59A00' }, when: { shown: 'Seats > 1' } },
        seat: { type: 'placement', part: 'Seat', at: [0, 100, 20, 20] },
      },
      lines: ['key Enter → go to Pay'],
    },
    Pay: { background: '#e59a00', layers: { back: { at: [0, 0, 80, 40], text: 'Back', lines: ['click → go to Harbour'] } } },
    Help: {},
  },
});

const find = (kinds: readonly SearchKind[], text: string, put = '', more: Partial<Sought> = {}) =>
  findAll(piece, { find: text, put, kinds, ...more });
const replaced = (of: Piece, sought: Sought, without?: ReadonlySet<string>): Piece =>
  unwrap(apply(of, operationsOf(findAll(of, sought, without).hits, without))).piece;
const linesOf = (of: Piece) => [...of.threads.values()].map((thread) => printLine(thread, scopeFor(of, thread)));

describe('finding', () => {
  test('nothing is found of nothing, nor where nothing is looked through', () => {
    expect(find(['names', 'texts', 'threads', 'bindings', 'colours'], '').hits).toEqual([]);
    expect(find([], 'Pay').hits).toEqual([]);
  });

  test('names of all things, with where they stand', () => {
    const { hits } = find(['names'], 'ay');
    expect(hits.map(({ where, before, at }) => [where, before, at])).toEqual([
      ['name of a layer', 'pay', [[1, 3]]],
      ['name of the frame', 'Pay', [[1, 3]]],
    ]);
    expect(find(['names'], 'taken').hits.map(({ where }) => where)).toEqual(['name of a state']);
    expect(find(['names'], 'Seats').hits.map(({ where, scene }) => [where, scene])).toEqual([['name of a variable', null]]);
  });

  test('notes of frames and threads, what layers are called, names of files; what nothing is left of is gone', () => {
    const [thread] = piece.threads.keys();
    const noted = unwrap(
      apply(piece, [
        { op: 'set', table: 'scenes', id: 'Pay', path: ['note'], value: 'Ask Liv' },
        { op: 'set', table: 'threads', id: thread!, path: ['note'], value: 'Liv wants it so' },
        { op: 'set', table: 'layers', id: 'Harbour_pay', path: ['label'], value: 'Liv' },
        { op: 'put', table: 'assets', value: { id: 'a'.repeat(64), name: 'liv.png', mediaType: 'image/png', width: 1, height: 1, size: 9 } as never },
      ])
    ).piece;
    const sought = { find: 'Liv', put: '', kinds: ['notes'] as const };
    const { hits } = findAll(noted, sought);
    expect(hits.map(({ where, before, fault }) => [where, before, fault]).sort()).toEqual(
      [
        ['name of a file', 'liv.png', null],
        ['note of Pay', 'Ask Liv', null],
        ['note of a thread of pay', 'Liv wants it so', null],
        ['what pay is called where it is not seen', 'Liv', null],
      ].sort()
    );
    const then = replaced(noted, sought);
    expect(then.scenes.get('Pay')!.note).toBe('Ask');
    expect(then.threads.get(thread!)!.note).toBe('wants it so');
    expect(then.layers.get('Harbour_pay')!.label).toBeUndefined();
    expect([...then.assets.values()][0]!.name).toBe('.png');
    expect(findAll(noted, { ...sought, find: 'liv.png' }).hits[0]!.fault).not.toBeNull();
  });

  test('texts in every look and state, as people write them', () => {
    expect(find(['texts'], 'Pay').hits.map(({ where, before }) => [where, before])).toEqual([
      ['text of pay', 'Pay {Seats} seats'],
      ['text of pay, hover', 'Pay now'],
      ['text of hint', 'Payments are safe'],
      ['text of word while Taken', 'taken by Pay'],
    ]);
    // What is computed in them is no text.
    expect(find(['texts'], 'seats').hits[0]!.at).toEqual([[12, 17]]);
  });

  test('whole words, and capitals, where that is asked for', () => {
    expect(find(['texts'], 'pay', '', { whole: true }).hits.map(({ before }) => before)).toEqual(['Pay {Seats} seats', 'Pay now', 'taken by Pay']);
    expect(find(['texts'], 'pay', '', { capitals: true }).hits).toEqual([]);
    // Signs that mean something in patterns mean themselves.
    expect(find(['texts'], '.*', '').hits).toEqual([]);
    expect(find(['texts'], '{seats}', '').hits).toHaveLength(1);
  });

  test('threads as their lines read, of layers and of frames; bindings as they are written', () => {
    expect(find(['threads'], 'go to Pay').hits.map(({ where, layer }) => [where, layer])).toEqual([
      ['thread of pay', 'Harbour_pay'],
      ['thread of Harbour', null],
    ]);
    expect(find(['bindings'], '> 1').hits.map(({ where, before }) => [where, before])).toEqual([['shown of hint', 'Seats > 1']]);
  });

  test('colours however they are written, by their swatch as well', () => {
    expect(find(['colours'], 'e59a00', '#0b7a75').hits.map(({ where, before, after }) => [where, before, after])).toEqual([
      ['fill of hint', '#E59A00', '#0b7a75'],
      ['background of Pay', '#e59a00', '#0b7a75'],
    ]);
    expect([paintWritten(piece, ' #FA0 '), paintWritten(piece, '12345678'), paintWritten(piece, 'gold'), paintWritten(piece, '12345')]).toEqual([
      '#ffaa00',
      '#12345678',
      null,
      null,
    ]);
    const { operations, id } = addSwatch(piece, 'Gold', '#e59a00', () => 'gold');
    const painted = unwrap(apply(piece, operations)).piece;
    expect(findAll(painted, { find: 'gold', put: '#000', kinds: ['colours'] }).hits.map(({ before, after }) => [before, after])).toEqual([
      ['Gold', '#000000'],
      ['Gold', '#000000'],
    ]);
    expect(paintWritten(painted, 'GOLD')).toContain(id);
  });
});

describe('replacing', () => {
  test('a frame is renamed and whatever leads to it follows; texts are changed beside', () => {
    const next = replaced(piece, { find: 'Pay', put: 'Checkout', kinds: ['names', 'texts', 'threads'], whole: true, capitals: true });
    expect([...next.scenes.values()].map(({ name }) => name)).toContain('Checkout');
    expect(linesOf(next)).toEqual(linesOf(piece).map((line) => line.replace('Pay', 'Checkout')));
    expect(next.layers.get('Harbour_pay')!.looks!.hover!.text).toBe('Checkout now');
    expect(next.layers.get('Harbour_hint')!.text).toBe('Payments are safe');
  });

  test('targets, conditions and values are other ones in thread lines', () => {
    expect(linesOf(replaced(piece, { find: 'go to Pay', put: 'go to Help', kinds: ['threads'] }))[0]).toBe(
      'click → if Seats > 1 → go to Help; otherwise → go to Help'
    );
    expect(linesOf(replaced(piece, { find: 'Seats > 1', put: 'Seats >= 3', kinds: ['threads', 'bindings'] }))[0]).toContain('if Seats >= 3 →');
  });

  test('what cannot be written there is said, and left as it was', () => {
    const { hits } = find(['threads'], 'go to Pay', 'go to Nowhere');
    expect(hits.map(({ fault }) => fault)).toEqual([expect.stringContaining('Nowhere'), expect.stringContaining('Nowhere')]);
    expect(operationsOf(hits)).toEqual([]);
    expect(find(['names'], 'Pay', '', { capitals: true }).hits[0]!.fault).toBe('No name would be left.');
    expect(find(['names'], 'Pay', 'x'.repeat(200), { capitals: true }).hits[0]!.fault).toBe('A name has at most 120 signs.');
    expect(find(['texts'], '{Seats}', '{Boats}').hits[0]!.fault).toContain('Boats');
    expect(find(['bindings'], '> 1', '>').hits[0]!.fault).not.toBeNull();
    expect(find(['colours'], '#e59a00', 'gold').hits[0]!.fault).toContain('“gold” is no colour');
    expect(find(['names'], 'Pay', 'x'.repeat(200), { capitals: true }).hits[0]!.operations).toEqual([]);
    expect(find(['texts'], 'Back', 'Back').hits[0]!.fault).toContain('Nothing would be another');
  });

  test('what can be read and still not be kept is said by place, and the rest is replaced', () => {
    const eased = compose({
      frames: {
        Harbour: {
          layers: {
            swim: { at: [0, 0, 80, 40], lines: ['click → go to Pay · push left 300 ms ease-out'] },
            plain: { at: [0, 50, 80, 40], lines: ['click → go to Pay'] },
          },
        },
        Pay: {},
      },
    });
    const { hits } = findAll(eased, { find: 'a', put: 'o', kinds: ['names', 'threads'] });
    expect(hits.map(({ where, fault }) => [where, fault?.includes('“eose-out”') ?? false])).toContainEqual(['thread of swim', true]);
    expect(linesOf(unwrap(apply(eased, operationsOf(hits))).piece)).toEqual(['click → go to Poy · push left 300 ms ease-out', 'click → go to Poy']);
  });

  test('places that are left alone stay, and threads are written with the names that are left', () => {
    const sought: Sought = { find: 'Pay', put: 'Checkout', kinds: ['names', 'threads'], capitals: true };
    const { hits } = findAll(piece, sought);
    expect(hits.map(({ kind }) => kind)).toEqual(['names']);
    const left = new Set([hits[0]!.key]);
    // The frame keeps its name, so that its name in lines is found, and cannot be one that is not there.
    const again = findAll(piece, sought, left);
    expect(again.hits.map(({ kind, fault }) => [kind, fault === null])).toEqual([
      ['threads', false],
      ['threads', false],
      ['names', true],
    ]);
    expect(operationsOf(again.hits, left)).toEqual([]);
  });

  test('all that is replaced is one batch that applies, and then there is nothing more of it', () => {
    const next = replaced(piece, { find: 'a', put: 'o', kinds: ['names', 'texts', 'threads', 'bindings'] });
    expect(findAll(next, { find: 'a', put: '', kinds: ['names', 'texts', 'bindings'] }).hits).toEqual([]);
    expect(next.layers.get('Harbour_pay')!.text).toBe('Poy {‹Seats›} seots');
  });

  test('no more is found than anybody can look at, and that is said', () => {
    const layers = Object.fromEntries(Array.from({ length: 2100 }, (_, i) => [`box ${i}`, { at: [0, 0, 9, 9] as const }]));
    const { hits, more } = findAll(compose({ frames: { many: { layers } } }), { find: 'box', put: 'case', kinds: ['names'] });
    expect([hits.length, more]).toEqual([2000, true]);
  });
});
