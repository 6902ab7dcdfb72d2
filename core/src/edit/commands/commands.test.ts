import { describe, expect, test } from 'vitest';
import { compose, layerId } from '../../compose/compose.ts';
import { framesOf, layersUnder, statesOf, threadsOf, type Piece } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import { type Program } from '../../program/program.ts';
import { unwrap } from '../../result.ts';
import { build, click, go } from '../../testing/build.ts';
import { apply } from '../apply.ts';
import type { Operation } from '../operation.ts';
import { copyLayers, pasteClip, readClip, type Clip } from './clip.ts';
import { duplicateFrame, moveFrames, newFrame } from './frames.ts';
import { bringInPages } from './pages.ts';
import { alignLayers, groupLayers, moveInto, resizeLayers, restack, spreadLayers, ungroupLayers } from './layers.ts';
import { pairWith, threadsByName, wireToLabel } from './pairs.ts';
import { likelyFrames, readingOrder, wireTo } from './threads.ts';

const counter = () => {
  let n = 0;
  return () => `new${n++}`;
};

const after = (piece: Piece, operations: Operation[]): Program => compile(unwrap(apply(piece, operations)).piece);

const box = (program: Program, id: string, scene = 'home') => program.scenes.get(scene)!.byId.get(id)!.box;

const three = () => build({ home: { layers: { a: { at: [10, 10, 40, 20] }, b: { at: [100, 30, 20, 20] }, c: { at: [300, 90, 60, 40] } } }, pay: {} });

describe('frames', () => {
  const asset = (n: number) => ({
    id: String(n).repeat(64).slice(0, 64),
    name: 'x',
    mediaType: 'image/png' as const,
    size: 10,
    width: 100 + n,
    height: 50,
  });

  test('pages come in natural order, named after their files, at their size or fitted', () => {
    const piece = build({ first: { name: 'Frame 1' } });
    const pages = ['page 10.png', 'page 2.png', 'dir/Page 1.jpeg'].map((file, n) => ({ asset: asset(n + 1), file }));
    const own = after(piece, bringInPages(piece, pages, false, counter()).operations);
    expect(framesOf(own.piece).map((frame) => [frame.name, frame.width])).toEqual([
      ['Page 1', 103],
      ['page 2', 102],
      ['page 10', 101],
    ]);
    expect(own.piece.head.start).toEqual([framesOf(own.piece)[0]!.id]);
    const fitted = after(piece, bringInPages(piece, pages, true, counter()).operations);
    expect(framesOf(fitted.piece)[0]).toMatchObject({ width: 390, height: 844 });
  });

  test('a frame that has something in it stays when pages come in', () => {
    const piece = three();
    const program = after(piece, bringInPages(piece, [{ asset: asset(1), file: 'a.png' }], false, counter()).operations);
    expect(framesOf(program.piece).map((frame) => frame.name)).toEqual(['home', 'pay', 'a']);
  });

  test('new frames get free names; duplicates keep layers and wiring', () => {
    const piece = build({ home: { layers: { buy: { threads: [click(go('home'))] } }, threads: [click(go('next'))] } });
    const named = after(piece, newFrame(piece, 'x', { name: 'home' }));
    expect(framesOf(named.piece).map((frame) => frame.name)).toEqual(['home', 'home 2']);
    const { operations, id } = duplicateFrame(piece, 'home', counter());
    const copy = after(piece, operations);
    const [layer] = layersUnder(copy.piece, id, null);
    expect(layer!.copyOf).toBe('buy');
    expect(threadsOf(copy.piece, layer!.id)).toHaveLength(1);
    expect(threadsOf(copy.piece, id)).toHaveLength(1);
  });

  test('frames move before another', () => {
    const piece = build({ a: {}, b: {}, c: {}, d: {} });
    const names = (operations: Operation[]) => after(piece, operations).frames.join('');
    expect(names(moveFrames(piece, ['d', 'c'], 'a'))).toBe('cdab');
    expect(names(moveFrames(piece, ['a'], null))).toBe('bcda');
  });
});

