import { expect, test } from 'vitest';
import { compose, layerId, stateId } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import { compile } from '../program/compile.ts';
import { update } from '../program/program.ts';
import { unwrap } from '../result.ts';
import { changedIn, Table } from '../table.ts';
import { seat } from '../testing/seats.ts';
import { asBefore, inEach, layersThere } from './again.ts';
import { judge } from './audit.ts';
import { exploring } from './explore.ts';

const button = (y: number, line: string) => ({ at: [0, y, 100, 60] as const, text: 'Go', lines: [line] });
const spec: Parameters<typeof compose>[0] = {
  variables: { seats: { type: 'number', initial: 0, min: 0, max: 3 } },
  parts: { seat: seat(60, 60) },
  frames: {
    home: {
      layers: {
        on: button(100, 'click → go to shop'),
        more: button(200, 'click → if seats < 3 → set seats to seats + 1'),
        seat: { type: 'placement', part: 'seat', at: [200, 0, 60, 60] },
      },
    },
    shop: { layers: { back: button(100, 'click → go to back'), start: button(200, 'click → go to start') } },
    away: { layers: { home: button(100, 'click → go to home') } },
  },
};

/** A piece that is explored, and after each edit what was found of it and what is found of the edited piece by itself. */
function edited(of = spec) {
  let program = compile(compose(of));
  let going = exploring(program);
  going.on(going.usual);
  const edges = () => going.result().edges;
  return {
    edges,
    program: () => program,
    edit: (...operations: Operation[]) => {
      const before = edges();
      const made = unwrap(apply(program.piece, operations));
      program = update(program, made.piece, made.touched);
      going = exploring(program, going);
      going.on(going.usual);
      const anew = exploring(compile(made.piece));
      anew.on(anew.usual);
      const [found, wanted] = [judge(program, going.result()), judge(compile(made.piece), anew.result())];
      expect(found.findings).toEqual(wanted.findings);
      expect([...found.exploration.reached.keys()]).toEqual([...wanted.exploration.reached.keys()]);
      return { isKept: edges() === before, found };
    },
  };
}

const set = (table: 'layers' | 'scenes' | 'threads' | 'piece', id: string, path: string[], value: unknown): Operation => ({
  op: 'set',
  table,
  id,
  path,
  value,
});

test('nothing is followed anew after an edit that leaves what comes of everything as it is', () => {
  const { edit } = edited();
  expect(edit(set('layers', layerId('home', 'on'), ['pose', 'x'], 20)).isKept).toBe(true);
  expect(edit(set('layers', layerId('home', 'on'), ['style', 'fill'], '#112233')).isKept).toBe(true);
  expect(edit(set('scenes', 'shop', ['name'], 'Harbour')).isKept).toBe(true);
  expect(edit(set('layers', layerId('seat', 'chair'), ['pose', 'x'], 3)).isKept).toBe(true);
  const small = edit(set('layers', layerId('home', 'on'), ['pose', 'width'], 20));
  expect(small.isKept).toBe(true);
  expect(small.found.findings.map(({ id }) => id)).toContain(`small-hit:home:${layerId('home', 'on')}`);
});

test('what leads elsewhere, can no longer be got at, or is begun with, is followed', () => {
  const { edit, program } = edited();
  const [thread] = [...program().piece.threads.values()].filter(({ owner }) => owner === layerId('home', 'on'));
  expect(edit(set('threads', thread!.id, ['enabled'], false)).isKept).toBe(false);
  expect(edit(set('threads', thread!.id, ['enabled'], true)).isKept).toBe(false);
  expect(edit(set('layers', layerId('home', 'more'), ['hidden'], true)).isKept).toBe(false);
  expect(edit(set('layers', layerId('home', 'seat'), ['state'], stateId('seat', 'Taken'))).isKept).toBe(false);
  expect(edit(set('piece', program().piece.head.id, ['start'], ['away'])).isKept).toBe(false);
});

test('where a piece starts is asked anew when another frame is said to be the start', () => {
  const { edit, program } = edited();
  // Coming to the start from the shop leads elsewhere now, though nothing of the shop is another.
  const { found } = edit(set('piece', program().piece.head.id, ['start'], ['shop']));
  expect(found.exploration.reached.has('home')).toBe(false);
});

