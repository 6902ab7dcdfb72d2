import { expect, test } from 'vitest';
import { compose, layerId, sceneId } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import type { Piece } from '../piece/piece.ts';
import { compile } from '../program/compile.ts';
import { expand } from '../program/expand.ts';
import { update } from '../program/program.ts';

import { keysById } from '../motion/track.ts';
import { unwrap } from '../result.ts';
import type { Exploring } from './exploration.ts';
import { explore, exploring } from './explore.ts';
import { judge } from './audit.ts';

/** Rules keep what they said of a scene that no edit touched; what they said of it may depend on an edit elsewhere. */

type Spec = Parameters<typeof compose>[0];

/** What rules say of a piece before and after an edit elsewhere: the same as of the edited piece by itself. */
function beforeAndAfter(spec: Spec, rule: string, edit: (piece: Piece) => Operation): readonly [before: string[], after: string[]] {
  const piece = compose(spec);
  const program = compile(piece);
  const says = (one: typeof program) =>
    judge(one, explore(one))
      .findings.filter((found) => found.rule === rule)
      .map(({ sentence }) => sentence);
  const before = says(program);
  const edited = unwrap(apply(piece, [edit(piece)]));
  const after = says(update(program, edited.piece, edited.touched));
  expect(after).toEqual(says(compile(edited.piece)));
  return [before, after];
}

const off = (piece: Piece, layer: string): Operation => {
  const [thread] = [...piece.threads.values()].filter(({ owner }) => owner === layer);
  return { op: 'set', table: 'threads', id: thread!.id, path: ['enabled'], value: false };
};

const tile = { size: [100, 60] as const, lines: ['click → go to shop'], layers: { face: { at: [0, 0, 100, 60] as const } } };
const placed = { type: 'placement', part: 'tile', at: [0, 200, 100, 30] } as const;
const shop = { layers: { back: { at: [0, 0, 100, 60] as const, text: 'Back', lines: ['click → go to home'] } } };

test('small-hit: a placement is no longer pressed when the thread of its part is off', () => {
  const spec: Spec = { parts: { tile }, frames: { home: { layers: { placed } }, shop } };
  const part = (piece: Piece) => [...piece.scenes.values()].find(({ use }) => use === 'part')!.id;
  const [before, after] = beforeAndAfter(spec, 'small-hit', (piece) => off(piece, part(piece)));
  expect([before.length, after.length]).toEqual([1, 0]);
});

test('small-hit: what is pressed in a part is told with the frame it is seen on, as that is called now', () => {
  const button = { at: [0, 0, 30, 30] as const, text: 'Go', lines: ['click → go to shop'] };
  const spec: Spec = {
    parts: { tile: { size: [100, 60], layers: { button } } },
    frames: { home: { layers: { placed: { ...placed, at: [0, 200, 100, 60] } } }, shop },
  };
  const home = (piece: Piece) => [...piece.scenes.values()].find(({ name }) => name === 'home')!.id;
  const [before, after] = beforeAndAfter(spec, 'small-hit', (piece) => ({
    op: 'set',
    table: 'scenes',
    id: home(piece),
    path: ['name'],
    value: 'Harbour',
  }));
  expect(before[0]).toContain('home');
  expect(after[0]).toContain('Harbour');
});

test('low-contrast: what is given keys once all was explored is read where they bring it, and no more once they are gone', () => {
  const word = { type: 'text', text: 'Tide', at: [0, 200, 200, 40], style: { ink: '#000000' } } as const;
  const on = { at: [0, 0, 100, 60] as const, text: 'Go', lines: ['click → go to shop'] };
  const track = {
    layer: layerId('home', 'word'),
    property: 'ink',
    keys: keysById([
      { time: 0, value: '#000000' },
      { time: 20, value: '#dddddd' },
    ]),
  };
  const piece = compose({ frames: { home: { timeline: { length: 48 }, layers: { word, on } }, shop } });
  const put = (value: unknown): Operation => ({ op: 'set', table: 'scenes', id: sceneId('home'), path: ['timeline', 'tracks', 'pales'], value });
  const counts: number[] = [];
  let [now, program] = [piece, compile(piece)];
  let going: Exploring | null = null;
  const judged = () => {
    going = exploring(program, going);
    going.on(going.usual);
    counts.push(judge(program, going.result()).findings.filter(({ rule }) => rule === 'low-contrast').length);
  };
  judged();
  for (const value of [track, undefined, track]) {
    const edited = unwrap(apply(now, [put(value)]));
    [now, program] = [edited.piece, update(program, edited.piece, edited.touched)];
    judged();
  }
  expect(counts).toEqual([0, 1, 0, 1]);
});

test('looks-clickable: a copy looks clickable as long as what it is a copy of is wired', () => {
  const source = { at: [0, 100, 100, 60] as const, text: 'Day', lines: ['click → go to shop'] };
  const copy = { at: [0, 300, 100, 60] as const, text: 'Week', copyOf: layerId('home', 'source') };
  const spec: Spec = { frames: { home: { layers: { source } }, shop: { layers: { ...shop.layers, copy } } } };
  const [before, after] = beforeAndAfter(spec, 'looks-clickable', () => ({
    op: 'set',
    table: 'layers',
    id: layerId('home', 'source'),
    path: ['name'],
    value: 'Day ticket',
  }));
  expect(before).toEqual(['It is a copy of source, which is wired.']);
  expect(after).toEqual(['It is a copy of Day ticket, which is wired.']);
});