describe('layers', () => {
  test('align and spread', () => {
    const piece = three();
    const program = compile(piece);
    const right = after(piece, alignLayers(program, 'home', ['a', 'b', 'c'], 'right'));
    expect(['a', 'b', 'c'].map((id) => box(right, id).x)).toEqual([320, 340, 300]);
    const spread = after(piece, spreadLayers(program, 'home', ['a', 'b', 'c'], 'x'));
    expect(['a', 'b', 'c'].map((id) => box(spread, id).x)).toEqual([10, 165, 300]);
    expect(box(after(piece, alignLayers(program, 'home', ['a'], 'center')), 'a').x).toBe(175);
  });

  test('grouping and taking apart change nothing on the screen', () => {
    const piece = three();
    const grouped = after(piece, groupLayers(compile(piece), 'home', ['a', 'c'], 'g'));
    expect(box(grouped, 'c')).toEqual(box(compile(piece), 'c'));
    expect(box(grouped, 'g')).toEqual({ x: 10, y: 10, width: 350, height: 120 });
    const { operations, ids } = ungroupLayers(grouped.piece, ['g']);
    const apart = after(grouped.piece, operations);
    expect(ids).toEqual(['a', 'c']);
    expect(box(apart, 'a')).toEqual(box(compile(piece), 'a'));
  });

  test('stretching a group stretches what is in it, groups in groups too', () => {
    const piece = three();
    const inner = after(piece, groupLayers(compile(piece), 'home', ['a', 'b'], 'g'));
    const outer = after(inner.piece, groupLayers(inner, 'home', ['g', 'c'], 'h'));
    const from = box(outer, 'h');
    const program = after(outer.piece, resizeLayers(outer, 'home', ['h'], from, { x: 0, y: 0, width: from.width * 2, height: from.height * 2 }));
    expect(box(program, 'h')).toEqual({ x: 0, y: 0, width: from.width * 2, height: from.height * 2 });
    expect(box(program, 'b')).toEqual({ x: 180, y: 40, width: 40, height: 40 });
    expect(box(program, 'c')).toEqual({ x: 580, y: 160, width: 120, height: 80 });
  });

  test('restacking by one and to the ends', () => {
    const piece = three();
    const order = (operations: Operation[]) =>
      layersUnder(after(piece, operations).piece, 'home', null)
        .map((layer) => layer.id)
        .join('');
    expect(order(restack(piece, ['a'], 'forward'))).toBe('bac');
    expect(order(restack(piece, ['a', 'b'], 'front'))).toBe('cab');
    expect(order(restack(piece, ['c'], 'backward'))).toBe('acb');
    expect(order(restack(piece, ['c'], 'back'))).toBe('cab');
    expect(order(restack(piece, ['c'], 'front'))).toBe('abc');
    expect(order(moveInto(compile(piece), ['c'], 'home', null, 1))).toBe('acb');
  });

  test('copies keep looks and wiring and know what they are copies of; from a group they land where they were', () => {
    const piece = build({
      home: { layers: { g: { type: 'group', at: [50, 50, 1, 1] }, a: { parent: 'g', at: [10, 10, 40, 20], threads: [click(go('pay'))] } } },
      pay: {},
    });
    const program = compile(piece);
    const clip = copyLayers(program, 'home', ['a']);
    const { operations, ids } = pasteClip(piece, clip, 'pay', counter(), { x: 5, y: 0 });
    const pasted = after(piece, operations);
    expect(box(pasted, ids[0]!, 'pay')).toEqual({ x: 65, y: 60, width: 40, height: 20 });
    expect(pasted.piece.layers.get(ids[0]!)!.copyOf).toBe('a');
    const again = pasteClip(pasted.piece, clip, 'pay', counter());
    expect((again.operations[0] as { value: { name: string } }).value.name).toBe('a 2');
    expect(threadsOf(pasted.piece, ids[0]!)[0]!.branches[0]!.steps[0]).toMatchObject({ target: { frame: 'pay' } });
  });

  test('copies in their own scene can go along with the originals from state to state', () => {
    const piece = compose({
      parts: { Icon: { layers: { bar: { at: [0, 0, 10, 2] } } } },
      frames: {
        home: {
          layers: { dot: { at: [10, 10, 20, 20], style: { fill: '#112233' } }, icon: { type: 'placement', part: 'Icon', at: [50, 10, 20, 20] } },
          states: { One: {}, Two: { dot: { pose: { x: 100 }, style: { fill: '#445566' } }, icon: { pose: { y: 30 } } } },
        },
      },
    });
    const clip = copyLayers(compile(piece), 'home', [layerId('home', 'dot'), layerId('home', 'icon')]);
    const paste = (withStates: boolean) => {
      const { operations, ids } = pasteClip(piece, clip, 'home', counter(), { x: 0, y: 40 }, withStates);
      const { deltas } = statesOf(after(piece, operations).piece.scenes.get('home')!)[1]!;
      return ids.map((id) => deltas[id]);
    };
    expect(paste(true)).toEqual([{ pose: { x: 100 }, style: { fill: '#445566' } }, { pose: { y: 70 } }]);
    expect(paste(false)).toEqual([undefined, undefined]);
  });

  test('in another piece targets are left to be chosen', () => {
    const clip = copyLayers(compile(build({ home: { layers: { a: { threads: [click(go('home'))] } } } })), 'home', ['a']);
    const other = build({ there: {} });
    const { operations, ids } = pasteClip(other, { ...clip, piece: 'elsewhere' }, 'there', counter());
    const step = threadsOf(after(other, operations).piece, ids[0]!)[0]!.branches[0]!.steps[0];
    expect(step).toMatchObject({ target: { frame: null } });
  });
});

