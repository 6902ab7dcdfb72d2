import { describe, expect, it } from 'vitest';
import { layersUnder, scenesOf, threadsOf, type Piece } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import { type Program } from '../../program/program.ts';
import { stillScreen } from '../../run/still.ts';
import { unwrap } from '../../result.ts';
import { advance, start } from '../../run/run.ts';
import type { RunEvent } from '../../run/state.ts';
import { resolveScreen, type Screen } from '../../run/resolve.ts';
import { compose, layerId, stateId } from '../../compose/compose.ts';
import { apply } from '../apply.ts';
import type { Operation } from '../operation.ts';
import { carriersOf, makePart, makeSheet, partHolds, placementsOf, placePart, replacePart, takeApart } from './parts.ts';

const counter = () => {
  let n = 0;
  return () => `new${n++}`;
};
const after = (piece: Piece, operations: readonly Operation[]): Program => compile(unwrap(apply(piece, operations)).piece);

/** Everything that can be seen: leaf layers by where they are and how they look. */
const seen = (screen: Screen | null) =>
  screen?.surfaces
    .flatMap((surface) => surface.all)
    .filter(({ node }) => node.children.length === 0)
    .map(({ matrix, width, height, style, text, looks }) => JSON.stringify([matrix, width, height, style, text, looks]))
    .sort();

const id = (name: string) => layerId('home', name);

const home = (): Piece =>
  compose({
    frames: {
      home: {
        states: { Shut: {}, Open: { card: { pose: { x: 60 } }, word: { text: 'Open now' } } },
        layers: {
          card: { at: [20, 30, 200, 100], style: { fill: '#ff0000' }, lines: ['click → toggle this with Open'] },
          frame: { type: 'group', at: [100, 300, 1, 1] },
          word: { in: 'frame', at: [10, 5, 80, 20], type: 'text', text: 'Shut', when: { shown: 'not(Lamp.selected)' } },
          lamp: { in: 'frame', at: [0, 40, 30, 30], selected: false, lines: ['click → select or unselect lamp'] },
          Lamp: { at: [0, 600, 10, 10], selected: false },
          go: { at: [0, 700, 100, 50], lines: ['click → select Lamp; put this in Open; hide card'] },
        },
      },
      pay: {},
    },
  });

const after2 = (program: Program, events: readonly RunEvent[]) => {
  let run = start(program)!;
  for (const event of events) run = advance(program, run, event).run;
  return seen(resolveScreen(program, run));
};

const clickAt = (x: number, y: number): RunEvent[] => [
  { type: 'move', x, y },
  { type: 'press', x, y },
  { type: 'release', x, y },
];

describe('a part made of layers', () => {
  const make = () => {
    const piece = home();
    const made = makePart(compile(piece), 'home', [id('card'), id('frame')], 'Card', counter())!;
    return { piece, made, program: after(piece, made.operations) };
  };

  it('looks as its layers did, in every state', () => {
    const { piece, program } = make();
    for (const state of ['Shut', 'Open'].map((name) => stateId('home', name)))
      expect(seen(stillScreen(program, 'home', { state }))).toEqual(seen(stillScreen(compile(piece), 'home', { state })));
    expect(scenesOf(program.piece, 'part').map((part) => [part.name, part.width, part.height])).toEqual([['Card', 200, 340]]);
  });

  it('does what its layers did, and what others did with them', () => {
    const { piece, program } = make();
    for (const events of [clickAt(30, 40), clickAt(105, 345), clickAt(10, 710), [...clickAt(10, 710), ...clickAt(105, 345)]])
      expect(after2(program, events)).toEqual(after2(compile(piece), events));
  });

  it('comes apart again into the same picture', () => {
    const { piece, made, program } = make();
    const { operations, group } = takeApart(program, made.placement!, counter2());
    const apart = after(program.piece, operations);
    expect(seen(stillScreen(apart, 'home'))).toEqual(seen(stillScreen(compile(piece), 'home')));
    expect(apart.piece.layers.get(group!)!.type).toBe('group');
    expect(placementsOf(apart.piece, made.scene)).toEqual([]);
    expect(after2(apart, clickAt(10, 710))).toEqual(after2(compile(piece), clickAt(10, 710)));
  });

  it('is placed again, but never inside itself', () => {
    const { made, program } = make();
    const twice = after(program.piece, placePart(program.piece, 'pay', made.scene, 'again'));
    expect(twice.piece.layers.get('again')).toMatchObject({ name: 'Card', pose: { width: 200, height: 340 } });
    expect(placePart(program.piece, made.scene, made.scene, 'loop')).toEqual([]);
    expect(partHolds(program.piece, made.scene, 'home')).toBe(false);
  });
});

