import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { apply, compile, exploring, explore, judge, update, unwrap, type Exploring, type Program } from '@zany/core';
import { compose, exploreNaively, LARGE, largePiece, seat, type ComposeSpec, type PlacedSpec } from '@zany/core/testing';
import { atLeast, atMost, budget } from './budget.ts';
import { figuresOf } from './measure.ts';
import { exploredBySpin, type Model } from './spin.ts';

/** How fast pieces are explored, beside trying every event in every state with the engine, in one run. */

const count = (n: number) => Math.round(n).toLocaleString('en');
const ms = (n: number) => `${n < 10 ? n.toFixed(1) : n.toFixed(0)} ms`;
const tell = (what: string, figures: string, held = '') => console.log(`  ${what.padEnd(58)} ${figures.padEnd(58)} ${held}`);

const row = (count: number, made: (i: number) => PlacedSpec): Record<string, PlacedSpec> =>
  Object.fromEntries(Array.from({ length: count }, (_, i) => [`l${i}`, { at: [(i % 10) * 38, Math.floor(i / 10) * 50, 36, 44], ...made(i) }]));

/** One family of pieces by what tells their states apart, each with the size to explore and one that trying everything can. */
interface Family {
  readonly make: (n: number) => ComposeSpec;
  readonly whole: number;
  readonly small: number;
  /** The same for a compiled verifier. */
  readonly model?: (n: number) => Model;
  /** States a second that there have to be. */
  readonly least?: number;
}

const switches = (n: number): ComposeSpec['variables'] =>
  Object.fromEntries(Array.from({ length: n }, (_, i) => [`v${i}`, { type: 'yes/no', initial: false }]));

/** Each is asked for: what nothing reads tells no states apart. */
const turning = (i: number) => ({ lines: [`click → if v${i} = false → set v${i} to true; otherwise → set v${i} to false`] });

const families: Record<string, Family> = {
  'yes/no variables': {
    make: (n) => ({
      variables: switches(n),
      frames: {
        home: { layers: row(n, turning) },
      },
    }),
    whole: 18,
    small: 7,
    model: (variables) => ({ variables, most: 1, step: 'round' }),
  },
  'placed parts with states': {
    make: (n) => ({
      parts: {
        Seat: seat(36, 44),
      },
      frames: { home: { layers: row(n, () => ({ type: 'placement', part: 'Seat' })) } },
    }),
    least: 500_000,
    whole: 18,
    small: 7,
  },
  'seats that nothing depends on': {
    make: (n) => ({
      parts: {
        Seat: seat(36, 44),
      },
      frames: { home: { layers: row(n, () => ({ type: 'placement', part: 'Seat' })) } },
    }),
    whole: 60,
    small: 7,
  },
  counters: {
    make: (n) => ({
      variables: Object.fromEntries(Array.from({ length: n }, (_, i) => [`v${i}`, { type: 'number', initial: 0, min: 0, max: 9 }])),
      frames: { home: { layers: row(n, (i) => ({ lines: [`click → set v${i} to v${i} + 1`] })) } },
    }),
    whole: 6,
    small: 2,
    model: (variables) => ({ variables, most: 9, step: 'up' }),
  },
  'frames with a way back': {
    make: (n) => ({
      frames: Object.fromEntries(
        Array.from({ length: n }, (_, i) => [
          `f${i}`,
          {
            layers: {
              [`on${i}`]: { at: [0, 0, 90, 44], lines: [`click → go to f${(i + 1) % n}`] },
              [`far${i}`]: { at: [0, 50, 90, 44], lines: [`click → go to f${(i * 7 + 3) % n}`] },
              [`back${i}`]: { at: [0, 100, 90, 44], lines: ['click → back'] },
            },
          },
        ])
      ),
    }),
    whole: 300,
    small: 4,
  },
  'a way back, and switches': {
    make: (n) => ({
      variables: switches(n),
      frames: Object.fromEntries(
        ['a', 'b', 'c', 'd'].map((name, i) => [
          name,
          {
            layers: {
              ...row(n, turning),
              [`on${i}`]: { at: [0, 200, 90, 44], lines: [`click → go to ${'bcda'[i]}`] },
              [`back${i}`]: { at: [0, 250, 90, 44], lines: ['click → back'] },
            },
          },
        ])
      ),
    }),
    least: 500_000,
    whole: 8,
    small: 1,
  },
  'timers, steps that wait, and switches': {
    make: (n) => ({
      variables: switches(n),
      frames: Object.fromEntries(
        ['a', 'b'].map((name, i) => [
          name,
          {
            layers: { ...row(n, turning), [`on${i}`]: { at: [0, 200, 90, 44], lines: [`click → wait 1 s; go to ${'ba'[i]}`] } },
            lines: [`after 2 s → go to ${'ba'[i]}`],
          },
        ])
      ),
    }),
    least: 500_000,
    whole: 15,
    small: 2,
  },
  'timers and steps that wait': {
    make: (n) => ({
      frames: { home: { layers: row(n, (i) => ({ lines: [`click → wait ${300 + i * 100} ms; hide this`] })), lines: ['after 2 s → send off'] } },
    }),
    least: 500_000,
    whole: 4,
    small: 2,
  },
};

