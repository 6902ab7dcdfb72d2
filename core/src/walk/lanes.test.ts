import { expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import { advance, begin, replay } from '../run/run.ts';
import { compose, type ComposeSpec, type PlacedSpec } from '../compose/compose.ts';
import { seat } from '../testing/seats.ts';
import { explore } from './explore.ts';

const row = (count: number, made: (i: number) => PlacedSpec): Record<string, PlacedSpec> =>
  Object.fromEntries(Array.from({ length: count }, (_, i) => [`l${i}`, { at: [(i % 8) * 46, Math.floor(i / 8) * 50, 44, 44], ...made(i) }]));

type VariableSpec = NonNullable<ComposeSpec['variables']>[string];

const numbered = (count: number, made: VariableSpec): ComposeSpec['variables'] =>
  Object.fromEntries(Array.from({ length: count }, (_, i) => [`v${i}`, made]));

const turned = (i: number) => ({ lines: [`click → if v${i} = false → set v${i} to true; otherwise → set v${i} to false`] });

const pieces: Record<string, ComposeSpec> = {
  switches: { variables: numbered(8, { type: 'yes/no', initial: false }), frames: { home: { layers: row(8, turned) } } },
  'numbers to an end': {
    variables: numbered(3, { type: 'number', initial: 0, min: 0, max: 6 }),
    frames: { home: { layers: row(3, (i) => ({ lines: [`click → set v${i} to v${i} + 1`] })) } },
  },
  'parts with states': { parts: { Seat: seat(40, 40) }, frames: { home: { layers: row(8, () => ({ type: 'placement', part: 'Seat' })) } } },
  'what two and three say together': {
    variables: numbered(6, { type: 'yes/no', initial: false }),
    frames: {
      home: {
        layers: {
          ...row(6, turned),
          on: { at: [0, 200, 90, 44], lines: ['click → if v0 = true and v1 = true → go to there; otherwise if v2 = true → set v3 to false'] },
          all: { at: [0, 250, 90, 44], lines: ['click → if v0 = true or (v1 = true and v2 = true and v3 = true and v4 = true) → set v5 to false'] },
        },
      },
      there: { layers: { home: { at: [0, 0, 90, 44], lines: ['click → set v0 to false; then go to home'] }, ...row(2, turned) } },
    },
  },
  'more switches than there is room for all that could be': {
    variables: numbered(26, { type: 'yes/no', initial: false }),
    frames: {
      home: {
        layers: row(26, (i) => ({
          lines: [i < 6 ? turned(i).lines[0]! : `click → if v${i - 1} = true and v${i} = false → set v${i} to true; set v${i - 1} to false`],
        })),
      },
    },
  },
  'switches while something waits': {
    variables: numbered(6, { type: 'yes/no', initial: false }),
    frames: {
      a: { layers: { ...row(6, turned), on: { at: [0, 200, 90, 44], lines: ['click → wait 1 s; go to b'] } }, lines: ['after 2 s → go to b'] },
      b: { layers: { ...row(6, turned), on: { at: [0, 200, 90, 44], lines: ['click → go to a'] } } },
    },
  },
};

/** Pieces in which most things are waited for, and what comes of that depends on switches. */
const waited: Record<string, ComposeSpec> = {
  'leads on, or sets something': {
    variables: numbered(6, { type: 'yes/no', initial: false }),
    frames: {
      a: {
        layers: { ...row(6, turned), on: { at: [0, 200, 90, 44], lines: ['click → if v0 = true → wait 1 s; go to b'] } },
        lines: ['after 2 s → if v1 = true → go to b; otherwise → set v2 to true', 'after 3 s → set v3 to false'],
      },
      b: { layers: { on: { at: [0, 200, 90, 44], lines: ['click → go to a'] } }, lines: ['after 1 s → go to c'] },
      c: { layers: row(6, turned), lines: ['after 500 ms → set v1 to true; go to a'] },
    },
  },
  'is laid over and taken away': {
    variables: numbered(6, { type: 'yes/no', initial: false }),
    frames: {
      a: {
        layers: { ...row(6, turned), on: { at: [0, 200, 90, 44], lines: ['click → lay over b at bottom'] } },
        lines: ['after 1 s → lay over c at bottom'],
      },
      b: { size: [200, 80], layers: { off: { at: [0, 0, 90, 44], lines: ['click → lift'] } }, lines: ['after 1 s → lift'] },
      c: { size: [200, 80], layers: {}, lines: ['after 2 s → if v0 = true → lift; otherwise → go to a'] },
    },
  },
};

test.each(Object.entries(waited))('where the passing of time leads is what the engine says: what is due %s', (_, spec) => {
  const program = compile(compose(spec));
  const exploration = explore(program, { maxStates: 3000, slicedFrom: 1e9 });
  expect(exploration.cut).toBeNull();
  const { edges, count, states } = exploration;
  const due = new Set<string>();
  for (let state = 0; state < count; state += 5)
    for (const { to, event, threads, step } of edges.of(state)) {
      if (event.type !== 'wait') continue;
      const route = exploration.routeTo(state, [], [step]);
      expect(route).not.toBeNull();
      const { run } = replay(program, begin(program, states[state]!.start)!.run, route!);
      expect(exploration.stateOf(run)).toBe(to);
      due.add(threads.join());
    }
  expect(due.size).toBeGreaterThan(2);
});

/** Where an edge leads, the engine comes to from its state as well, and so it does by whatever else can be clicked there. */
test.each(Object.entries(pieces))('where clicks lead is what the engine says: %s', (_, spec) => {
  const program = compile(compose(spec));
  const exploration = explore(program, { maxStates: 1500, slicedFrom: 1e9 });
  const { edges, count } = exploration;
  expect(count).toBeGreaterThan(60);
  const clicked = new Set<string>();
  let held = 0;
  for (let state = 0; state < count; state += 7) {
    const run = exploration.runOf(state);
    for (const { to, event } of edges.of(state)) {
      if (event.type !== 'click') continue;
      const then = exploration.stateOf(advance(program, run, event).run);
      // While something waits the engine stands at the first of the moments that a state is.
      if (then === null) continue;
      expect(then).toBe(to);
      clicked.add(JSON.stringify(event));
      held++;
    }
  }
  expect(clicked.size).toBeGreaterThan(2);
  expect(held).toBeGreaterThan(25);
});

test('each row is met once, also where rows are found in another way once there are many', () => {
  const { count, slots } = explore(
    compile(compose({ variables: numbered(20, { type: 'yes/no', initial: false }), frames: { home: { layers: row(20, turned) } } })),
    {
      maxStates: 36_000,
      slicedFrom: 1e9,
    }
  );
  const columns = slots();
  const met = new Set(Array.from({ length: count }, (_, state) => columns.map(({ numberIn }) => numberIn(state)).join()));
  expect(met.size).toBe(count);
});

test('edges that are known without being kept are the same each time, and lead on from where others end', () => {
  const exploration = explore(compile(compose(pieces['switches']!)), { slicedFrom: 1e9 });
  const { edges, states, count } = exploration;
  expect(count).toBe(2 ** 8);
  for (let state = 0; state < count; state++) {
    const ends = edges.of(state).map(({ to }) => to);
    expect(new Set(ends).size).toBe(8);
    expect(edges.endsOf(state)).toEqual(ends);
  }
  const sources = edges.sources();
  expect(sources.every((from) => from.length === 8)).toBe(true);
  for (const [state, { parent, event }] of states.entries())
    if (parent >= 0) expect(edges.of(parent).some((edge) => edge.to === state && edge.event === event)).toBe(true);
});