describe('threads', () => {
  test('pairs by name or text, and by place and frame order where no name fits', () => {
    const piece = build({
      menu: { layers: { one: { at: [0, 0, 50, 50] }, two: { at: [100, 8, 50, 50] }, three: { at: [0, 100, 50, 50], text: 'fares' } } },
      Boats: {},
      Fares: {},
      Piers: {},
    });
    const layers = layersUnder(piece, 'menu', null).reverse();
    const frames = framesOf(piece).slice(1);
    expect(pairWith(piece, layers, frames)).toEqual([
      { layer: 'one', partner: null, by: null },
      { layer: 'two', partner: null, by: null },
      { layer: 'three', partner: 'Fares', by: 'name' },
    ]);
    const places = pairWith(piece, layers.slice(1), frames);
    expect(places).toEqual([
      { layer: 'one', partner: 'Boats', by: 'order' },
      { layer: 'two', partner: 'Fares', by: 'order' },
    ]);
    expect(readingOrder(layers).map((layer) => layer.id)).toEqual(['one', 'two', 'three']);
  });

  test('threads for many layers lead where each is called after, and elsewhere as they were copied', () => {
    const push = { type: 'push', direction: 'left', ms: 300, easing: 'ease' } as const;
    const piece = build({
      menu: { layers: { boats: {}, sign: { text: 'See all fares' }, other: {} } },
      Boats: {},
      Fares: {},
    });
    const layers = layersUnder(piece, 'menu', null);
    const copied = [
      {
        cue: { type: 'click' as const },
        branches: [{ if: '‹v› > 1', steps: [go('Boats', push)] }, { steps: [{ do: 'send' as const, signal: 'none' }] }],
      },
    ];
    const own = threadsByName(piece, layers, () => copied);
    expect(own.get('boats')).toEqual({ threads: copied, frame: null });
    expect(own.get('other')).toEqual({ threads: copied, frame: null });
    const fares = own.get('sign')!;
    expect(fares.frame).toBe('Fares');
    expect(fares.threads[0]!.branches).toEqual([{ if: '‹v› > 1', steps: [go('Fares', push)] }, copied[0]!.branches[1]]);
    // What leads to no frame is the same for all.
    const sent = [{ cue: { type: 'click' as const }, branches: [copied[0]!.branches[1]!] }];
    for (const one of threadsByName(piece, layers, () => sent).values()) expect(one).toEqual({ threads: sent, frame: null });
  });

  test('wiring keeps a transition and makes a thread where there is none', () => {
    const push = { type: 'push', direction: 'left', ms: 300, easing: 'ease' } as const;
    const piece = build({ home: { layers: { a: { threads: [click(go('home', push))] }, b: {} } }, pay: {} });
    const wired = after(piece, wireTo(piece, ['a', 'b'], 'pay', counter())).piece;
    expect(threadsOf(wired, 'a')[0]!.branches[0]!.steps[0]).toEqual(go('pay', push));
    expect(threadsOf(wired, 'b')[0]!.branches[0]!.steps[0]).toEqual(go('pay'));
  });

  test('what only leads somewhere leads elsewhere; what does more keeps it and gets a thread', () => {
    const spec = {
      frames: {
        home: {
          timeline: { length: 20, labels: { Help: [0, 'hold'] as const } },
          layers: {
            web: { at: [0, 0, 9, 9] as const, lines: ['click → open https://tides.example in new tab'] },
            more: { at: [0, 20, 9, 9] as const, lines: ['click → open https://tides.example in new tab; send left'] },
          },
        },
        pay: {},
      },
    };
    const piece = compose(spec);
    const stepsOf = (program: Program, name: string) =>
      threadsOf(program.piece, layerId('home', name)).map(({ branches }) => branches[0]!.steps.map((step) => step.do));
    const [label] = Object.keys([...piece.scenes.values()].find(({ timeline }) => timeline)!.timeline!.labels!);
    for (const [name, kept] of [
      ['web', []],
      ['more', [['open', 'send']]],
    ] as const) {
      const id = layerId('home', name);
      expect(stepsOf(after(piece, wireToLabel(piece, id, undefined, label!, counter())), name)).toEqual([...kept, ['play']]);
      expect(stepsOf(after(piece, wireTo(piece, [id], 'pay', counter())), name)).toEqual([...kept, ['go']]);
    }
  });

  test('likely frames: same name, then next in order, then those that neighbours lead to, itself last', () => {
    const piece = build({ a: {}, home: { layers: { x: { text: 'd' }, y: { threads: [click(go('b'))] } } }, b: {}, c: {}, d: {} });
    const names = likelyFrames(piece, piece.layers.get('x')!, 'home', framesOf(piece)).map((frame) => frame.id);
    expect(names).toEqual(['d', 'c', 'a', 'b', 'home']);
  });
});

