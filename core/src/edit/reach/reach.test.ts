import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { framesOf, statesOf, type Piece } from '../../piece/piece.ts';
import type { Look } from '../../piece/schema.ts';
import { compile } from '../../program/compile.ts';
import { stillScreen } from '../../run/still.ts';
import { unwrap } from '../../result.ts';
import { compose, layerId, stateId } from '../../compose/compose.ts';
import { apply } from '../apply.ts';
import { addState, compareStates, removeState } from '../commands/states.ts';
import { moveLayers, removeLayers, restyle } from '../commands/layers.ts';
import type { Operation } from '../operation.ts';
import { posed } from './pose.ts';
import { withReach, type Reach } from './reach.ts';

const dot = layerId('home', 'dot');
const [A, B, C] = ['A', 'B', 'C'].map((name) => stateId('home', name)) as [string, string, string];
const states = { of: 'states', scene: 'home' } as const;

const three = (): Piece =>
  compose({
    frames: {
      home: {
        states: { A: {}, B: { dot: { pose: { x: 100 } } }, C: { dot: { style: { fill: '#00ff00' } } } },
        layers: { dot: { at: [10, 20, 30, 40], style: { fill: '#ff0000' } }, other: { at: [0, 100, 50, 50] } },
      },
    },
  });

const after = (piece: Piece, operations: readonly Operation[]): Piece => unwrap(apply(piece, operations)).piece;

/** How the dot looks in every state. */
const looks = (piece: Piece) =>
  Object.fromEntries(
    statesOf(piece.scenes.get('home')!).map(({ id, name }) => {
      const shown = stillScreen(compile(piece), 'home', { state: id })?.surfaces[0]?.all.find((one) => one.node.key === dot);
      return [name, shown ? `${shown.x},${shown.y} ${shown.style.fill ?? '#ffffff00'}` : 'hidden'];
    })
  );

const set = (path: string[], value: unknown): Operation[] => [{ op: 'set', table: 'layers', id: dot, path, value }];
const some = (...of: string[]): Reach => ({ how: 'some', of });

describe('an edit and the states that it reaches', () => {
  it('changes the layers themselves, and states with no value of their own follow', () => {
    const piece = three();
    expect(looks(after(piece, withReach(piece, states, { how: 'follow' }, set(['pose', 'x'], 50))))).toEqual({
      A: '50,20 #ff0000',
      B: '100,20 #ff0000',
      C: '50,20 #00ff00',
    });
  });

  it('changes every state, also those with a value of their own', () => {
    const piece = three();
    expect(looks(after(piece, withReach(piece, states, { how: 'all' }, set(['pose', 'x'], 50))))).toEqual({
      A: '50,20 #ff0000',
      B: '50,20 #ff0000',
      C: '50,20 #00ff00',
    });
  });

  it('changes exactly the states that are named', () => {
    const piece = three();
    expect(looks(after(piece, withReach(piece, states, some(A), set(['style', 'fill'], '#0000ff'))))).toEqual({
      A: '10,20 #0000ff',
      B: '100,20 #ff0000',
      C: '10,20 #00ff00',
    });
    expect(looks(after(piece, withReach(piece, states, some(B, C), set(['style', 'fill'], '#0000ff'))))).toEqual({
      A: '10,20 #ff0000',
      B: '100,20 #0000ff',
      C: '10,20 #0000ff',
    });
  });

  it('keeps in a state only what differs from the first', () => {
    const piece = three();
    const back = after(piece, withReach(piece, states, some(B), set(['pose', 'x'], 10)));
    expect(back.scenes.get('home')!.states![B]!.deltas[dot]!.pose).toEqual({});
  });

  it('takes a whole pose apart into what it changes', () => {
    const piece = three();
    const moved = after(
      piece,
      withReach(piece, states, some(C), moveLayers(posed(compile(piece), { scene: 'home', state: C, look: null }).piece, [dot], 5, 0))
    );
    expect(moved.scenes.get('home')!.states![C]!.deltas[dot]).toEqual({ style: { fill: '#00ff00' }, pose: { x: 15 } });
  });

  it('moves a layer from where a state shows it', () => {
    const piece = three();
    const program = posed(compile(piece), { scene: 'home', state: B, look: null });
    const moved = after(piece, withReach(piece, states, some(B), moveLayers(program.piece, [dot], 1, 2)));
    expect(looks(moved)).toMatchObject({ A: '10,20 #ff0000', B: '101,22 #ff0000' });
  });

  it('hides a layer in the states it is taken from, and removes it from all', () => {
    const piece = three();
    expect(looks(after(piece, withReach(piece, states, some(B), removeLayers(piece, [dot]))))).toMatchObject({ A: '10,20 #ff0000', B: 'hidden' });
    expect(after(piece, withReach(piece, states, some(A, B, C), removeLayers(piece, [dot]))).layers.has(dot)).toBe(false);
  });

  it('shows a new layer only where it is drawn', () => {
    const piece = three();
    const fresh = { ...piece.layers.get(dot)!, id: 'fresh', order: 'z' };
    const put: Operation[] = [{ op: 'put', table: 'layers', value: fresh }];
    const shownIn = (reach: Reach) => {
      const next = compile(after(piece, withReach(piece, states, reach, put)));
      return [A, B, C].map((state) => stillScreen(next, 'home', { state })!.surfaces[0]!.all.some((one) => one.node.key === 'fresh'));
    };
    expect(shownIn(some(B))).toEqual([false, true, false]);
    expect(shownIn(some(A))).toEqual([true, false, false]);
    expect(shownIn({ how: 'follow' })).toEqual([true, true, true]);
  });

  it('changes only what is reached, whatever the edit', () => {
    const fields: [string[], fc.Arbitrary<unknown>][] = [
      [['pose', 'x'], fc.integer({ min: 0, max: 300 })],
      [['pose', 'y'], fc.integer({ min: 0, max: 300 })],
      [['style', 'fill'], fc.constantFrom('#111111', '#222222', undefined)],
    ];
    const edit = fc.constantFrom(...fields).chain(([path, value]) => fc.record({ path: fc.constant(path), value }));
    fc.assert(
      fc.property(fc.array(fc.record({ edit, of: fc.subarray([A, B, C], { minLength: 1 }) }), { maxLength: 6 }), (edits) => {
        let piece = three();
        for (const { edit: one, of } of edits) {
          const before = looks(piece);
          piece = after(piece, withReach(piece, states, some(...of), set(one.path, one.value)));
          const now = looks(piece);
          for (const [id, name] of [
            [A, 'A'],
            [B, 'B'],
            [C, 'C'],
          ] as const)
            if (!of.includes(id)) expect(now[name]).toBe(before[name]);
          const seen = statesOf(piece.scenes.get('home')!)
            .filter((state) => of.includes(state.id))
            .map((state) => stillScreen(compile(piece), 'home', { state: state.id })!.surfaces[0]!.all.find((shown) => shown.node.key === dot)!)
            .map((shown) => (one.path[0] === 'pose' ? shown[one.path[1] as 'x' | 'y'] : (shown.style.fill ?? '#ffffff00')));
          expect(new Set(seen).size).toBe(1);
          if (one.value !== undefined) expect(seen[0]).toBe(one.value);
        }
      }),
      { numRuns: 60 }
    );
  });
});

