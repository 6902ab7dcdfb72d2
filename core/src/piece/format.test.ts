import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { apply } from '../edit/apply.ts';
import { compile } from '../program/compile.ts';
import { expand, MOST_NODES } from '../program/expand.ts';
import { resolveScreen } from '../run/resolve.ts';
import { replay, start } from '../run/run.ts';
import { unwrap } from '../result.ts';
import { compose, layerId, type SceneSpec } from '../compose/compose.ts';
import { generator } from '../testing/large.ts';
import { audit } from '../walk/audit.ts';
import { migrated, migratedEdit } from './migrate.ts';
import type { Layer } from './piece.ts';
import { pieceToJson, readPiece } from './read.ts';
import { pieceFromTrusted } from './trusted.ts';

const rich = compose({
  variables: { Seats: { type: 'number', initial: 3, min: 0 }, Day: { type: 'choice', initial: 'Fri', options: ['Fri', 'Sun'] } },
  parts: {
    Notice: {
      states: { Hidden: {}, Shown: { box: { hidden: false, pose: { x: 4 } } } },
      layers: { box: { hidden: true, text: '{Seats} left' } },
      timeline: {
        length: 9,
        labels: { A: [0, 'loop'] },
        tracks: [
          [
            'box',
            'x',
            [
              [0, 1],
              [5, 9],
            ],
          ],
        ],
        spans: [['box', 0, 5]],
      },
    },
  },
  sheets: { nav: { layers: { bar: { pin: ['top'], lines: ['click → go to home'] } } } },
  frames: {
    home: {
      over: ['nav'],
      contentHeight: 2000,
      choices: { days: 'Day' },
      layers: {
        a: {
          choice: 'days',
          lines: ['click → if Seats > 0 → set Seats to Seats - 1; otherwise → put note in Shown'],
          looks: { hover: { style: { fill: '#ff0000' } } },
        },
        note: { part: 'Notice', at: [0, 100, 100, 50] },
        go: { at: [0, 200, 50, 50], lines: ['click → go to pay · push left'] },
        field: { at: [0, 300, 50, 50], type: 'field', field: { kind: 'slider', min: 0, max: 9, variable: 'Seats' } },
      },
    },
    pay: { layers: { back: { when: { enabled: 'Seats > 1', x: 'Seats * 10' }, lines: ['click → go to back'] } } },
  },
});

describe('the document', () => {
  test('is read back unchanged', () => {
    const json = JSON.parse(JSON.stringify(pieceToJson(rich))) as unknown;
    expect(pieceToJson(unwrap(readPiece(json)))).toEqual(json);
  });

  test('mutations of it are read or refused with a path, and what is read can be run, walked and edited', () => {
    const source = JSON.stringify(pieceToJson(rich));
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = generator(seed);
        const json = JSON.parse(source) as Record<string, unknown>;
        for (let i = 0; i < 1 + Math.floor(random() * 3); i++) mutate(json, random);
        const read = readPiece(json);
        if (!read.ok) {
          expect(read.error.sentence).not.toBe('');
          return;
        }
        const program = compile(read.value);
        const begun = start(program);
        if (begun) {
          const { run } = replay(program, begun, [
            { type: 'click', layer: layerId('home', 'a') },
            { type: 'press', x: 20, y: 210 },
            { type: 'release', x: 20, y: 210 },
            { type: 'wait', ms: 700 },
            { type: 'value', layer: layerId('home', 'field'), value: 4 },
          ]);
          resolveScreen(program, run);
        }
        audit(program, { maxStates: 20 });
      }),
      { numRuns: 400 }
    );
  });
});

const junk = [null, -1, 1e9, NaN, '', 'x', '‹x› +', true, [], {}, '__proto__', { a: 1 }, '#ff0000', 'a'.repeat(300), 1e-9, '‹Seats›.state'];

/** Changes, takes away or adds something somewhere in a document. */
function mutate(root: Record<string, unknown>, random: () => number): void {
  let at: Record<string, unknown> = root;
  for (let depth = 0; depth < 9; depth++) {
    const keys = Object.keys(at);
    const key = keys[Math.floor(random() * keys.length)];
    if (key === undefined) break;
    const inner = at[key];
    if (typeof inner === 'object' && inner !== null && random() < 0.85) {
      at = inner as Record<string, unknown>;
      continue;
    }
    const kind = random();
    if (kind < 0.2) delete at[key];
    else if (kind < 0.4) at[`${key}x`] = at[key];
    else at[key] = junk[Math.floor(random() * junk.length)];
    return;
  }
}