describe('a clip from the clipboard', () => {
  const given = compose({
    frames: {
      Quay: {
        layers: { Boat: { at: [0, 0, 20, 10], lines: ['click → back'] } },
        timeline: { length: 24, tracks: [['Boat', 'x', [[0, 5] as const, [12, 9] as const]]] },
      },
    },
  });
  const boat = layerId('Quay', 'Boat');
  const [quay] = [...given.scenes.keys()] as [string];
  const clip = copyLayers(compile(given), quay, [boat]);

  test('is what was copied; one of format 2 has its keys by id', () => {
    expect(unwrap(readClip(JSON.stringify(clip)))).toEqual(clip);
    const { format: _format, ...old } = JSON.parse(JSON.stringify(clip)) as Clip;
    const lists = { ...old, time: { ...old.time!, tracks: old.time!.tracks.map((track) => ({ ...track, keys: Object.values(track.keys) })) } };
    expect(unwrap(readClip(JSON.stringify(lists)))).toEqual(clip);
    expect(unwrap(readClip(JSON.stringify({ ...lists, format: 'zany-thread/2' })))).toEqual(clip);
  });

  test('of another format is refused by name, anything else as what cannot be read', () => {
    expect(readClip(JSON.stringify({ ...clip, format: 'zany-thread/9' }))).toMatchObject({
      ok: false,
      error: { code: 'other-format', sentence: expect.stringMatching(/zany-thread\/9/) as string },
    });
    for (const bad of [
      '',
      'null',
      '[]',
      '{"kind":"zany-thread/clip"}',
      JSON.stringify({ ...clip, layers: [7] }),
      JSON.stringify({ ...clip, time: { tracks: 3 } }),
      JSON.stringify({ ...clip, time: { ...clip.time, tracks: [7] } }),
      JSON.stringify({ ...clip, styles: { swatches: { a: null } } }),
    ])
      expect(readClip(bad)).toMatchObject({ ok: false, error: { code: 'unreadable' } });
  });
});
