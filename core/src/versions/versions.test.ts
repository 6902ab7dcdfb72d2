import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec, type SceneSpec } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import { framesOf, type Piece } from '../piece/piece.ts';
import { pieceToJson } from '../piece/read.ts';
import { compile } from '../program/compile.ts';
import { unwrap } from '../result.ts';
import { randomOperations } from '../testing/arbitrary.ts';
import { richPiece } from '../testing/rich.ts';
import { timesOver } from '../testing/runs.ts';
import { differenceLines, differencesBetween } from './between.ts';
import { fieldChanges, isEqual } from './equal.ts';
import { takeScene, takeThread } from './take-over.ts';
import { operationsToward } from './toward.ts';

/** A later version of a random piece: some operations that anybody could have done. */
function edited(piece: Piece, seed: number): Piece {
  let later = piece;
  for (let i = 0; i < 6; i++) {
    const applied = apply(later, randomOperations(later, seed + i));
    if (applied.ok) later = applied.value.piece;
  }
  return later;
}

/** A piece with the id of another one, as versions of one piece have. */
const asVersionOf = (piece: Piece, other: Piece): Piece => ({ ...other, head: { ...other.head, id: piece.head.id } });

const threadIn = (piece: Piece, owner: string) => [...piece.threads.values()].find((thread) => thread.owner === owner)!;

describe('the edit toward another version', () => {
  test('gives what that version holds, whatever was done in between, and back again', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const piece = richPiece(seed);
        const later = edited(piece, seed);
        const there = unwrap(apply(piece, operationsToward(piece, later)));
        expect(pieceToJson(there.piece)).toEqual(pieceToJson(later));
        expect(pieceToJson(unwrap(apply(later, operationsToward(later, piece))).piece)).toEqual(pieceToJson(piece));
        expect(pieceToJson(unwrap(apply(there.piece, there.inverse)).piece)).toEqual(pieceToJson(piece));
      }),
      { numRuns: timesOver(40) }
    );
  });

  test('leads from any piece to any other', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 1e6 }), (a, b) => {
        const piece = richPiece(a);
        const other = asVersionOf(piece, richPiece(b));
        expect(pieceToJson(unwrap(apply(piece, operationsToward(piece, other))).piece)).toEqual(pieceToJson(other));
      }),
      { numRuns: timesOver(40) }
    );
  });

  test('is nothing where nothing differs, and no more than what does', () => {
    const piece = richPiece(5);
    expect(operationsToward(piece, richPiece(5))).toEqual([]);
    const [layer] = [...piece.layers.values()];
    const changed = unwrap(apply(piece, [{ op: 'set', table: 'layers', id: layer!.id, path: ['name'], value: 'Other' }])).piece;
    expect(operationsToward(changed, piece)).toHaveLength(1);
  });

  test('a layer that left its group stays, with its threads, where the group goes', () => {
    const inGroup = compose({
      frames: {
        home: { layers: { Card: { type: 'group', at: [0, 0, 100, 100] }, Go: { at: [0, 0, 40, 40], in: 'Card', lines: ['click → back'] } } },
      },
    });
    const go = [...inGroup.layers.values()].find(({ name }) => name === 'Go')!;
    const card = [...inGroup.layers.values()].find(({ name }) => name === 'Card')!;
    const out = unwrap(
      apply(inGroup, [
        { op: 'set', table: 'layers', id: go.id, path: ['parent'], value: null },
        { op: 'remove', table: 'layers', id: card.id },
      ])
    ).piece;
    expect(out.threads.size).toBe(1);
    expect(pieceToJson(unwrap(apply(inGroup, operationsToward(inGroup, out))).piece)).toEqual(pieceToJson(out));
    expect(pieceToJson(unwrap(apply(out, operationsToward(out, inGroup))).piece)).toEqual(pieceToJson(inGroup));
  });
});

