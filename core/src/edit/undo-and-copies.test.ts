import { keysOf } from '../motion/track.ts';
import { describe, expect, test } from 'vitest';
import { compose } from '../compose/compose.ts';
import { mixPaths } from '../motion/path.ts';
import { compile } from '../program/compile.ts';
import { update, type Program } from '../program/program.ts';
import { stillScreen } from '../run/still.ts';
import { unwrap } from '../result.ts';
import { apply } from './apply.ts';
import { copyLayers, pasteClip } from './commands/clip.ts';
import { moveInto, restack } from './commands/layers.ts';
import { renamedLayer, renamedThread } from './commands/remap.ts';
import type { Thread } from '../piece/piece.ts';
import type { Operation } from './operation.ts';

const edited = (program: Program, operations: readonly Operation[]) => {
  const { piece, touched, inverse } = unwrap(apply(program.piece, operations));
  return { program: update(program, piece, touched), inverse };
};

const keysOn = (program: Program) => stillScreen(program, 'home')!.surfaces.flatMap(({ all }) => all.map(({ node }) => node.key));

describe('what was away and is back', () => {
  const program = compile(
    compose({
      parts: { card: { size: [100, 100], layers: { word: { type: 'text', text: 'Bay' } } } },
      sheets: { bar: { layers: { tab: {} } } },
      frames: { home: { over: ['bar'], layers: { card: { type: 'placement', part: 'card', at: [0, 0, 100, 100] } } } },
    })
  );

  test.each(['card', 'bar'])('%s deleted and undone is seen again, though nobody touched the frame', (id) => {
    const before = keysOn(program);
    const gone = edited(program, [{ op: 'remove', table: 'scenes', id }]);
    expect(keysOn(gone.program).length).toBeLessThan(before.length);
    expect(keysOn(edited(gone.program, gone.inverse).program)).toEqual(before);
  });

  test('a new variable of a scene is in its list, and gone from it once undone', () => {
    const made = edited(program, [
      { op: 'put', table: 'variables', value: { id: 'n', scene: 'home', order: 'a0', name: 'n', type: 'number', initial: 0 } as { id: string } },
    ]);
    const names = (of: Program) => of.scenes.get('home')!.variables.map(({ name }) => name);
    expect(names(made.program)).toEqual(['n']);
    expect(names(edited(made.program, made.inverse).program)).toEqual([]);
  });
});

describe('copies', () => {
  test('of layers whose ids are words of the format are whole', () => {
    const piece = compose({ frames: { home: { layers: {} } } });
    const ids = ['box', 'text', 'pose', 'click', 'name', 'layer', 'left'];
    const layer = (id: string, i: number): Operation => ({
      op: 'put',
      table: 'layers',
      value: {
        id,
        scene: 'home',
        parent: null,
        order: `a${i}`,
        name: id,
        type: 'box',
        pose: { x: 0, y: 0, width: 9, height: 9 },
        style: {},
        text: id,
      } as { id: string },
    });
    const line: Operation = {
      op: 'put',
      table: 'threads',
      value: {
        id: 't',
        on: 'layer',
        owner: 'box',
        order: 'a0',
        enabled: true,
        cue: { type: 'swipe', direction: 'left' },
        branches: [{ steps: [{ do: 'show', layer: 'left', what: 'on', transition: { type: 'cut' } }] }],
      } as { id: string },
    };
    const world = unwrap(apply(piece, [...ids.map(layer), line])).piece;
    let n = 0;
    const pasted = pasteClip(world, copyLayers(compile(world), 'home', ids), 'home', () => `new${n++}`);
    const made = unwrap(apply(world, pasted.operations)).piece;
    const copies = pasted.ids.map((id) => made.layers.get(id)!);
    expect(copies.map(({ type, text, pose }) => [type, text, pose.width])).toEqual(ids.map((id) => ['box', id, 9]));
    const thread = [...made.threads.values()].find(({ owner }) => owner === pasted.ids[0])!;
    expect(thread.cue).toEqual({ type: 'swipe', direction: 'left' });
    expect(thread.branches[0]!.steps[0]).toMatchObject({ layer: pasted.ids[6] });
  });

  test('ids stand in fields that hold ids, in paths and in references alone', () => {
    const names = new Map([
      ['a', 'A'],
      ['b', 'B'],
    ]);
    const thread: Thread = {
      id: 'a',
      on: 'layer',
      owner: 'b',
      order: 'a0',
      cue: { type: 'key', key: 'a' },
      branches: [{ if: '‹a› = "a"', steps: [{ do: 'move', layer: 'a/b', how: 'to', x: 'a + ‹b›.x', y: '0' }] }],
      enabled: true,
    };
    const { id, owner, cue, branches } = renamedThread(thread, names);
    expect({ id, owner, cue, branches }).toEqual({
      id: 'A',
      owner: 'B',
      cue: { type: 'key', key: 'a' },
      branches: [{ if: '‹A› = "a"', steps: [{ do: 'move', layer: 'A/B', how: 'to', x: 'a + ‹B›.x', y: '0' }] }],
    });
    const layer = { name: 'a', text: 'a {‹a›}', looks: { hover: { inside: { 'a/c': { text: '{‹b›} ‹ a' } } } } };
    expect(renamedLayer(layer, names)).toEqual({ name: 'a', text: 'a {‹A›}', looks: { hover: { inside: { 'A/c': { text: '{‹B›} ‹ a' } } } } });
  });
});

