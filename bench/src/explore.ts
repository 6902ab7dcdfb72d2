import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { apply, compile, exploring, explore, judge, update, unwrap, type Exploring, type Program } from '@zany/core';
import { compose, exploreNaively, LARGE, largePiece } from '@zany/core/testing';
import { atLeast, atMost, budget } from './budget.ts';
import { families, MOST } from './families.ts';
import { figuresOf } from './measure.ts';
import { exploredBySpin } from './spin.ts';

/** How fast pieces are explored, beside trying every event in every state with the engine, in one run. */

const count = (n: number) => Math.round(n).toLocaleString('en');
const ms = (n: number) => `${n < 10 ? n.toFixed(1) : n.toFixed(0)} ms`;
const tell = (what: string, figures: string, held = '') => console.log(`  ${what.padEnd(58)} ${figures.padEnd(58)} ${held}`);

for (const name of ['counters', 'yes/no variables']) {
  const measured = execFileSync(process.execPath, [...process.execArgv, fileURLToPath(import.meta.resolve('./memory.ts')), name], {
    encoding: 'utf8',
  });
  const bytes = Number(measured);
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
