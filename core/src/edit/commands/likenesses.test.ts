import { describe, expect, it } from 'vitest';
import { compose, layerId, type ComposeSpec, type SceneSpec } from '../../compose/compose.ts';
import { layerIdsOf, scenesOf, type Piece } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import type { Program } from '../../program/program.ts';
import { unwrap } from '../../result.ts';
import { resolveScreen } from '../../run/resolve.ts';
import { begin } from '../../run/run.ts';
import { apply } from '../apply.ts';
import type { Operation } from '../operation.ts';
import { duplicateFrame } from './frames.ts';
import { likenessesOf, standIn } from './likenesses.ts';
import { makePart } from './parts.ts';

const counter = () => {
  let n = 0;
  return (...given: unknown[]) => {
    // Makers of ids may take it for the length of one.
    expect(given).toEqual([]);
    return `new${n++}`;
  };
};
const after = (program: Program, operations: readonly Operation[]): Program => compile(unwrap(apply(program.piece, operations)).piece);
const namesIn = (piece: Piece, scene: string) => [...layerIdsOf(piece, scene)].map((id) => piece.layers.get(id)!.name).sort();

/** A head with a title and a way home, at a height. */
const head = (title: string, y = 0, line = 'click → go to home'): SceneSpec['layers'] => ({
  bar: { at: [0, y, 390, 88], style: { fill: '#123456' } },
  title: { type: 'text', at: [20, y + 30, 200, 30], text: title },
  out: { type: 'group', at: [300, y + 20, 60, 50] },
  arrow: { in: 'out', at: [10, 0, 40, 40], lines: [line] },
});

const made = (spec: ComposeSpec, layers: readonly string[]): { program: Program; part: string; makeId: () => string } => {
  const makeId = counter();
  const program = compile(compose(spec));
  const frame = scenesOf(program.piece, 'frame')[0]!;
  const extracted = makePart(
    program,
    frame.id,
    layers.map((name) => layerId('home', name)),
    'Head',
    makeId
  )!;
  return { program: after(program, extracted.operations), part: extracted.scene, makeId };
};

/** What is seen of each frame: leaf layers by where they are and how they look. */
const seen = (program: Program) =>
  program.frames.map((frame) =>
    resolveScreen(program, begin(program, frame)!.run)
      .surfaces.flatMap(({ all }) => all)
      .filter(({ node }) => node.children.length === 0)
      .map(({ matrix, width, height, style, text }) => JSON.stringify([matrix, width, height, style, text]))
      .sort()
  );