describe('taking over', () => {
  test('one frame is then as it was there, and all others are as they are', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const piece = richPiece(seed);
        const later = edited(piece, seed);
        for (const { id } of framesOf(piece)) {
          const taken = unwrap(takeScene(later, piece, id));
          const now = unwrap(apply(later, taken.operations)).piece;
          expect(ownOf(now, id)).toEqual(ownOf(piece, id));
          for (const { id: other } of framesOf(later)) if (other !== id) expect(ownOf(now, other)).toEqual(ownOf(later, other));
        }
      }),
      { numRuns: timesOver(25) }
    );
  });

  const harbour = (): ComposeSpec => ({
    variables: { Seats: { type: 'number', initial: 1 } },
    parts: { Stamp: { size: [40, 40], layers: { Ink: { at: [0, 0, 40, 40] } } } },
    frames: {
      home: {
        layers: {
          Book: { at: [0, 0, 80, 40], lines: ['click → if Seats > 0 → go to pay'] },
          Seal: { type: 'placement', part: 'Stamp', at: [0, 90, 40, 40] },
        },
      },
      pay: { layers: { Back: { at: [0, 0, 80, 40], lines: ['click → back'] } } },
    },
  });
  const before = compose(harbour());
  const idOf = (name: string) =>
    [...before.scenes.values(), ...before.layers.values(), ...before.variables.values()].find((one) => one.name === name)!.id;

  test('brings along parts and variables that are gone, and says what stays as it is now', () => {
    const gone: Operation[] = [
      { op: 'remove', table: 'scenes', id: idOf('home') },
      { op: 'remove', table: 'scenes', id: idOf('Stamp') },
      { op: 'set', table: 'variables', id: idOf('Seats'), path: ['initial'], value: 4 },
    ];
    const later = unwrap(apply(before, gone)).piece;
    const { operations, leaves } = unwrap(takeScene(later, before, idOf('home')));
    const now = unwrap(apply(later, operations)).piece;
    expect(ownOf(now, idOf('home'))).toEqual(ownOf(before, idOf('home')));
    expect(ownOf(now, idOf('Stamp'))).toEqual(ownOf(before, idOf('Stamp')));
    expect(now.variables.get(idOf('Seats'))!.initial).toBe(4);
    expect(leaves).toEqual(['Seats stays as it is now']);
  });

  test('a part whose layers are others now stays, and is named', () => {
    const later = unwrap(apply(before, [{ op: 'set', table: 'layers', id: idOf('Ink'), path: ['pose', 'x'], value: 5 }])).piece;
    const { operations, leaves } = unwrap(takeScene(later, before, idOf('home')));
    expect([operations, leaves]).toEqual([[], ['Stamp stays as it is now']]);
  });

  test('a frame that the other version lacks is removed; one that neither has is refused', () => {
    const later = compose({ ...harbour(), frames: { ...harbour().frames, extra: { layers: {} } } });
    const extra = [...later.scenes.values()].find(({ name }) => name === 'extra')!.id;
    expect(unwrap(takeScene(later, before, extra)).operations).toEqual([{ op: 'remove', table: 'scenes', id: extra }]);
    expect(takeScene(later, before, 'nobody').ok).toBe(false);
  });

  test('one thread, or none where what it stands on is gone', () => {
    const book = idOf('Book');
    const thread = threadIn(before, book);
    const off = unwrap(apply(before, [{ op: 'remove', table: 'threads', id: thread.id }])).piece;
    expect(unwrap(apply(off, unwrap(takeThread(off, before, thread.id)).operations)).piece.threads.get(thread.id)).toEqual(thread);
    expect(unwrap(takeThread(before, off, thread.id)).operations).toEqual([{ op: 'remove', table: 'threads', id: thread.id }]);
    const without = unwrap(apply(before, [{ op: 'remove', table: 'layers', id: book }])).piece;
    expect(takeThread(without, before, thread.id)).toMatchObject({ ok: false, error: { code: 'missing-reference' } });
  });
});

