import { describe, expect, test } from 'vitest';
import { compose, layerId } from '../../compose/compose.ts';
import { layersUnder, scenesOf, type Piece } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import { stillScreen } from '../../run/still.ts';
import { unwrap } from '../../result.ts';
import { apply } from '../apply.ts';
import { copyLayers, pasteClip } from '../commands/clip.ts';
import { duplicateFrame } from '../commands/frames.ts';
import { groupLayers, removeLayers, ungroupLayers } from '../commands/layers.ts';
import { makePart, makeSheet, takeApart } from '../commands/parts.ts';
import type { Operation } from '../operation.ts';

const counter = (name = 'new') => {
  let n = 0;
  return () => `${name}${n++}`;
};

const piece = compose({
  frames: {
    home: {
      size: [400, 300],
      states: { One: {}, Two: { sun: { pose: { y: 99 } } } },
      timeline: {
        length: 30,
        labels: { Ebb: [0, 'hold'], Flood: [15, 'hold'] },
        tracks: [
          [
            'boat',
            'x',
            [
              [0, 20],
              [20, 220],
            ],
          ],
          [
            'boat',
            'y',
            [
              [0, 100],
              [20, 140],
            ],
          ],
          [
            'boat',
            'opacity',
            [
              [0, 0],
              [10, 1],
            ],
          ],
        ],
        spans: [['sun', 5, 25]],
      },
      layers: { boat: { at: [20, 100, 60, 40] }, sun: { at: [300, 20, 40, 40] }, sea: { at: [0, 200, 400, 100] } },
    },
    other: { size: [400, 300], layers: {} },
  },
});
const [boat, sun] = ['boat', 'sun'].map((name) => layerId('home', name)) as [string, string];
const program = compile(piece);
const after = (of: Piece, operations: readonly Operation[]) => unwrap(apply(of, operations)).piece;

/** What is seen of a scene at every frame: each layer's name, place and opacity, in the view, placements and groups themselves left out. */
const film = (of: Piece, scene: string, frames = 30) =>
  Array.from({ length: frames }, (_, frame) =>
    stillScreen(compile(of), scene, { frame })!
      .surfaces.flatMap(({ all }) => all)
      .filter(({ node }) => node.layer.type === 'box')
      .map(({ node, matrix, opacity }) => `${node.layer.name} ${matrix.e.toFixed(2)} ${matrix.f.toFixed(2)} ${opacity.toFixed(3)}`)
      .sort()
  );

const before = film(piece, 'home');

describe('what is in time goes along', () => {
  test('with a copy of the frame, its states too, and nothing of the original is touched', () => {
    const { operations, id } = duplicateFrame(piece, 'home', counter());
    const made = after(piece, operations);
    expect(film(made, id)).toEqual(before);
    expect(film(made, 'home')).toEqual(before);
    const own = new Set([...made.layers.values()].filter((layer) => layer.scene === id).map((layer) => layer.id));
    const copy = made.scenes.get(id)!;
    expect(Object.values(copy.timeline!.tracks!).every(({ layer }) => own.has(layer))).toBe(true);
    expect(
      Object.values(copy.states!)
        .flatMap(({ deltas }) => Object.keys(deltas))
        .every((path) => own.has(path))
    ).toBe(true);
  });

  test('with copied layers, into the same scene and into one that had no time', () => {
    const clip = copyLayers(program, 'home', [boat, sun]);
    const beside = pasteClip(piece, clip, 'home', counter(), { x: 10, y: 5 });
    const here = after(piece, beside.operations);
    const moved = film(here, 'home').map((shot) => shot.filter((one) => one.startsWith('boat 2')));
    expect(moved.map(([one]) => one)).toEqual(
      before.map((shot) => {
        const [, x, y, opacity] = shot.find((one) => one.startsWith('boat'))!.split(' ') as [string, string, string, string];
        return `boat 2 ${(Number(x) + 10).toFixed(2)} ${(Number(y) + 5).toFixed(2)} ${opacity}`;
      })
    );
    const there = after(piece, pasteClip(piece, clip, 'other', counter()).operations);
    expect(film(there, 'other')).toEqual(before.map((shot) => shot.filter((one) => !one.startsWith('sea'))));
  });

  test('into a group and out of it, into a part, into a sheet, and out of a part again', () => {
    const grouped = after(piece, groupLayers(program, 'home', [boat, layerId('home', 'sea')], 'g'));
    expect(film(grouped, 'home')).toEqual(before);
    expect(film(after(grouped, ungroupLayers(grouped, ['g']).operations), 'home')).toEqual(before);
    const part = makePart(program, 'home', [boat, sun], 'Pair', counter())!;
    const placed = after(piece, part.operations);
    // The sun's span is not the part's, as the boat is always there.
    expect(film(placed, 'home').map((shot) => shot.filter((one) => !one.startsWith('sun')))).toEqual(
      before.map((shot) => shot.filter((one) => !one.startsWith('sun')))
    );
    const alone = makePart(program, 'home', [sun], 'Sun', counter())!;
    const single = after(piece, alone.operations);
    expect(film(single, 'home')).toEqual(before);
    const apart = takeApart(compile(single), alone.placement!, counter('apart'));
    expect(film(after(single, apart.operations), 'home')).toEqual(before);
    const sheet = makeSheet(program, 'home', [boat], 'Boats', ['home', 'other'], 'over', counter())!;
    const carried = after(piece, sheet.operations);
    const own = scenesOf(carried, 'sheet')[0]!.timeline!;
    expect([own.length, Object.keys(own.tracks!).length, carried.scenes.get('home')!.timeline!.tracks]).toEqual([30, 3, undefined]);
    expect(layersUnder(carried, scenesOf(carried, 'sheet')[0]!.id, null)).toHaveLength(1);
  });

  test('a layer that is deleted takes what it has in time with it, and undo brings both back', () => {
    const { piece: gone, inverse } = unwrap(apply(piece, removeLayers(piece, [boat])));
    expect(gone.scenes.get('home')!.timeline!.tracks).toBeUndefined();
    expect(film(after(gone, inverse), 'home')).toEqual(before);
  });
});
