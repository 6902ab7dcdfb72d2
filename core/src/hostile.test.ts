import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { apply } from './edit/apply.ts';
import { readPackage } from './formats/package.ts';
import { toScxml } from './formats/scxml.ts';
import { pieceToJson, readPiece, readPieceText } from './piece/read.ts';
import { jsonTextFault, shapeFault } from './piece/shape.ts';
import { compile } from './program/compile.ts';
import { unwrap } from './result.ts';
import { begin } from './run/run.ts';
import { hostilePieces } from './testing/hostile.ts';
import { build, compose, LARGE, largePiece } from './testing/index.ts';
import { cutText, isWellFormed, mended } from './text.ts';
import { audit } from './walk/audit.ts';
import { textParts } from './expression/text.ts';

describe('documents made to be expensive', () => {
  for (const { name, make, refused } of hostilePieces)
    test(`${name}: ${refused === null ? 'everything gets through it' : 'refused'}`, () => {
      const read = readPiece(make());
      if (refused !== null) return expect(read).toMatchObject({ ok: false, error: { code: refused } });
      const program = compile(unwrap(read));
      expect(begin(program, 'f0')).not.toBeNull();
      expect(audit(program, { maxStates: 200 }).exploration.states.length).toBeGreaterThan(0);
      expect(toScxml(program).xml).toContain('<scxml');
      return undefined;
    });

  test('edits keep the same limits', () => {
    const piece = build({ home: {} });
    const layer = { parent: null, order: 'a', name: 'G', type: 'group', pose: { x: 0, y: 0, width: 1, height: 1 }, style: {}, scene: 'home' };
    const nested = Array.from({ length: 300 }, (_, i) => ({
      op: 'put' as const,
      table: 'layers' as const,
      value: { ...layer, id: `g${i}`, parent: i ? `g${i - 1}` : null },
    }));
    expect(apply(piece, nested)).toMatchObject({ ok: false, error: { code: 'too-deep' } });
    const [half, other] = [unwrap(apply(piece, nested.slice(0, 70))).piece, nested.slice(70, 140)];
    const apart = unwrap(apply(half, [{ ...other[0]!, value: { ...other[0]!.value, parent: null } }, ...other.slice(1)])).piece;
    const joined = apply(apart, [{ op: 'set', table: 'layers', id: 'g70', path: ['parent'], value: 'g69' }]);
    expect(joined).toMatchObject({ ok: false, error: { code: 'too-deep', path: ['layers', 'g70', 'parent'] } });
    let deep: unknown = 1;
    for (let i = 0; i < 5000; i++) deep = { a: deep };
    expect(apply(piece, [{ op: 'set', table: 'scenes', id: 'home', path: ['states'], value: deep }])).toMatchObject({ error: { code: 'too-deep' } });
  });

  test('a part cannot be placed so often that a frame shows too many layers', () => {
    const parts = Object.fromEntries(
      ['A', 'B', 'C', 'D'].map((name, i, all) => [
        name,
        { layers: Object.fromEntries(Array.from({ length: 11 }, (_, k) => [`l${k}`, i ? { part: all[i - 1]! } : {}])) },
      ])
    );
    const piece = compose({ parts, frames: { home: { layers: { one: { part: 'D' } } } } });
    const one = [...piece.layers.values()].find((layer) => layer.scene === 'home')!;
    const second = apply(piece, [{ op: 'put', table: 'layers', value: { ...one, id: 'two' } }]);
    expect(second).toMatchObject({ ok: false, error: { code: 'too-large', sentence: expect.stringContaining('20000 layers') } });
  });

  test('a package that unpacks to a document of nothing but lists is refused before it is one', async () => {
    const lists = zipSync({ 'piece.json': strToU8(`[${'[],'.repeat(7_000_000)}[]]`) }, { level: 9 });
    expect(lists.length).toBeLessThan(200_000);
    expect(await readPackage(lists, null)).toMatchObject({ ok: false, error: { code: 'too-large' } });
    const long = zipSync({ 'piece.json': new Uint8Array(120_000_000).fill(0x20) }, { level: 1 });
    expect(await readPackage(long, null)).toMatchObject({ ok: false, error: { code: 'broken-zip', sentence: expect.stringContaining('100 MB') } });
    expect(await readPackage(strToU8('['.repeat(100_000)), null)).toMatchObject({ ok: false, error: { code: 'too-deep' } });
  });

  test('the largest piece is far from the limits', () => {
    const json = pieceToJson(largePiece(LARGE));
    expect(shapeFault(json, { depth: 16, values: 1_200_000 })).toBeNull();
  });
});

