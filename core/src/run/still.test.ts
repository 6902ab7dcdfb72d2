import { describe, expect, test } from 'vitest';
import { compose, layerId as id, stateId, type ComposeSpec } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import { compile } from '../program/compile.ts';
import { update, type Program } from '../program/program.ts';
import type { Value } from '../expression/ast.ts';
import { unwrap } from '../result.ts';
import type { Screen } from './resolve.ts';
import { lookedAtWith, stateAtFirst, stillLayer, stillRun, stillScreen, variablesSeen, type Still } from './still.ts';

const spec: ComposeSpec = {
  fps: 10,
  parts: {
    Gull: {
      size: [60, 40],
      timeline: {
        length: 40,
        loop: true,
        tracks: [
          [
            'wing',
            'y',
            [
              [0, 0],
              [39, 39],
            ],
          ],
        ],
      },
      layers: { wing: { at: [0, 0, 20, 5] } },
    },
  },
  sheets: { bar: { layers: { home: { at: [300, 0, 40, 40], text: 'Home' } } } },
  frames: {
    harbour: {
      over: ['bar'],
      states: { Day: {}, Night: { boat: { pose: { x: 200 } } } },
      timeline: {
        length: 60,
        tracks: [
          [
            'sail',
            'x',
            [
              [0, 0],
              [50, 100],
            ],
          ],
        ],
      },
      layers: {
        boat: {
          at: [10, 20, 80, 40],
          style: { fill: '#111111' },
          looks: {
            hover: { style: { fill: '#222222' } },
            press: { style: { fill: '#333333' } },
            focus: { style: { fill: '#444444' } },
            selected: { style: { fill: '#555555' } },
            disabled: { style: { fill: '#666666' } },
          },
        },
        sail: { at: [0, 100, 20, 20] },
        gull: { type: 'placement', part: 'Gull', at: [100, 100, 60, 40] },
        card: { type: 'group', at: [30, 200, 100, 80], clip: true },
        face: { at: [5, 6, 50, 30], in: 'card' },
        word: { type: 'text', text: 'Tide', at: [1, 2, 30, 20], in: 'card' },
      },
    },
  },
};

const piece = compose(spec);
const program = compile(piece);
const layer = (name: string) => id('harbour', name);
const shown = (screen: Screen | null, key: string) => screen?.surfaces.flatMap(({ all }) => all).find(({ node }) => node.key === key);
const fill = (still: Parameters<typeof stillScreen>[2]) => shown(stillScreen(program, 'harbour', still), layer('boat'))!.style.fill;

describe('a scene to be looked at', () => {
  test('is as it begins, with the sheets that it carries, and the same when it is asked again', () => {
    const screen = stillScreen(program, 'harbour')!;
    expect(screen.surfaces.map(({ scene }) => scene)).toEqual(['harbour', 'bar']);
    expect(fill({})).toBe('#111111');
    expect(stillScreen(program, 'harbour')).toBe(screen);
    expect(stillScreen(program, 'harbour', { over: [], pressed: false, focus: null })).toBe(screen);
    expect(stillScreen(program, 'harbour', { over: [layer('boat')] })).not.toBe(screen);
    expect([stillScreen(program, 'nowhere'), stillRun(program, 'nowhere'), stillLayer(program, 'nowhere', 'x')]).toEqual([null, null, null]);
  });

  test('with a layer hovered, pressed, in focus, selected, disabled', () => {
    const over = [layer('boat')];
    expect(fill({ over })).toBe('#222222');
    expect(fill({ over, pressed: true })).toBe('#333333');
    expect(fill({ pressed: true })).toBe('#111111');
    expect(fill({ over: [layer('sail')], pressed: true })).toBe('#111111');
    expect(fill({ focus: layer('boat') })).toBe('#444444');
    expect(fill({ selected: [layer('boat')] })).toBe('#555555');
    expect(fill({ disabled: [layer('boat')] })).toBe('#666666');
    expect(fill({ selected: [layer('sail')], disabled: [layer('sail')] })).toBe('#111111');
  });

  test('in one of its states, and at a moment of its timeline, the parts in it as they have played till then', () => {
    expect(shown(stillScreen(program, 'harbour', { state: stateId('harbour', 'Night') }), layer('boat'))!.x).toBe(200);
    expect(shown(stillScreen(program, 'harbour', { state: null }), layer('boat'))!.x).toBe(10);
    const later = stillScreen(program, 'harbour', { frame: 25 });
    expect(shown(later, layer('sail'))!.x).toBe(50);
    expect(shown(later, `${layer('gull')}/${id('Gull', 'wing')}`)!.y).toBeCloseTo(25, 0);
    expect(stillRun(program, 'harbour', { frame: 25 })!.roots['harbour']!.heads['']).toMatchObject({ at: 25, playing: false });
    expect(shown(stillScreen(program, 'harbour', { frame: 0 }), layer('sail'))!.x).toBe(0);
  });

  test('a moment of what has no timeline is how it is', () => {
    const plain = compile(compose({ frames: { home: { layers: { a: { at: [1, 2, 3, 4] } } } } }));
    expect(shown(stillScreen(plain, 'home', { frame: 9 }), id('home', 'a'))!.x).toBe(1);
    expect(stillRun(plain, 'home', { frame: 9 })!.roots['home']!.heads['']).toBeUndefined();
  });
});