describe('an edit and the looks that it reaches', () => {
  const button = (): Piece =>
    compose({
      frames: {
        home: {
          layers: {
            button: { at: [0, 0, 100, 40], text: 'Go', style: { fill: '#ff0000' }, looks: { hover: { style: { fill: '#00ff00' } } } },
            group: { type: 'group', at: [0, 100, 100, 40], looks: { hover: {} } },
            inner: { in: 'group', at: [0, 0, 100, 40], style: { fill: '#ff0000' } },
          },
        },
      },
    });
  const id = layerId('home', 'button');
  const of = { of: 'looks', layer: id } as const;
  const lookOf = (piece: Piece): Look => piece.layers.get(id)!.looks!.hover!;

  it('changes the text in one look, or in all', () => {
    const piece = button();
    const one = after(piece, withReach(piece, of, some('hover'), [{ op: 'set', table: 'layers', id, path: ['text'], value: 'Now' }]));
    expect([one.layers.get(id)!.text, lookOf(one).text]).toEqual(['Go', 'Now']);
    const all = after(one, withReach(one, of, { how: 'all' }, [{ op: 'set', table: 'layers', id, path: ['text'], value: 'Off' }]));
    expect([all.layers.get(id)!.text, lookOf(all).text]).toEqual(['Off', undefined]);
    const rest = after(piece, withReach(piece, of, some('rest'), [{ op: 'set', table: 'layers', id, path: ['text'], value: 'Rest' }]));
    expect([rest.layers.get(id)!.text, lookOf(rest).text]).toEqual(['Rest', 'Go']);
  });

  it('begins a look by changing it', () => {
    const piece = button();
    const press = after(piece, withReach(piece, of, some('press'), restyle(piece, [id], ['fill'], '#000000')));
    expect(press.layers.get(id)!.looks!.press).toEqual({ style: { fill: '#000000' } });
  });

  it('changes what is inside a group by the look of the group', () => {
    const piece = button();
    const group = layerId('home', 'group');
    const inner = layerId('home', 'inner');
    const lit = after(piece, withReach(piece, { of: 'looks', layer: group }, some('hover'), restyle(piece, [inner], ['fill'], '#123456')));
    expect(lit.layers.get(group)!.looks!.hover!.inside![inner]).toEqual({ style: { fill: '#123456' } });
    const seen = posed(compile(lit), { scene: 'home', state: null, look: { layers: [group], name: 'hover' } });
    expect(seen.piece.layers.get(inner)!.style.fill).toBe('#123456');
  });
});

describe('states', () => {
  const counter = () => {
    let n = 0;
    return () => `state${n++}`;
  };

  it('begin with two, and are made from any other', () => {
    const plain = compose({ frames: { home: { layers: { dot: {} } } } });
    const { operations, id } = addState(plain, 'home', counter());
    const two = after(plain, operations);
    expect(statesOf(two.scenes.get('home')!).map((state) => state.name)).toEqual(['State 1', 'State 2']);
    expect(id).toBe('state1');
    const piece = three();
    const copied = after(piece, addState(piece, 'home', counter(), { from: B, name: 'B' }).operations);
    expect(looks(copied)).toMatchObject({ 'B 2': '100,20 #ff0000' });
    expect(framesOf(copied)).toHaveLength(1);
  });

  it('look the same when the first one is taken away', () => {
    const piece = three();
    const { A: _gone, ...rest } = looks(piece);
    const left = after(piece, removeState(piece, 'home', A));
    expect(looks(left)).toEqual(rest);
    expect(statesOf(left.scenes.get('home')!)[0]!.deltas).toEqual({});
    const none = [B, C].reduce((at, id) => after(at, removeState(at, 'home', id)), left);
    expect(none.scenes.get('home')!.states).toBeUndefined();
  });

  it('are compared field by field', () => {
    const piece = three();
    const scene = piece.scenes.get('home')!;
    expect(compareStates(piece, scene, A, B)).toEqual([{ layer: dot, field: 'pose.x', a: 10, b: 100 }]);
    expect(compareStates(piece, scene, B, C)).toHaveLength(2);
    expect(compareStates(piece, scene, C, C)).toEqual([]);
  });
});