test('no-feedback: of bare areas something is said once another area anywhere has a look', () => {
  const area = (y: number) => ({ type: 'hit', at: [0, y, 100, 60], lines: ['click → go to shop'] }) as const;
  const spec: Spec = { frames: { home: { layers: { one: area(100) } }, shop: { layers: { ...shop.layers, two: area(300) } } } };
  const [before, after] = beforeAndAfter(spec, 'no-feedback', () => ({
    op: 'set',
    table: 'layers',
    id: layerId('shop', 'two'),
    path: ['looks'],
    value: { hover: { style: { opacity: 0.5 } } },
  }));
  expect(before.some((one) => one.startsWith('one '))).toBe(false);
  expect(after.some((one) => one.startsWith('one '))).toBe(true);
});

test('no-name: a placement has a name as long as something in its part is read', () => {
  const spec: Spec = {
    parts: { tile: { size: [100, 60], layers: { word: { type: 'text', text: 'Tickets', at: [0, 0, 100, 60] } } } },
    frames: { home: { layers: { box: { ...placed, name: 'Box 1', lines: ['click → go to shop'] } } }, shop },
  };
  const word = (piece: Piece) => [...piece.layers.values()].find(({ text }) => text === 'Tickets')!.id;
  const [before, after] = beforeAndAfter(spec, 'no-name', (piece) => ({ op: 'set', table: 'layers', id: word(piece), path: ['text'], value: ' ' }));
  expect([before.length, after.length]).toEqual([0, 1]);
});

test('missing-target: a thread leads nowhere once its frame is gone', () => {
  const spec: Spec = {
    frames: { home: { layers: { on: { ...placed, type: 'box', part: undefined, lines: ['click → go to shop'] } as never } }, shop },
  };
  const gone = (piece: Piece) => [...piece.scenes.values()].find(({ name }) => name === 'shop')!.id;
  const [before, after] = beforeAndAfter(spec, 'missing-target', (piece) => ({ op: 'remove', table: 'scenes', id: gone(piece) }));
  expect([before.length, after.length]).toEqual([0, 1]);
});

test('missing-target: a field fills nothing once its variable is gone, from whichever frame', () => {
  const name = { type: 'field', at: [0, 200, 200, 44], field: { kind: 'text', variable: 'Name' } } as const;
  const on = { at: [0, 0, 100, 60] as const, text: 'Go', lines: ['click → go to shop'] };
  const spec: Spec = { variables: { Name: { type: 'text', initial: '' } }, frames: { home: { layers: { on, name } }, shop } };
  const [before, after] = beforeAndAfter(spec, 'missing-target', () => ({ op: 'remove', table: 'variables', id: 'Name' }));
  expect([before, after]).toEqual([[], ['The variable it fills has been deleted.']]);
});

test('no-feedback: what is hidden gives no sign once something shows it, in the part that is shown with it too', () => {
  const face = { at: [0, 0, 100, 60] as const, text: 'Go', lines: ['click → go to shop'] };
  const on = { at: [0, 400, 100, 60] as const, text: 'On', looks: { hover: { style: { fill: '#eeeeee' } } }, lines: ['click → show placed'] };
  const home = { layers: { placed: { ...placed, hidden: true }, on } };
  const spec: Spec = { parts: { tile: { size: [100, 60], layers: { face } } }, frames: { home, shop } };
  const [before, after] = beforeAndAfter(spec, 'no-feedback', (piece) => off(piece, layerId('home', 'on')));
  expect([before, after].map((said) => said.filter((one) => one.startsWith('face')))).toEqual([
    ['face can be pressed, and looks the same hovered and pressed.'],
    [],
  ]);
});

test('no-feedback: what comes up only as exploring goes on is asked then', () => {
  const face = { at: [0, 100, 100, 60] as const, text: 'Go', hidden: true, lines: ['click → go to shop'] };
  const on = { at: [0, 400, 100, 60] as const, text: 'On', looks: { hover: { style: { fill: '#eeeeee' } } }, lines: ['click → show face'] };
  const program = compile(compose({ frames: { home: { layers: { face, on } }, shop } }));
  const going = exploring(program);
  const said = () =>
    judge(program, going.result()).findings.filter(({ rule, place }) => rule === 'no-feedback' && place.layer === layerId('home', 'face'));
  const before = said();
  going.on(going.usual);
  expect([before.length, said().length]).toEqual([0, 1]);
});

test('nothing piles up on what edits leave as it is: explored and judged again and again it carries what it did', () => {
  const clip = { size: [40, 40] as const, timeline: { length: 20, loop: true }, layers: { dot: { at: [0, 0, 9, 9] as const } } };
  const spec: Spec = {
    parts: { clip },
    frames: {
      home: {
        layers: { on: { at: [0, 0, 100, 60], lines: ['click → go to shop'] }, wave: { type: 'placement', part: 'clip', at: [200, 0, 40, 40] } },
      },
      shop,
    },
  };
  let program = compile(compose(spec));
  let going = exploring(program);
  const carried = () => {
    const scene = program.scenes.get('home')!;
    const expansion = expand(program, scene);
    const kept = [scene, expansion, ...expansion.nodes, ...expansion.instances.values(), ...scene.items, ...scene.items.map(({ layer }) => layer)];
    return kept.reduce((sum, one) => sum + Object.getOwnPropertySymbols(one).length, 0);
  };
  const edit = (x: number) => {
    const edited = unwrap(apply(program.piece, [{ op: 'set', table: 'layers', id: layerId('shop', 'back'), path: ['pose', 'x'], value: x }]));
    program = update(program, edited.piece, edited.touched);
    going = exploring(program, going);
    going.on(going.usual);
    judge(program, going.result());
  };
  for (let x = 0; x < 5; x++) edit(x);
  const before = carried();
  for (let x = 5; x < 25; x++) edit(x);
  expect(carried()).toBe(before);
});
