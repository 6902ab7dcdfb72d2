import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import {
  advance,
  apply,
  atRest,
  audit,
  begin,
  compile,
  explore,
  pictureAt,
  present,
  resolveScreen,
  type RunEvent,
  pieceFromTrusted,
  pieceToJson,
  readPiece,
  unwrap,
  update,
  type Operation,
  type Piece,
  type Program,
} from '@zany/core';
import { compose, generator, LARGE, layerId, largePiece } from '@zany/core/testing';
import { atLeast, atMost, budget } from './budget.ts';
import { compare, measure } from './measure.ts';

/** `npm run bench`: first figures, against the budgets where there is one. Ratios are measured side by side in this run. */

interface Row {
  readonly what: string;
  readonly figure: string;
  readonly budget: string;
}

const rows: Row[] = [];
const ms = (n: number) => (n >= 100 ? `${Math.round(n)} ms` : `${n.toFixed(n < 1 ? 3 : 1)} ms`);
const tell = (what: string, figure: string, held = '') => {
  rows.push({ what, figure, budget: held });
  console.log(`  ${what.padEnd(62)} ${figure.padEnd(34)} ${held}`);
};

const large = largePiece(LARGE);
const small = largePiece({ frames: 4, layers: 240, threads: 20 });
console.log(`\nLarge piece: ${LARGE.frames} frames, ${LARGE.layers} layers, ${LARGE.threads} threads, ${LARGE.parts} parts.\n`);

const moveOf = (run: number, frames: number): Operation[] => [
  { op: 'set', table: 'layers', id: `f${run % frames}-l${run % 7}`, path: ['pose', 'x'], value: run % 300 },
];

/** One edit applied and the program brought up to date, as a drag does at every step. */
function editing(piece: Piece, frames: number): () => void {
  let program: Program = compile(piece);
  let run = 0;
  return () => {
    const { piece: next, touched } = unwrap(apply(program.piece, moveOf(run++, frames)));
    program = update(program, next, touched);
  };
}

const edit = measure(2000, editing(large, LARGE.frames));
tell('one edit and program update, large piece', `${ms(edit.median)} median, ${ms(edit.p95)} 95th`, budget('2 ms median', atMost(edit.median, 2)));
const sizes = compare(400, editing(large, LARGE.frames), editing(small, 4));
tell('  the same, large beside a hundredth of it', `${sizes.ratio.toFixed(2)} times`, 'whatever the size');

const compileWhole = measure(10, () => compile(large));
tell('compiling the large piece from nothing', ms(compileWhole.median));

const text = JSON.stringify(pieceToJson(large));
const opening = compare(
  9,
  () => compile(pieceFromTrusted(JSON.parse(text))),
  () => JSON.parse(text)
);
tell(
  'opening: JSON.parse, tables and program',
  `${ms(opening.ours.median)}, ${opening.ratio.toFixed(2)} × JSON.parse`,
  budget('3 × JSON.parse', atMost(opening.ratio, 3))
);
const reading = measure(3, () => unwrap(readPiece(JSON.parse(text))));
tell('reading the large piece with full validation', ms(reading.median));

/** The rules that read the piece alone: the explorer, which is measured below, is stopped at its first state. */
const readingOnly = { maxStates: 1 };
const cold = measure(3, () => audit(compile(largePiece(LARGE)), readingOnly));
tell('reading rules, large piece from nothing, making it included', ms(cold.median), budget('400 ms', atMost(cold.median, 400)));
let program = compile(large);
audit(program, readingOnly);
const again = measure(40, (run) => {
  const { piece, touched } = unwrap(apply(program.piece, moveOf(run, LARGE.frames)));
  program = update(program, piece, touched);
  return audit(program, readingOnly);
});
tell('reading rules, all of it again after one edit', `${ms(again.median)} median`, budget('10 ms median', atMost(again.median, 10)));

const whole = measure(2, () => explore(program));
const { states, cut } = explore(program);
tell(
  `explorer with parts: ${states.length} states of the large piece${cut === null ? '' : ', where it stops'}`,
  `${Math.round((states.length / whole.median) * 1000).toLocaleString('en')} a second`,
  budget('1,500,000', atLeast((states.length / whole.median) * 1000, 1_500_000))
);