describe('layers that are as those of a part', () => {
  const spec: ComposeSpec = {
    frames: {
      home: { layers: head('Ferries')! },
      tides: { layers: head('Tides', 40)! },
      pay: { layers: { ...head('Pay'), more: { at: [0, 400, 50, 50] } } },
      low: { layers: { ...head('Low'), title: { type: 'text', at: [20, 44, 200, 30], text: 'Low' } } },
      far: { layers: head('Far', 0, 'click → go to pay')! },
      red: { layers: { ...head('Red'), bar: { at: [0, 0, 390, 88], style: { fill: '#ff0000' } } } },
    },
    sheets: { under: { size: [390, 844], layers: head('Under')! } },
  };

  it('are found in copies of the frame that the part was made on, and in copies of those', () => {
    const makeId = counter();
    let program = compile(compose({ frames: { home: { layers: head('Ferries')! } } }));
    let last = scenesOf(program.piece, 'frame')[0]!.id;
    for (let i = 0; i < 2; i++) {
      const { operations, id } = duplicateFrame(program.piece, last, makeId);
      program = after(program, operations);
      last = id;
    }
    const layers = ['bar', 'title', 'out'].map((name) => layerId('home', name));
    const { operations, scene } = makePart(program, program.frames[0]!, layers, 'Head', makeId)!;
    program = after(program, operations);
    expect(likenessesOf(program, scene).map((one) => one.scene)).toEqual(program.frames.slice(1));
  });

  it('are found wherever they stand so to each other, look and do the same, but for their words', () => {
    const { program, part } = made(spec, ['bar', 'title', 'out']);
    const found = likenessesOf(program, part);
    expect(found.map(({ scene, fills }) => [scene, Object.values(fills)])).toEqual([
      ['tides', [{ text: 'Tides' }]],
      ['pay', [{ text: 'Pay' }]],
      ['under', [{ text: 'Under' }]],
    ]);
    expect([...found[0]!.names.keys()].sort()).toEqual(['tides_arrow', 'tides_bar', 'tides_out', 'tides_title']);
  });

  it('give place to the part, filled in, and all is seen as before', () => {
    const { program, part, makeId } = made(spec, ['bar', 'title', 'out']);
    const then = after(program, standIn(program, part, likenessesOf(program, part), makeId));
    expect(seen(then)).toEqual(seen(program));
    expect(namesIn(then.piece, 'tides')).toEqual(['Head']);
    expect(namesIn(then.piece, 'pay')).toEqual(['Head', 'more']);
    expect(namesIn(then.piece, 'far')).toContain('bar');
    expect(likenessesOf(then, part)).toEqual([]);
  });

  it('are found more than once in a scene, each with what is its own', () => {
    const card = (i: number): SceneSpec['layers'] => ({
      [`card ${i}`]: { at: [20, 100 * i, 300, 80] },
      [`word ${i}`]: { type: 'text', at: [30, 100 * i + 10, 100, 20], text: `Pier ${i}` },
    });
    const { program, part, makeId } = made({ frames: { home: { layers: { ...card(1), ...card(2), ...card(3) } } } }, ['card 1', 'word 1']);
    expect(likenessesOf(program, part).map(({ fills }) => Object.values(fills)[0])).toEqual([{ text: 'Pier 2' }, { text: 'Pier 3' }]);
    const then = after(program, standIn(program, part, likenessesOf(program, part), makeId));
    expect(namesIn(then.piece, 'home')).toEqual(['Head', 'Head 2', 'Head 3']);
    expect(seen(then)).toEqual(seen(program));
  });

  it('what speaks of them in their scene speaks of those of the part', () => {
    const { program, part, makeId } = made(
      {
        frames: {
          home: { layers: { bar: { at: [0, 0, 390, 88] }, lamp: { at: [9, 9, 9, 9] } } },
          tides: {
            layers: { bar: { at: [0, 0, 390, 88] }, lamp: { at: [9, 9, 9, 9] }, off: { at: [0, 200, 90, 90], lines: ['click → hide lamp'] } },
          },
          pay: { states: { Dark: { lamp: { style: { fill: '#000000' } } } }, layers: { bar: { at: [0, 0, 390, 88] }, lamp: { at: [9, 9, 9, 9] } } },
        },
      },
      ['bar', 'lamp']
    );
    const then = after(program, standIn(program, part, likenessesOf(program, part), makeId));
    const lamp = [...layerIdsOf(then.piece, part)].find((id) => then.piece.layers.get(id)!.name === 'lamp')!;
    const inTides = [...then.piece.threads.values()].find(({ owner }) => owner === 'tides_off')!;
    expect(JSON.stringify(inTides.branches)).toContain(`/${lamp}"`);
    expect(Object.keys(Object.values(then.piece.scenes.get('pay')!.states!)[0]!.deltas)[0]).toMatch(new RegExp(`/${lamp}$`));
  });

  it('are found in other parts, too; of a part without layers nothing is like it', () => {
    const program = compile(
      compose({
        parts: {
          Inner: { size: [90, 90], layers: { dot: { at: [0, 0, 9, 9] } } },
          Outer: { size: [90, 90], layers: { dot: { at: [0, 0, 9, 9] }, in: { type: 'placement', part: 'Inner', at: [0, 20, 9, 9] } } },
          None: { size: [9, 9], layers: {} },
        },
        frames: { home: { layers: { dot: { at: [50, 50, 9, 9] } } } },
      })
    );
    expect(likenessesOf(program, 'Inner').map(({ scene }) => scene)).toEqual(['home', 'Outer']);
    expect(likenessesOf(program, 'None')).toEqual([]);
  });
});
