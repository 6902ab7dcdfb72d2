import { expect, test } from 'vitest';
import { compose, layerId } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import { askFor, asksNoMore, keepWalk, keepWalkAnew, removeWalk, renameWalk, setAside, takeUpAgain } from '../edit/commands/walks.ts';
import type { Operation } from '../edit/operation.ts';
import type { Piece } from '../piece/piece.ts';
import { pieceToJson, readPiece } from '../piece/read.ts';
import type { KeptEvent } from '../piece/walks.ts';
import { compile } from '../program/compile.ts';
import { unwrap } from '../result.ts';
import { asideKey, markOf } from './aside.ts';
import { audit, routeEnd } from './audit.ts';
import { stepsOf, walkKept } from './kept.ts';

const button = (x: number, y: number, ...lines: string[]) => ({
  at: [x, y, 100, 60] as const,
  text: 'Go',
  looks: { hover: { style: { fill: '#eeeeee' } } },
  lines,
});

const harbour = compose({
  frames: {
    home: {
      states: { shut: {}, open: {} },
      layers: {
        on: button(0, 0, 'click → go to shop'),
        menu: button(0, 100, 'click → toggle this with open'),
        ask: button(0, 200, 'click → wait 500 ms; then lay closing over card at center'),
      },
    },
    shop: {
      layers: { back: button(0, 0, 'click → go to home'), dot: { type: 'hit', at: [200, 200, 30, 30], label: 'Dot', lines: ['click → go to home'] } },
    },
    card: { size: [200, 200] as const },
  },
});

const edited = (piece: Piece, operations: readonly Operation[]): Piece => unwrap(apply(piece, operations)).piece;
const click = (scene: string, layer: string): KeptEvent => ({ type: 'click', layer: layerId(scene, layer) });
const wait = (ms: number): KeptEvent => ({ type: 'wait', ms });
let n = 0;
const makeId = () => `w${n++}`;

const kept = (piece: Piece, ...events: KeptEvent[]) =>
  edited(piece, keepWalk(piece, 'To the shop', 'home', stepsOf(compile(piece), 'home', events)!, makeId));

test('a kept walk says where each step led: frame, state, what is laid over; it is part of the piece and holds until something is otherwise', () => {
  const piece = kept(harbour, click('home', 'menu'), click('home', 'ask'), wait(500), { type: 'beside' }, click('home', 'on'));
  const [[id, walk]] = Object.entries(piece.head.walks!) as [[string, NonNullable<typeof piece.head.walks>[string]]];
  expect(walk.steps.map(({ frame, state, laid }) => [frame, state?.split('_').at(-1), laid])).toEqual([
    ['home', 'open', undefined],
    ['home', 'open', undefined],
    ['home', 'open', ['card']],
    ['home', 'open', undefined],
    ['shop', undefined, undefined],
  ]);
  expect(walkKept(compile(piece), walk)).toEqual({ held: 5, broken: null });
  expect(unwrap(readPiece(JSON.parse(JSON.stringify(pieceToJson(piece))))).head.walks).toEqual(piece.head.walks);
  const renamed = edited(piece, renameWalk(piece, id, '  Once round '));
  expect(renamed.head.walks![id]!.name).toBe('Once round');
  expect(edited(piece, removeWalk(piece, id)).head.walks).toEqual({});
  expect(keepWalk(piece, 'Nothing', 'home', [], makeId)).toEqual([]);
});

test('broken-route: the first step that differs, in words, with the route to it; kept anew it holds', () => {
  const broken = (change: (piece: Piece) => Operation[], ...events: KeptEvent[]) => {
    const piece = kept(harbour, ...events);
    const changed = edited(piece, change(piece));
    const found = audit(compile(changed)).findings.filter(({ rule }) => rule === 'broken-route');
    for (const one of found) if (one.route) expect(routeEnd(compile(changed), one)).not.toBeNull();
    return found.map(({ sentence }) => sentence);
  };
  const thread = (piece: Piece, owner: string) => [...piece.threads.values()].find((one) => one.owner === owner)!;
  const lead =
    (scene: string, layer: string, frame: string) =>
    (piece: Piece): Operation[] => [
      {
        op: 'set',
        table: 'threads',
        id: thread(piece, layerId(scene, layer)).id,
        path: ['branches', '0', 'steps', '0', 'target', 'frame'],
        value: frame,
      },
    ];
  expect(broken(lead('home', 'on', 'card'), click('home', 'menu'), click('home', 'on'))).toEqual([
    'At step 2, click on: it leads to card instead of shop.',
  ]);
  expect(broken(() => [], click('home', 'on'))).toEqual([]);
  const off =
    (scene: string, layer: string) =>
    (piece: Piece): Operation[] => [{ op: 'set', table: 'threads', id: thread(piece, layerId(scene, layer)).id, path: ['enabled'], value: false }];
  expect(broken(off('home', 'menu'), click('home', 'menu'))).toEqual(['At step 1, click menu: home is in shut instead of open.']);
  expect(broken(off('home', 'ask'), click('home', 'ask'), wait(600))).toEqual(['At step 2, wait 600 ms: nothing lies over home instead of card.']);
  expect(broken(() => [{ op: 'remove', table: 'layers', id: layerId('home', 'on') }], click('home', 'on'))).toEqual([
    'At step 1, click home_on: it leads to home instead of shop.',
  ]);
  const piece = kept(harbour, click('home', 'on'));
  const [id] = Object.keys(piece.head.walks!);
  const changed = edited(piece, lead('home', 'on', 'card')(piece));
  const anew = stepsOf(
    compile(changed),
    'home',
    changed.head.walks![id!]!.steps.map(({ event }) => event)
  )!;
  expect(walkKept(compile(edited(changed, keepWalkAnew(changed, id!, anew))), { ...changed.head.walks![id!]!, steps: anew })).toEqual({
    held: 1,
    broken: null,
  });
});