describe('made anew', () => {
  const after = (...operations: Operation[]) => {
    const edited = unwrap(apply(piece, operations));
    return update(program, edited.piece, edited.touched);
  };

  test('when a part in it, a sheet that it carries, or a variable is another', () => {
    const first = stillScreen(program, 'harbour');
    const wing = after({ op: 'set', table: 'layers', id: id('Gull', 'wing'), path: ['pose', 'width'], value: 33 });
    expect(shown(stillScreen(wing, 'harbour'), `${layer('gull')}/${id('Gull', 'wing')}`)!.width).toBe(33);
    const bar = after({ op: 'set', table: 'layers', id: id('bar', 'home'), path: ['text'], value: 'Harbour' });
    expect(shown(stillScreen(bar, 'harbour'), id('bar', 'home'))!.text).toBe('Harbour');
    expect(stillScreen(program, 'harbour')).toEqual(first);
  });
});

describe('one layer by itself', () => {
  test('at the corner of a screen of its size, with what is in it', () => {
    const boat = stillLayer(program, 'harbour', layer('boat'))!;
    expect([boat.width, boat.height, boat.frame]).toEqual([80, 40, 'harbour']);
    expect(boat.surfaces[0]!.all.map(({ x, y, node }) => [x, y, node.layer.name])).toEqual([[0, 0, 'boat']]);
    expect([boat.surfaces[0]!.background, boat.surfaces[0]!.scrim, boat.surfaces[0]!.scroll]).toEqual([null, null, { x: 0, y: 0 }]);
    const card = stillLayer(program, 'harbour', layer('card'))!;
    expect(card.surfaces[0]!.all.map(({ node }) => node.layer.name)).toEqual(['card', 'face', 'word']);
    expect(card.surfaces[0]!.tops).toHaveLength(1);
    const face = stillLayer(program, 'harbour', layer('face'))!;
    expect([face.width, face.height]).toEqual([50, 30]);
    expect(face.surfaces[0]!.all.map(({ x, y, parent }) => [x, y, parent])).toEqual([[0, 0, null]]);
  });

  test('where a state has moved it, it stands beside its own place', () => {
    const moved = stillLayer(program, 'harbour', layer('boat'), { state: stateId('harbour', 'Night') })!;
    expect(moved.surfaces[0]!.all[0]!.x).toBe(190);
  });

  test('none where it is not there', () => {
    expect(stillLayer(program, 'harbour', 'nothing')).toBeNull();
    expect(stillLayer(program, 'harbour', id('bar', 'home'))).toBeNull();
  });
});

describe('a scene whose state follows an expression', () => {
  const program = compile(
    compose({
      variables: {
        Seats: { type: 'number', initial: 4, min: 0 },
        Day: { type: 'choice', initial: 'Friday', options: ['Friday', 'Sunday'] },
        Unread: { type: 'number', initial: 0 },
      },
      frames: {
        boat: {
          states: { free: {}, full: { words: { text: 'No seat is left' } } },
          stateIs: 'if Seats = 0 then "full" else "free"',
          layers: { words: { type: 'text', text: 'Seats: {Seats}' }, sunday: { when: { shown: 'Day = "Sunday"' } } },
        },
      },
    })
  );
  const [free, full] = [stateId('boat', 'free'), stateId('boat', 'full')];
  const seen = (one: Program, still: Still = {}) =>
    stillScreen(one, 'boat', still)!
      .surfaces.flatMap(({ all }) => all)
      .map(({ node, text }) => `${node.layer.name}${text ? `: ${text}` : ''}`);

  test('depends on the variables that are read for it, and begins in the state that they give', () => {
    expect(variablesSeen(program, 'boat')).toEqual(['Seats', 'Day']);
    expect(variablesSeen(program, 'gone')).toEqual([]);
    expect(stateAtFirst(program, 'boat')).toBe(free);
  });

  test('is looked at with other values, and the piece stays as it is', () => {
    const values = new Map<string, Value>([
      ['Seats', 0],
      ['Day', 'Sunday'],
    ]);
    const other = lookedAtWith(program, values);
    expect(stateAtFirst(other, 'boat')).toBe(full);
    expect(seen(other)).toEqual(['words: No seat is left', 'sunday']);
    expect(seen(program)).toEqual(['words: Seats: 4']);
    // As long as it is the same that is asked for, nothing is worked out anew.
    expect(lookedAtWith(program, values).variables).toBe(other.variables);
  });

  test('is looked at in any of its states', () => {
    expect(seen(program, { state: full })).toEqual(['words: No seat is left']);
    expect(seen(lookedAtWith(program, new Map([['Seats', 0]])), { state: free })).toEqual(['words: Seats: 0']);
  });
});