describe('texts that cannot be kept', () => {
  const unfit = fc.oneof(fc.string({ unit: 'binary' }), fc.constantFrom('\0', 'a\ud83d', '\udc31b', '😀'));

  test('are mended while reading, in names, texts and keys', () => {
    const json = pieceToJson(build({ home: { layers: { a: { text: 'plain' } } } }));
    const layer = { ...json.layers['a']!, name: 'Ho\0me \ud83d', text: '\udc31b' };
    const read = unwrap(readPieceText(strToU8(JSON.stringify({ ...json, layers: { a: layer } }))));
    expect(read.layers.get('a')).toMatchObject({ name: 'Home \ufffd', text: '\ufffdb' });
  });

  test('are refused in edits, with their place', () => {
    const piece = build({ home: { layers: { a: {} } } });
    const edit = apply(piece, [{ op: 'set', table: 'layers', id: 'a', path: ['name'], value: 'a\ud83d' }]);
    expect(edit).toMatchObject({ ok: false, error: { code: 'wrong-text', path: ['layers', 'a', 'name'] } });
  });

  test('mending leaves nothing unfit and touches nothing else', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.array(unfit)), (value) => {
        const good = mended(value);
        expect(isWellFormed(JSON.stringify(good))).toBe(true);
        expect(JSON.parse(JSON.stringify(good))).toEqual(good);
        expect(mended(good)).toBe(good);
        if (shapeFault(value, { depth: 9, values: 1e6 }) === null) expect(good).toBe(value);
      })
    );
  });

  test('cutting never cuts a sign', () => {
    const family = '👨‍👩‍👧';
    expect(cutText(`Boat ${family}`, 7)).toBe('Boat');
    expect(cutText(`Boat ${family}`, 13)).toBe(`Boat ${family}`);
    expect(cutText('A very long name', 9, '…')).toBe('A very l…');
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), fc.nat(20), (text, most) => {
        const cut = cutText(text, most);
        expect(cut.length).toBeLessThanOrEqual(most);
        expect(isWellFormed(cut) || !isWellFormed(text)).toBe(true);
      })
    );
  });

  test('JSON as text is judged as the value is', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 5 }), fc.integer({ min: 1, max: 6 }), fc.integer({ min: 2, max: 40 }), (value, depth, values) => {
        const text = jsonTextFault(strToU8(JSON.stringify(value)), { depth, values });
        const whole = shapeFault(value, { depth, values }, [], 'pass');
        expect(text === null).toBe(whole === null);
      }),
      { examples: [[[[0, false, false], {}], 2, 6]] }
    );
  });
});

test('the parts of a text are the same however many braces stand open', () => {
  const naive = (source: string, open: number): number => {
    let quoted = false;
    for (let i = open + 1; i < source.length; i++) {
      if (quoted && source[i] === '\\') i++;
      else if (source[i] === '"') quoted = !quoted;
      else if (!quoted && source[i] === '}') return i;
    }
    return -1;
  };
  fc.assert(
    fc.property(fc.string({ unit: fc.constantFrom('{', '}', '"', '\\', 'a') }), (source) => {
      for (const part of textParts(source)) {
        if (part.expression === undefined) continue;
        expect(source[part.from - 1]).toBe('{');
        expect(naive(source, part.from - 1)).toBe(part.from + part.expression.length);
      }
    })
  );
});

describe('names that every object has', () => {
  const inherited = ['constructor', '__proto__', 'toString', 'valueOf', 'hasOwnProperty', 'isPrototypeOf'];

  /** Every place of a document where a text or a key stands, as a change of it. */
  function* places(value: unknown, put: (next: unknown) => void): Iterable<(word: string) => void> {
    if (typeof value === 'string') yield put;
    if (typeof value !== 'object' || value === null) return;
    const record = value as Record<string, unknown>;
    for (const key of Object.keys(record)) {
      yield* places(record[key], (next) => void (record[key] = next));
      if (!Array.isArray(value))
        yield (word) => {
          const inner = record[key];
          delete record[key];
          Object.defineProperty(record, word, { value: inner, enumerable: true, configurable: true, writable: true });
        };
    }
  }

  test('are refused or mean nothing, wherever they stand', () => {
    const piece = compose({
      variables: { seats: { type: 'number', initial: 1 } },
      parts: { Card: { states: { Calm: {}, Storm: { dot: { style: { fill: '#0e7c86' } } } }, layers: { dot: {} } } },
      frames: {
        home: {
          layers: {
            a: { at: [0, 0, 80, 80], lines: ['click → if seats > 0 → go to pay · push left 300 ms; otherwise → send it'] },
            b: { part: 'Card', at: [0, 90, 80, 80], lines: ['hover → hide a'] },
            c: { type: 'text', text: '{seats} seats', at: [0, 200, 80, 20] },
          },
          lines: ['key x → set seats to seats + 1'],
        },
        pay: { ending: true },
      },
    });
    const text = JSON.stringify(pieceToJson(piece));
    const count = [...places(JSON.parse(text), () => undefined)].length;
    let read = 0;
    for (let i = 0; i < count; i++) {
      const json = JSON.parse(text) as object;
      [...places(json, () => undefined)][i]!(inherited[i % inherited.length]!);
      const result = readPiece(json);
      if (!result.ok) continue;
      read++;
      const program = compile(result.value);
      audit(program, { maxStates: 40 });
      toScxml(program);
      expect(readPiece(JSON.parse(JSON.stringify(pieceToJson(result.value)))).ok).toBe(true);
    }
    expect(count).toBeGreaterThan(200);
    expect(read).toBeGreaterThan(10);
  });
});