test('a step is held to the variables that it made another, and variables set by hand are kept', () => {
  const seats = compose({
    variables: { Seats: { type: 'number', initial: 1 }, Paid: { type: 'yes/no', initial: false } },
    frames: { home: { layers: { more: button(0, 0, 'click → set Seats to Seats + 1') } } },
  });
  const id = [...seats.variables.values()].find(({ name }) => name === 'Seats')!.id;
  const paid = [...seats.variables.values()].find(({ name }) => name === 'Paid')!.id;
  const piece = kept(
    seats,
    click('home', 'more'),
    { type: 'set', variable: id, value: 7 },
    { type: 'set', variable: paid, value: true },
    click('home', 'more')
  );
  const [walk] = Object.values(piece.head.walks!);
  expect(walk!.steps.map(({ values }) => values)).toEqual([
    [{ variable: id, value: 2 }],
    [{ variable: id, value: 7 }],
    [{ variable: paid, value: true }],
    [{ variable: id, value: 8 }],
  ]);
  expect(walkKept(compile(piece), walk!)).toEqual({ held: 4, broken: null });
  expect(unwrap(readPiece(JSON.parse(JSON.stringify(pieceToJson(piece))))).head.walks).toEqual(piece.head.walks);
  const thread = [...piece.threads.values()][0]!;
  const step = thread.branches[0]!.steps[0]! as { readonly value: string };
  const path = ['branches', '0', 'steps', '0', 'value'];
  const faster = edited(piece, [{ op: 'set', table: 'threads', id: thread.id, path, value: step.value.replace('1', '2') }]);
  expect(walkKept(compile(faster), walk!)).toEqual({ held: 0, broken: 'Seats is 3 instead of 2' });
  const later = { ...walk!, steps: walk!.steps.slice(1) };
  expect(walkKept(compile(faster), later)).toEqual({ held: 2, broken: 'Seats is 9 instead of 8' });
  const gone = edited(piece, [{ op: 'remove', table: 'variables', id: paid }]);
  expect(walkKept(compile(gone), walk!)).toEqual({ held: 2, broken: 'a variable that it set is gone' });
});

test('a loose end that is set aside is told apart with its reason, and comes back when its place is another', () => {
  const found = audit(compile(harbour)).findings.find(({ rule }) => rule === 'small-hit')!;
  const aside = edited(harbour, setAside(harbour, asideKey(found), ' A secret way home ', markOf(harbour, found)));
  const judged = audit(compile(aside));
  expect(judged.findings.map(({ id }) => id)).not.toContain(found.id);
  expect(judged.aside.map(({ id, reason }) => [id, reason])).toEqual([[found.id, 'A secret way home']]);
  const elsewhere = edited(aside, [{ op: 'set', table: 'layers', id: layerId('home', 'on'), path: ['pose', 'x'], value: 4 }]);
  expect(audit(compile(elsewhere)).aside).toHaveLength(1);
  const there = edited(aside, [{ op: 'set', table: 'layers', id: layerId('shop', 'dot'), path: ['pose', 'width'], value: 28 }]);
  expect(audit(compile(there)).findings.map(({ id }) => id)).toContain(found.id);
  expect(audit(compile(edited(aside, takeUpAgain(aside, asideKey(found))))).aside).toEqual([]);
  expect(setAside(harbour, asideKey(found), '  ', 'x')).toEqual([]);
  expect(unwrap(readPiece(JSON.parse(JSON.stringify(pieceToJson(aside))))).head.aside).toEqual(aside.head.aside);
});

test('asked-for: what somebody said is a loose end where it is about until it is mended, also where that is gone', () => {
  const said = (piece: Piece) => audit(compile(piece)).findings.filter(({ rule }) => rule === 'asked-for');
  const about = { scene: 'home', layer: layerId('home', 'on') };
  const asked = edited(harbour, askFor(harbour, 'c1', { words: ' Say where it goes. ', by: 'Liv Moe', ...about }));
  expect(said(harbour)).toEqual([]);
  expect(said(asked)).toMatchObject([
    { id: 'asked-for:c1', place: about, severity: 'must', title: 'Something is asked for on on', sentence: 'Liv Moe says: Say where it goes.' },
  ]);
  expect(unwrap(readPiece(JSON.parse(JSON.stringify(pieceToJson(asked))))).head.asked).toEqual(asked.head.asked);
  const twice = edited(asked, askFor(asked, 'c2', { words: 'And when.', by: 'Odd Vik', ...about }));
  expect(said(twice).map(({ id }) => id)).toEqual(['asked-for:c1', 'asked-for:c2']);
  const gone = edited(asked, [{ op: 'remove', table: 'layers', id: about.layer }]);
  expect(said(gone)).toMatchObject([{ place: { scene: 'home' }, sentence: 'Liv Moe says: Say where it goes. What it is about is gone.' }]);
  expect(said(edited(asked, asksNoMore(asked, 'c1')))).toEqual([]);
  expect([askFor(harbour, 'c3', { words: ' ', by: 'Liv Moe', scene: 'home' }), asksNoMore(harbour, 'c3')]).toEqual([[], []]);
});