/** All that a scene holds by itself. */
function ownOf(piece: Piece, scene: string): unknown {
  const json = pieceToJson(piece);
  const layers = Object.values(json.layers).filter((layer) => layer.scene === scene);
  const owners = new Set([scene, ...layers.map(({ id }) => id)]);
  return {
    scene: json.scenes[scene],
    layers: Object.fromEntries(layers.map((layer) => [layer.id, layer])),
    threads: Object.fromEntries(
      Object.values(json.threads)
        .filter(({ owner }) => owners.has(owner))
        .map((thread) => [thread.id, thread])
    ),
    variables: Object.fromEntries(
      Object.values(json.variables)
        .filter((one) => one.scene === scene)
        .map((one) => [one.id, one])
    ),
  };
}

describe('what differs', () => {
  const pier = (
    change: (
      spec: { frames: Record<string, SceneSpec>; parts: Record<string, SceneSpec> } & { variables: NonNullable<ComposeSpec['variables']> }
    ) => void = () => {}
  ) => {
    const spec = {
      variables: { Seats: { type: 'number', initial: 1 } } as NonNullable<ComposeSpec['variables']>,
      parts: { Stamp: { size: [40, 40], layers: { Ink: { at: [0, 0, 40, 40], style: { fill: '#cc0000' } } } } } as Record<string, SceneSpec>,
      frames: {
        home: {
          states: { Calm: {}, Storm: { Sea: { style: { fill: '#333333' } } } },
          layers: {
            Sea: { at: [0, 0, 390, 200], style: { fill: '#0b7a75' } },
            Book: {
              at: [20, 300, 120, 48],
              text: 'Book',
              looks: { hover: { style: { fill: '#ffcc00' } } },
              lines: ['click → if Seats > 0 → go to pay'],
            },
          },
          timeline: {
            length: 24,
            tracks: [
              [
                'Sea',
                'x',
                [
                  [0, 0],
                  [12, 40],
                ],
              ],
            ],
            labels: { Wave: [6, 'loop'] },
          },
        },
        pay: {
          layers: { Seal: { type: 'placement', part: 'Stamp', at: [0, 90, 40, 40] }, Back: { at: [0, 0, 80, 40], lines: ['click → back'] } },
        },
      } as Record<string, SceneSpec>,
    };
    change(spec);
    return compile(compose(spec));
  };
  const told = (change: Parameters<typeof pier>[0]) => differenceLines(differencesBetween(pier(), pier(change)));
  const home = (frames: Record<string, SceneSpec>) => frames['home'] as { -readonly [K in keyof SceneSpec]: SceneSpec[K] };
  const layer = (scene: SceneSpec, name: string) => scene.layers![name] as unknown as Record<string, unknown>;

  test('is nothing between a version and itself', () => {
    expect(told(() => {})).toEqual([]);
  });

  test.each<readonly [string, Parameters<typeof pier>[0], string]>([
    ['a layer that was moved', ({ frames }) => (layer(home(frames), 'Book')['at'] = [40, 300, 120, 48]), 'Frame home, Book: x 40 instead of 20.'],
    ['a text', ({ frames }) => (layer(home(frames), 'Book')['text'] = 'Book now'), 'Frame home, Book: text “Book now” instead of “Book”.'],
    ['a colour', ({ frames }) => (layer(home(frames), 'Sea')['style'] = { fill: '#ffffff' }), 'Frame home, Sea: fill #ffffff instead of #0b7a75.'],
    [
      'a look',
      ({ frames }) => (layer(home(frames), 'Book')['looks'] = { hover: { style: { fill: '#000000' } } }),
      'Frame home, Book: look hover: fill #000000 instead of #ffcc00.',
    ],
    ['a look that went', ({ frames }) => delete layer(home(frames), 'Book')['looks'], 'Frame home, Book: look hover is gone.'],
    [
      'a condition',
      ({ frames }) => (layer(home(frames), 'Book')['lines'] = ['click → if Seats > 1 → go to pay']),
      'home, Book: “click → if Seats > 1 → go to pay” instead of “click → if Seats > 0 → go to pay”.',
    ],
    ['a variable', (spec) => (spec.variables = { Seats: { type: 'number', initial: 2 } }), 'The variable Seats: begins as 2 instead of 1.'],
    [
      'a state',
      ({ frames }) => (home(frames).states = { Calm: {}, Storm: { Sea: { style: { fill: '#111111' } } } }),
      'Frame home: state “Storm”, Sea: fill #111111 instead of #333333.',
    ],
    [
      'a keyframe',
      ({ frames }) =>
        (home(frames).timeline = {
          ...home(frames).timeline!,
          tracks: [
            [
              'Sea',
              'x',
              [
                [0, 0],
                [12, 60],
              ],
            ],
          ],
        }),
      'Frame home: timeline, x of Sea, keyframe at 13: value 60 instead of 40.',
    ],
    [
      'a section',
      ({ frames }) => (home(frames).timeline = { ...home(frames).timeline!, labels: { Wave: [8, 'loop'] } }),
      'Frame home: section “Wave”: at timeline frame 9 instead of 7.',
    ],
    ['a frame', ({ frames }) => (frames['help'] = { layers: {} }), 'Frame help is new.'],
    ['a frame that went', ({ frames }) => (delete frames['pay'], (layer(home(frames), 'Book')['lines'] = [])), 'Frame pay is gone.'],
    [
      'what is in a part',
      ({ parts }) => (layer(parts['Stamp']!, 'Ink')['style'] = { fill: '#0000cc' }),
      'Frame pay looks otherwise by what is in it: 1 place.',
    ],
  ])('%s is named', (_what, change, line) => {
    expect(told(change)).toContain(line);
  });

  test('is outlined where it is seen, in each state, and not where it is hidden by nothing that differs', () => {
    const [moved] = differencesBetween(
      pier(),
      pier(({ frames }) => (layer(home(frames), 'Book')['at'] = [40, 300, 120, 48]))
    ).scenes;
    const [was, is] = [20, 40].map((x) => [{ x, y: 300, width: 120, height: 48 }]);
    expect(moved!.looks).toEqual([
      { state: null, name: null, before: was, after: is },
      { state: expect.anything(), name: 'Storm', before: was, after: is },
    ]);
    const inStorm = differencesBetween(
      pier(),
      pier(({ frames }) => (home(frames).states = { Calm: {}, Storm: { Sea: { style: { fill: '#111111' } } } }))
    ).scenes;
    expect(inStorm.map((one) => one.looks.map(({ name }) => name))).toEqual([['Storm']]);
  });

  test('of random pieces is empty exactly where the edit toward the other is', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const piece = richPiece(seed);
        const later = edited(piece, seed);
        const lines = differenceLines(differencesBetween(compile(piece), compile(later)));
        const assetsOnly = operationsToward(piece, later).every((one) => one.op !== 'set' && one.table === 'assets');
        expect(lines.length > 0).toBe(!assetsOnly);
        for (const line of lines) expect(line).not.toMatch(/undefined|\[object|‹/);
      }),
      { numRuns: timesOver(40) }
    );
  });

  test('fields written in another order are no difference; deep ones have their path', () => {
    expect(isEqual({ a: 1, b: [1, { c: 2 }] }, { b: [1, { c: 2 }], a: 1, d: undefined })).toBe(true);
    expect(isEqual([1, 2], [1])).toBe(false);
    expect(isEqual({ a: 1 }, { a: 1, b: 2 })).toBe(false);
    expect(fieldChanges({ a: { b: 1, c: 2 } }, { a: { b: 3, c: 2 }, d: 4 })).toEqual([
      { path: ['a', 'b'], before: 1, after: 3 },
      { path: ['d'], before: undefined, after: 4 },
    ]);
  });
});