describe('places', () => {
  const program = compile(
    compose({
      frames: {
        home: {
          states: { one: {}, two: { out: { pose: { x: 300 } } } },
          timeline: {
            length: 9,
            tracks: [
              [
                'out',
                'y',
                [
                  [0, 200],
                  [8, 260],
                ],
              ],
            ],
          },
          layers: {
            page: { at: [0, 0, 390, 844], locked: true },
            g: { type: 'group', at: [100, 50, 1, 1] },
            in: { in: 'g', at: [10, 10, 40, 40] },
            out: { at: [200, 200, 40, 40] },
          },
        },
      },
    })
  );
  const id = (name: string) => `home_${name}`;

  test('a layer put into a group or out of it stays where it is, in states and in time too', () => {
    const into = edited(program, moveInto(program, [id('out')], 'home', id('g'), 1)).program;
    expect(into.scenes.get('home')!.byId.get(id('out'))!.box).toMatchObject({ x: 200, y: 200 });
    expect(into.piece.layers.get(id('out'))!.pose).toMatchObject({ x: 100, y: 150 });
    const scene = into.piece.scenes.get('home')!;
    expect(Object.values(scene.states!)[1]!.deltas[id('out')]!.pose).toEqual({ x: 200 });
    expect(keysOf(Object.values(scene.timeline!.tracks!)[0]!).map(({ value }) => value)).toEqual([150, 210]);
    const out = edited(into, moveInto(into, [id('out')], 'home', null, 2)).program;
    expect(out.piece.layers.get(id('out'))!.pose).toMatchObject({ x: 200, y: 200 });
  });

  test('to the back is in front of the page that is locked there', () => {
    const back = edited(program, restack(program.piece, [id('out')], 'back')).program;
    expect(
      back.scenes
        .get('home')!
        .items.filter(({ parent }) => !parent)
        .map(({ layer }) => layer.name)
    ).toEqual(['page', 'out', 'g']);
    const again = edited(back, restack(back.piece, [id('out')], 'backward')).program;
    expect(again.scenes.get('home')!.items[1]!.layer.name).toBe('out');
    const page = edited(back, restack(back.piece, [id('page')], 'front')).program;
    expect(edited(page, restack(page.piece, [id('page')], 'back')).program.scenes.get('home')!.items[0]!.layer.name).toBe('page');
  });
});

test('between two arcs the numbers are mixed and the flags are not', () => {
  const [a, b] = ['M0 0 A10 10 0 0 1 20 0', 'M0 0A20,20,0,1,1,40,0'];
  expect(mixPaths(a, b, 0.25).replaceAll(/\s+/g, ' ')).toBe('M 0 0A 12.5 12.5 0 0 1 25 0');
  expect(mixPaths(a, b, 0.75).replaceAll(/\s+/g, ' ')).toBe('M 0 0A 17.5 17.5 0 1 1 35 0');
  expect(mixPaths('M0 0a10 10 0 0110 10', 'M0 0a10 10 0 0120 10', 0.5).replaceAll(/\s+/g, ' ')).toBe('M 0 0a 10 10 0 0 1 15 10');
});