test('what a frame begins with is asked anew where it is led to, though nothing of where it is led from is another', () => {
  const { edit } = edited({
    variables: { seats: { type: 'number', initial: 0, min: 0, max: 3 }, at: { type: 'number', initial: 1 } },
    frames: {
      home: { layers: { on: button(100, 'click → go to shop'), more: button(200, 'click → if seats < 3 → set seats to seats + 1') } },
      shop: {
        layers: { far: { ...button(100, 'click → go to away'), when: { shown: 'seats = 3 and at = 1' } }, back: button(200, 'click → go to back') },
      },
      away: { layers: { home: button(100, 'click → go to home') } },
    },
  });
  const shown = (source: string) => edit(set('layers', layerId('shop', 'far'), ['bindings', 'shown'], source)).found.exploration.reached.has('away');
  expect([shown('false'), shown('true'), shown('false'), shown('true')]).toEqual([false, true, false, true]);
  expect(edit(set('scenes', 'shop', ['name'], 'Harbour')).found.exploration.reached.has('away')).toBe(true);
  // What is asked of where another layer stands is no part of what follows from a state.
  shown(`‹${layerId('shop', 'back')}›.x > 10`);
  const moved = (x: number) => edit(set('layers', layerId('shop', 'back'), ['pose', 'x'], x)).found.exploration.reached.has('away');
  expect([moved(20), moved(5), moved(30), moved(0)]).toEqual([true, false, true, false]);
});

test('what follows from what is placed is asked anew when the part is another', () => {
  const { edit } = edited({
    ...spec,
    frames: {
      ...spec.frames,
      home: { layers: { ...spec.frames['home']!.layers, way: { ...button(300, 'click → go to away'), when: { shown: 'seat.state = "Taken"' } } } },
    },
  });
  expect(edit(set('layers', layerId('seat', 'chair'), ['pose', 'x'], 3)).found.exploration.reached.has('away')).toBe(true);
  const named = edit(set('scenes', 'seat', ['states', stateId('seat', 'Taken'), 'name'], 'Gone'));
  expect(named.found.exploration.reached.has('away')).toBe(true);
  expect(edit(set('layers', layerId('home', 'way'), ['bindings', 'shown'], 'false')).found.exploration.reached.has('away')).toBe(false);
});

test('what two tables hold differently', () => {
  const table = Table.from([...Array(600).keys()].map((i) => [`t${i}`, i] as const));
  expect(changedIn(table, table)).toEqual([]);
  expect(changedIn(table, table.set('t7', 8))).toEqual(['t7']);
  expect(changedIn(table, table.delete('t9'))).toEqual(['t9']);
  expect(changedIn(table, table.set('new', 1).delete('t3').set('t4', 0)).sort()).toEqual(['new', 't3', 't4']);
  expect(changedIn(Table.empty<number>(), table)).toHaveLength(600);
});

test('found once more only where something that it depends on is another', () => {
  const program = compile(compose(spec));
  let asked = 0;
  const find = (of: unknown[]) => asBefore(program, 'a test', of, () => ++asked);
  expect([find([1, 2]), find([1, 2]), find([1, 3]), find([1, 3]), find([1]), find([1, 2])]).toEqual([1, 1, 2, 2, 3, 4]);
});

test('what scenes come to, and the layers that there are, stay the same thing while they are the same', () => {
  const piece = compose(spec);
  const program = compile(piece);
  const after = (operation: Operation) => {
    const made = unwrap(apply(piece, [operation]));
    return update(program, made.piece, made.touched);
  };
  const names = (one: typeof program) => inEach(one, 'names', ({ items }) => items.map(({ layer }) => layer.name).join());
  const [first, there] = [names(program), layersThere(program)];
  const moved = after(set('layers', layerId('home', 'on'), ['pose', 'x'], 9));
  expect([names(moved) === first, layersThere(moved) === there]).toEqual([true, true]);
  const named = after(set('layers', layerId('home', 'on'), ['name'], 'Onward'));
  expect([names(named) === first, layersThere(named) === there]).toEqual([false, true]);
  expect(names(named).get('home')).toContain('Onward');
  const gone = after({ op: 'remove', table: 'layers', id: layerId('home', 'more') });
  expect([names(gone).get('home')!.includes('more'), layersThere(gone) === there]).toEqual([false, false]);
});