describe('parts', () => {
  test('that would be placed in each other are refused with both names, by edits and by reading', () => {
    const piece = compose({ parts: { Card: { layers: { inner: { part: 'Badge' } } }, Badge: {} }, frames: { home: {} } });
    const put: Layer = { ...piece.layers.get(layerId('Card', 'inner'))!, id: 'back', scene: 'Badge', part: 'Card' };
    const edit = apply(piece, [{ op: 'put', table: 'layers', value: put }]);
    expect(edit).toMatchObject({ ok: false, error: { code: 'cycle', sentence: '“Card” and “Badge” would be placed in each other.' } });
    const json = pieceToJson(piece);
    expect(readPiece({ ...json, layers: { ...json.layers, back: put } })).toMatchObject({ ok: false, error: { code: 'cycle' } });
    expect(apply(piece, [{ op: 'put', table: 'layers', value: { ...put, part: 'Badge' } as Layer }])).toMatchObject({
      ok: false,
      error: { sentence: '“Badge” would be placed in itself.' },
    });
  });

  test('that double and double again do not hang anything', () => {
    const parts: Record<string, SceneSpec> = Object.fromEntries(
      Array.from({ length: 24 }, (_, i) => [
        `P${i}`,
        { layers: i === 0 ? { dot: {} } : { a: { part: `P${i - 1}` }, b: { part: `P${i - 1}` } } } as SceneSpec,
      ])
    );
    const spec = { parts, frames: { home: { layers: { all: { part: 'P23' } } } } };
    expect(() => compose(spec)).toThrow('would show parts more than 12 deep inside each other');
    // Documents from before this was refused are put together as far as it makes sense.
    const json = pieceToJson(compose({ parts: { P0: parts['P0']! }, frames: { home: { layers: { all: { part: 'P0' } } } } }));
    const layer = Object.values(json.layers).find((one) => one.scene === 'home')!;
    for (let i = 1; i < 24; i++) {
      json.scenes[`P${i}`] = { ...json.scenes['P0']!, id: `P${i}` };
      for (const id of [`a${i}`, `b${i}`]) json.layers[id] = { ...layer, id, scene: `P${i}`, part: `P${i - 1}` };
    }
    json.layers[layer.id] = { ...layer, part: 'P23' };
    const program = compile(pieceFromTrusted(json));
    const expansion = expand(program, program.scenes.get('home')!);
    expect(expansion.cut).toBe(true);
    expect(expansion.nodes.length).toBeLessThanOrEqual(MOST_NODES + 50);
  });
});

describe('older formats', () => {
  const old = {
    format: 'zany-thread/1',
    id: 'p',
    name: 'Old',
    width: 390,
    height: 844,
    start: ['f'],
    scenes: { f: { id: 'f', use: 'frame', name: 'Home', order: 'a0', width: 390, height: 844, background: '#ffffff' } },
    layers: {
      t: {
        id: 't',
        scene: 'f',
        parent: null,
        order: 'a0',
        name: 'T',
        type: 'text',
        pose: { x: 0, y: 0, width: 9, height: 9 },
        style: {},
        text: 'a {b} \\',
        looks: { hover: { text: '{' } },
      },
    },
    threads: {
      c: {
        id: 'c',
        on: 'layer',
        owner: 't',
        order: 'a0',
        cue: { type: 'click' },
        branches: [{ steps: [{ do: 'go', target: { to: 'back' }, transition: { type: 'cut' } }] }],
        enabled: true,
      },
    },
    assets: {},
  };

  test('format 1 is brought to today, its braces meaning what they meant', () => {
    const piece = unwrap(readPiece(old));
    const program = compile(piece);
    expect(piece.layers.get('t')!.text).toBe('a \\{b} \\\\');
    expect(piece.layers.get('t')!.looks!.hover!.text).toBe('\\{');
    expect(resolveScreen(program, start(program)!).surfaces[0]!.all[0]!.text).toBe('a {b} \\');
    expect(pieceToJson(piece).format).toBe('zany-thread/3');
  });

  test('format 2 had lists of keys: they are by id today, in pieces and in edits that were kept', () => {
    const list = [
      { time: 0, value: 1 },
      { time: 12, value: 3, easing: 'ease-in' },
    ];
    const byId = { k0: list[0], k12: list[1] };
    const track = (keys: unknown) => ({ layer: 't', property: 'x', keys });
    const scene = (keys: unknown) => ({ ...old.scenes.f, timeline: { length: 24, tracks: { a: track(keys) } } });
    const before = { ...old, format: 'zany-thread/2', variables: {}, scenes: { f: scene(list) } };
    const piece = unwrap(readPiece(before));
    expect(piece.scenes.get('f')!.timeline!.tracks!['a']!.keys).toEqual(byId);
    expect(before.scenes.f.timeline.tracks.a.keys).toBe(list);
    const set = (path: string[], value: unknown) => ({ op: 'set' as const, table: 'scenes' as const, id: 'f', path, value });
    expect(migratedEdit({ op: 'put', table: 'scenes', value: scene(list) })).toEqual({ op: 'put', table: 'scenes', value: scene(byId) });
    for (const [path, was, is] of [
      [['timeline'], { length: 24, tracks: { a: track(list) } }, { length: 24, tracks: { a: track(byId) } }],
      [['timeline', 'tracks'], { a: track(list) }, { a: track(byId) }],
      [['timeline', 'tracks', 'a'], track(list), track(byId)],
      [['timeline', 'tracks', 'a', 'keys'], list, byId],
      [['timeline', 'length'], 30, 30],
      [['name'], 'Keys', 'Keys'],
    ] as const)
      expect(migratedEdit(set([...path], was))).toEqual(set([...path], is));
    const gone = { op: 'set' as const, table: 'scenes' as const, id: 'f', path: ['timeline'] };
    expect(migratedEdit(gone)).toBe(gone);
  });

  test('migrating twice is migrating once, and what is not known is refused', () => {
    const once = migrated(old)!;
    expect(migrated(once)).toBe(once);
    for (const format of ['zany-thread/9', 'toString', 7, undefined])
      expect(readPiece({ ...old, format })).toMatchObject({ ok: false, error: { code: 'unknown-format', path: ['format'] } });
  });
});