const counter2 = () => {
  const next = counter();
  return () => `x${next()}`;
};

it('a placement that shows another part keeps what fits: texts by name, the state by name', () => {
  const part = { size: [100, 40] as const, states: { Off: {}, On: {} }, layers: { label: { type: 'text' as const, text: 'a' } } };
  const piece = compose({
    parts: { One: part, Two: { ...part, size: [120, 60] }, Other: { layers: { title: { type: 'text', text: 'b' } } } },
    frames: { home: { layers: { it: { type: 'placement', part: 'One', state: 'On', at: [0, 0, 100, 40] } } } },
  });
  const filled = unwrap(
    apply(piece, [{ op: 'set', table: 'layers', id: id('it'), path: ['fills'], value: { [layerId('One', 'label')]: { text: 'Mine' } } }])
  ).piece;
  const two = after(filled, replacePart(filled, id('it'), 'Two')).piece.layers.get(id('it'))!;
  expect(two).toMatchObject({ part: 'Two', state: stateId('Two', 'On'), pose: { width: 120, height: 60 } });
  expect(two.fills).toEqual({ [layerId('Two', 'label')]: { text: 'Mine' } });
  const other = after(filled, replacePart(filled, id('it'), 'Other')).piece.layers.get(id('it'))!;
  expect([other.fills, other.state]).toEqual([undefined, undefined]);
});

it('a sheet carries layers across frames, with their threads; what named them still does', () => {
  const piece = compose({
    frames: {
      home: {
        layers: {
          bar: { at: [0, 0, 390, 80], selected: false, lines: ['click → go to pay'] },
          rest: { at: [0, 100, 50, 50], when: { shown: 'bar.selected' }, lines: ['click → select bar'] },
        },
      },
      pay: {},
      done: {},
    },
  });
  const made = makeSheet(compile(piece), 'home', [id('bar')], 'Top bar', ['home', 'pay'], 'over', counter())!;
  const program = after(piece, made.operations);
  expect(carriersOf(program.piece, made.scene).map((frame) => frame.name)).toEqual(['home', 'pay']);
  expect(layersUnder(program.piece, 'home', null).map((layer) => layer.name)).toEqual(['rest']);
  const [bar] = layersUnder(program.piece, made.scene, null);
  expect(threadsOf(program.piece, bar!.id)).toHaveLength(1);
  expect(program.piece.layers.get(id('rest'))!.bindings!.shown).toBe(`‹${bar!.id}›.selected`);
  expect(seen(stillScreen(program, 'pay'))).toHaveLength(1);
  expect(seen(stillScreen(program, 'done'))).toHaveLength(0);
});

it('words that read like the id of a layer stay words when it goes into a part', () => {
  const piece = compose({ frames: { home: { layers: { card: {}, bell: { lines: [`click → send ${id('card')}; hide card`] } } } } });
  const made = makePart(compile(piece), 'home', [id('card')], 'Card', counter())!;
  const program = after(piece, made.operations);
  expect(threadsOf(program.piece, id('bell'))[0]!.branches[0]!.steps).toMatchObject([
    { do: 'send', signal: id('card') },
    { do: 'show', layer: `${made.placement}/${made.names.get(id('card'))}` },
  ]);
});