/** So many states are explored at most. */
const MOST = 1_000_000;

setFlagsFromString('--expose-gc');
const sweep = runInNewContext('gc') as () => void;
/** Bytes taken once all that is done with is swept up. */
const taken = (): number => {
  sweep();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return heapUsed + arrayBuffers;
};
/** Bytes for each state of a family, with all that is known of it. */
const bytesOf = ({ make, whole, small }: Family): number => {
  // Whatever still holds on to what was explored before holds on to little then.
  explore(compile(compose(make(small))), { slicedFrom: MOST });
  const program = compile(compose(make(whole)));
  const before = taken();
  const going = exploring(program, null, MOST);
  going.on(MOST);
  return (taken() - before) / going.result().count;
};
for (const name of ['counters', 'yes/no variables']) {
  const bytes = bytesOf(families[name]!);
  tell(`${name}: memory`, `${bytes.toFixed(0)} bytes a state`, budget('48 bytes', atMost(bytes, 48)));
}

for (const [name, { make, whole, small, model, least }] of Object.entries(families)) {
  const explored = (n: number) => {
    const program = compile(compose(make(n)));
    const began = performance.now();
    const { count, moves, cut } = explore(program, { maxStates: MOST, slicedFrom: name.startsWith('seats that') ? 1000 : MOST });
    return { states: count, moves, cut, took: performance.now() - began };
  };
  // Once warm: what was explored before has readied nothing but the code.
  const middle = (runs: readonly { readonly took: number }[]) => figuresOf(runs.map(({ took }) => took)).median;
  const thrice = (run: () => ReturnType<typeof explored>) => {
    const runs = [run(), run(), run()];
    return { ...runs[0]!, took: middle(runs) };
  };
  explored(whole);
  const ours = thrice(() => explored(whole));
  explored(small);
  const beside = explored(small);
  const program = compile(compose(make(small)));
  const began = performance.now();
  const theirs = exploreNaively(program, 5000, 6);
  const theirTime = performance.now() - began;
  const ratio = beside.states / beside.took / (theirs.states.size / theirTime);
  tell(
    `${name}: ${count(ours.states)} states${ours.cut === null ? '' : ', cut'}`,
    `${count((ours.states / ours.took) * 1000)} states a second, ${count((ours.moves / ours.took) * 1000)} moves`,
    `small one ${ratio.toFixed(0)} × trying everything${least === undefined ? '' : `; ${budget('500,000', atLeast((ours.states / ours.took) * 1000, least))}`}`
  );
  const beginning = model && (await exploredBySpin(model(whole)));
  if (beginning) {
    const pairs = [];
    for (let i = 0; i < 3; i++) pairs.push({ ours: explored(whole), spin: (await exploredBySpin(model(whole))) ?? beginning });
    const { states } = beginning;
    if (ours.states !== states) throw new Error(`Spin finds ${count(states)} states, we ${count(ours.states)}`);
    const ourTime = middle(pairs.map((pair) => pair.ours));
    const spinTime = middle(pairs.map((pair) => pair.spin));
    const [a, b] = [ourTime, spinTime].map((took) => (states / took) * 1000) as [number, number];
    tell(
      '  beside a compiled verifier (Spin), the same states',
      `${count(a)} and ${count(b)} states a second: ${(a / b).toFixed(2)} ×`,
      budget('3 ×', atLeast(a / b, 3))
    );
  }
}

const moveOf = (run: number, frames: number) => {
  return [{ op: 'set' as const, table: 'layers' as const, id: `f${run % frames}-l${run % 7}`, path: ['pose', 'x'], value: run % 300 }];
};

let program: Program = compile(largePiece(LARGE));
const first = performance.now();
let going: Exploring = exploring(program);
going.on(going.usual);
const found = judge(program, going.result());
const fromNothing = performance.now() - first;
tell(
  `large piece from nothing: ${count(found.exploration.states.length)} states`,
  `${ms(fromNothing)} to explore and judge`,
  budget('400 ms', atMost(fromNothing, 400))
);
const times: number[] = [];
for (let run = 0; run < 60; run++) {
  const applied = apply(program.piece, moveOf(run * 7, LARGE.frames));
  const { piece, touched } = unwrap(applied);
  program = update(program, piece, touched);
  const began = performance.now();
  going = exploring(program, going);
  going.on(going.usual);
  judge(program, going.result());
  times.push(performance.now() - began);
}
const edit = figuresOf(times.slice(10));
tell(
  'large piece after one edit: explored and judged',
  `${ms(edit.median)} median, ${ms(edit.p95)} 95th`,
  budget('20 ms median, 100 ms 95th', atMost(edit.median, 20), atMost(edit.p95, 100))
);
