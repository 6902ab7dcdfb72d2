import fc from 'fast-check';
import { strToU8 } from 'fflate';
import { describe, expect, test } from 'vitest';
import { compose } from '../../compose/compose.ts';
import { apply } from '../../edit/apply.ts';
import type { Piece } from '../../piece/piece.ts';
import { unwrap } from '../../result.ts';
import { tokensOf } from '../exports/tokens.ts';
import type { CameIn } from './define.ts';
import { tokensIn } from './tokens.ts';

const empty = compose({ frames: { home: {} } });
let ids = 0;
const makeId = () => `id${++ids}`;
const bytes = (value: unknown) => strToU8(typeof value === 'string' ? value : JSON.stringify(value));
const read = (value: unknown, piece: Piece = empty): CameIn => unwrap(tokensIn(piece, bytes(value), makeId));
const after = (value: unknown, piece: Piece = empty): Piece => unwrap(apply(piece, read(value, piece).operations)).piece;
const named = <T extends { name: string }>(kept: Readonly<Record<string, T>> | undefined) =>
  Object.fromEntries(Object.values(kept ?? {}).map((one) => [one.name, one]));

describe('design tokens', () => {
  test('become swatches, type styles and easings, their types taken from their groups, aliases followed', () => {
    const { head } = after({
      colour: {
        $type: 'color',
        sea: { $value: { colorSpace: 'srgb', components: [0, 0.5, 1], alpha: 0.5 } },
        wide: { $value: { colorSpace: 'display-p3', components: [1, 0, 0], hex: '#ff2200' } },
        old: { $value: '#ABC' },
        button: { $value: '{colour.sea}' },
      },
      heading: {
        $type: 'typography',
        $value: {
          fontFamily: ['Papyrus', 'Nunito'],
          fontSize: { value: 1.5, unit: 'rem' },
          fontWeight: 'semi-bold',
          lineHeight: 1.2,
          letterSpacing: { value: 0, unit: 'px' },
        },
      },
      swell: { $type: 'cubicBezier', $value: [0.2, 0, 0.1, 1] },
    });
    expect(named(head.swatches)).toMatchObject({
      sea: { color: '#0080ff80' },
      wide: { color: '#ff2200' },
      old: { color: '#aabbcc' },
      button: { color: '#0080ff80' },
    });
    expect(named(head.typeStyles)['heading']!.letters).toEqual({ family: 'Nunito', size: 24, weight: 600, leading: 1.2 });
    expect(named(head.easings)['swell']!.easing).toBe('cubic-bezier(0.2, 0, 0.1, 1)');
  });

  test('are called by the shortest end of their path that no other has', () => {
    const color = { $type: 'color', $value: '#000000' };
    expect(Object.keys(named(after({ light: { ground: color, line: color }, dark: { ground: color } }).head.swatches)).sort()).toEqual([
      'dark / ground',
      'light / ground',
      'line',
    ]);
  });

  test('brought in again change what is kept under their names, and make nothing twice', () => {
    const tokens = (color: string) => ({ sea: { $type: 'color', $value: color } });
    const once = after(tokens('#111111'));
    expect(read(tokens('#111111'), once).operations).toEqual([]);
    const twice = read(tokens('#222222'), once);
    expect([twice.operations.length, twice.made]).toEqual([1, ['1 swatch changed']]);
    expect(named(after(tokens('#222222'), once).head.swatches)['sea']!.color).toBe('#222222');
  });

  test('what is left is named with the reason', () => {
    const { left, made } = read({
      gap: { $type: 'dimension', $value: { value: 4, unit: 'px' } },
      lab: { $type: 'color', $value: { colorSpace: 'lab', components: [1, 2, 3] } },
      a: { $type: 'color', $value: '{b}' },
      b: { $type: 'color', $value: '{a}' },
      lost: { $type: 'color', $value: '{nobody}' },
      bare: { $value: 3 },
      title: { $type: 'typography', $value: { fontFamily: 'Papyrus', fontSize: '20px', letterSpacing: '1px' } },
      bend: { $type: 'cubicBezier', $value: [2, 0, 0, 1] },
    });
    expect(made).toEqual(['1 type style']);
    expect(left).toEqual([
      'gap: a dimension has no place in a piece',
      'lab: its colour cannot be read, or is in a colour space that has no hex beside it',
      'a: it leads back to itself',
      'b: it leads back to itself',
      'lost: there is no nobody',
      'bare: it says no type',
      'title: the typeface Papyrus is not here, so the usual one stands in; its letter spacing is left',
      'bend: its value is no cubic Bézier',
    ]);
  });

  test('of a piece give that piece its own back', () => {
    const head = {
      ...empty.head,
      swatches: { a: { name: 'Sea', order: 'a', color: '#0b7a75' }, b: { name: 'Veil', order: 'b', color: '#00000080' } },
      typeStyles: { t: { name: 'Heading', order: 'a', letters: { family: 'Literata' as const, size: 22, weight: 650, leading: 1.25 } } },
      easings: { e: { name: 'Swell', order: 'a', easing: 'cubic-bezier(0.2, 0, 0.1, 1)' } },
    };
    const back = after(tokensOf(head)).head;
    const plain = (kept: object | undefined) => Object.values(named(kept as never)).map((one: Record<string, unknown>) => ({ ...one, order: '' }));
    for (const kind of ['swatches', 'typeStyles', 'easings'] as const) expect(plain(back[kind])).toEqual(plain(head[kind]));
    expect(read(tokensOf(head), { ...empty, head }).operations).toEqual([]);
  });

  test.each([
    ['no JSON', '{"a":', 'no-json'],
    ['a list', '[1]', 'no-object'],
    ['nothing', '{}', 'no-tokens'],
    ['what is nested without end', '{"a":'.repeat(5000) + '1' + '}'.repeat(5000), 'too-deep'],
    ['too much', `{"a":[${'1,'.repeat(300_000)}1]}`, 'too-large'],
  ])('%s is refused', (_what, text, code) => {
    expect(tokensIn(empty, bytes(text), makeId)).toMatchObject({ ok: false, error: { code } });
  });

  test('whatever is done to a file, it is refused or what comes of it can be applied', () => {
    const good = JSON.stringify(
      tokensOf({
        ...empty.head,
        swatches: { a: { name: 'Sea', order: 'a', color: '#0b7a75' } },
        typeStyles: { t: { name: 'H', order: 'a', letters: { size: 22 } } },
      })
    );
    fc.assert(
      fc.property(fc.nat(good.length), fc.nat(6), fc.string({ maxLength: 8 }), (at, cut, put) => {
        const result = tokensIn(empty, bytes(good.slice(0, at) + put + good.slice(at + cut)), makeId);
        if (result.ok) expect(apply(empty, result.value.operations).ok).toBe(true);
        else expect(result.error.sentence).not.toBe('');
      }),
      { numRuns: 1000 }
    );
    fc.assert(
      fc.property(fc.json({ maxDepth: 6 }), (json) => {
        const result = tokensIn(
          empty,
          bytes(`{"x":{"$type":"color","$value":${json}},"y":{"$type":"typography","$value":${json}},"z":{"$type":"cubicBezier","$value":${json}}}`),
          makeId
        );
        if (result.ok) expect(apply(empty, result.value.operations).ok).toBe(true);
      }),
      { numRuns: 500 }
    );
  });
});
