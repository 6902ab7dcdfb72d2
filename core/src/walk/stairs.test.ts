import { expect, test } from 'vitest';
import { compose, type ComposeSpec, type PlacedSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { advance, begin, replay } from '../run/run.ts';
import { lookingBack } from './back.ts';
import { explore } from './explore.ts';

const switches = (count: number): Record<string, PlacedSpec> =>
  Object.fromEntries(
    Array.from({ length: count }, (_, i) => [
      `l${i}`,
      { at: [i * 50, 0, 44, 44], lines: [`click → if v${i} = false → set v${i} to true; otherwise → set v${i} to false`] },
    ])
  );

const variables = (count: number): ComposeSpec['variables'] =>
  Object.fromEntries(Array.from({ length: count }, (_, i) => [`v${i}`, { type: 'yes/no', initial: false }]));

const button = (at: number, ...lines: string[]): PlacedSpec => ({ at: [at, 100, 44, 44], lines });

/** Frames in a ring, each with switches, a way on, and a way back. */
const ring = (count: number): ComposeSpec => ({
  variables: variables(count),
  frames: Object.fromEntries(
    [...'abcd'].map((name, i) => [
      name,
      { layers: { ...switches(count), [`on${name}`]: button(0, `click → go to ${'bcda'[i]}`), [`back${name}`]: button(50, 'click → back') } },
    ])
  ),
});

const pieces: Record<string, ComposeSpec> = {
  'a ring of frames with ways back': ring(4),
  'ways that switches decide, and one that leaves no trace': {
    variables: variables(4),
    frames: {
      a: { layers: { ...switches(4), on: button(0, 'click → if v0 = true → go to b; otherwise if v1 = true and v2 = true → go to c') } },
      b: { layers: { ...switches(4), far: button(0, 'click → go to c'), away: button(50, 'click → if v3 = true → back') } },
      c: { layers: { ...switches(4), home: button(0, 'click → go to a'), turn: button(50, 'click → set v0 to false; then back') } },
      d: { layers: switches(2) },
    },
  },
  'frames that nobody goes back from among those': {
    variables: variables(5),
    frames: {
      a: { layers: { ...switches(5), on: button(0, 'click → go to b'), over: button(50, 'click → go to c') } },
      b: { layers: { ...switches(5), on: button(0, 'click → go to c'), off: button(50, 'click → go to a') } },
      c: { layers: { ...switches(3), back: button(0, 'click → back'), on: button(50, 'click → if v4 = true → go replacing to a') } },
    },
  },
};

test('in a ring each row is met over all that can lie below it, whatever switches said on the way', () => {
  const { count, moves, cut } = explore(compile(compose(ring(4))), { slicedFrom: 1e9 });
  expect(cut).toBeNull();
  // Frames with what switches say, over nothing where it began, and over each frame as it was come to.
  expect(count).toBe(4 * 16 * 16 + 16);
  expect(moves).toBe(count * 6);
});

test.each(Object.entries(pieces))('where clicks lead over back stacks is what the engine says: %s', (_, spec) => {
  const program = compile(compose(spec));
  const exploration = explore(program, { slicedFrom: 1e9 });
  expect(exploration.cut).toBeNull();
  const { edges, states, count } = exploration;
  const rowOf = (state: number): number => exploration.levels!.rowOf(state);
  expect(count).toBeGreaterThan(300);
  const asked = lookingBack(program);
  states.forEach(({ frame }, state) => {
    if (asked && !asked.has(frame)) expect(exploration.levels!.stackOf(state)).toBe(0);
  });
  const held = { on: 0, back: 0 };
  for (let state = 0; state < count; state += 5) {
    const { run } = replay(program, begin(program, states[state]!.start)!.run, exploration.routeTo(state));
    expect(rowOf(exploration.stateOf(run)!)).toBe(rowOf(state));
    const all = edges.of(state);
    for (const layer of program.piece.layers.keys()) {
      const ends = all.filter(({ event }) => event.type === 'click' && event.layer === layer);
      const then = rowOf(exploration.stateOf(advance(program, run, { type: 'click', layer }).run)!);
      const rows = ends.map(({ to }) => rowOf(to));
      if (ends.some(({ back }) => back)) {
        expect(new Set(rows)).toEqual(new Set([then]));
        held.back++;
      } else if (ends.length > 0) {
        expect(rows).toEqual([then]);
        held.on++;
      } else if (program.piece.layers.get(layer)!.scene === run.frame) expect(then).toBe(rowOf(state));
    }
  }
  expect(held.on).toBeGreaterThan(100);
  expect(held.back).toBeGreaterThan(20);
});

test('all that lies below a state is found behind its way back, whenever that was found', () => {
  const { edges, levels, count } = explore(compile(compose(ring(4))), { slicedFrom: 1e9 });
  let ways = 0;
  for (let state = 0; state < count; state++) {
    const back = edges.of(state).filter((edge) => edge.back);
    const below = levels!.below(levels!.stackOf(state));
    if (levels!.stackOf(state) === 0) expect(back).toHaveLength(0);
    else expect(new Set(back.map(({ to }) => levels!.stackOf(to)))).toEqual(new Set(below));
    ways += back.length;
  }
  expect(ways).toBeGreaterThan(count);
});