const wide = compile(largePiece({ frames: 4000, layers: 40_000, threads: 24_000 }));
explore(wide);
const walked = explore(wide);
const walking = measure(10, () => explore(wide));
const perSecond = (n: number) => `${Math.round((n / walking.median) * 1000).toLocaleString('en')} a second`;
tell(
  `explorer without: states, of ${walked.states.length} with ${walked.moves} moves, routes kept`,
  perSecond(walked.states.length),
  budget('1,500,000', atLeast((walked.states.length / walking.median) * 1000, 1_500_000))
);
tell('explorer without: moves', perSecond(walked.moves));

/** A frame of 300 layers, each of which its second state moves, turns and tints. */
const crowd = compile(
  compose({
    frames: {
      home: {
        layers: Object.fromEntries(
          Array.from({ length: 300 }, (_, i) => [`L${i}`, { at: [(i % 20) * 18, Math.floor(i / 20) * 40, 16, 30], style: { fill: '#f0b13c' } }])
        ),
        states: {
          One: {},
          Two: Object.fromEntries(
            Array.from({ length: 300 }, (_, i) => [`L${i}`, { pose: { x: (i % 13) * 30, rotation: i % 90 }, style: { fill: '#0e7c86' } }])
          ),
        },
        lines: ['key x → put this in Two · tween 400 ms ease-in-out'],
      },
    },
  })
);
const calm = begin(crowd)!.run;
const changed = advance(crowd, calm, { type: 'key', key: 'x' });
const effects = changed.reports.flatMap((report) => report.effects);
const moving = present(atRest(resolveScreen(crowd, calm)), resolveScreen(crowd, changed.run), effects, 0);
const frame = measure(400, (run) => {
  const picture = pictureAt(moving, 1 + (run % 398));
  if (picture.values.size !== 300) throw new Error(`${picture.values.size} layers move`);
});
tell('presenting: values of 300 moving layers at one moment', `${ms(frame.median)} median, ${ms(frame.p95)} 95th`, 'part of 16.7 ms');

/** Clicks, keys and waits at random over frames with states, variables, conditions, bindings and timers. */
const busy = compile(
  compose({
    variables: { seats: { type: 'number', initial: 1, min: 0, max: 9 } },
    frames: Object.fromEntries(
      ['A', 'B', 'C', 'D'].map((name, i, all) => [
        name,
        {
          states: { One: {}, Two: { more: { style: { fill: '#0e7c86' } } } },
          layers: {
            more: { at: [0, 0, 80, 80], lines: ['click → set seats to seats + 1; next state around'] },
            less: { at: [0, 100, 80, 80], lines: ['click → if seats > 3 → set seats to 0; otherwise → set seats to seats + 2'] },
            on: { at: [0, 200, 80, 80], lines: [`click → go to ${all[(i + 1) % 4]} · push left 300 ms`] },
            note: { type: 'text', at: [0, 300, 80, 20], text: '{seats} seats', when: { shown: 'seats > 1' } },
          },
          lines: ['key Escape → go to back', 'after 900 ms → set seats to 1', 'variable seats → send counted'],
        },
      ])
    ),
  })
);
const HAPPENINGS = 4000;
function play(): void {
  const random = generator(3);
  let { run } = begin(busy)!;
  for (let i = 0; i < HAPPENINGS; i++) {
    const kind = random();
    const layer = layerId(run.frame, ['more', 'less', 'on'][Math.floor(random() * 3)]!);
    const event: RunEvent =
      kind < 0.7 ? { type: 'click', layer } : kind < 0.85 ? { type: 'key', key: 'Escape' } : { type: 'wait', ms: Math.floor(random() * 1000) };
    ({ run } = advance(busy, run, event));
  }
}
const playing = measure(5, play);
tell('engine: events, each run to completion', `${Math.round((HAPPENINGS / playing.median) * 1000).toLocaleString('en')} a second`);

const runtime = readFileSync(new URL('../../player/dist/runtime.js', import.meta.url));
tell(
  'exported page: runtime without pictures, gzipped',
  `${(gzipSync(runtime).length / 1000).toFixed(1)} kB`,
  budget('45 kB', atMost(gzipSync(runtime).length, 45_000))
);
console.log('');
