import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import {
  apply,
  audit,
  compile,
  explore,
  pieceFromTrusted,
  pieceToJson,
  readPiece,
  unwrap,
  update,
  type Operation,
  type Piece,
  type Program,
} from '@zany/core';
import { LARGE, largePiece } from '@zany/core/testing';
import { compare, measure } from './measure.ts';

/** `npm run bench`: first figures, against the budgets where there is one. Ratios are measured side by side in this run. */

interface Row {
  readonly what: string;
  readonly figure: string;
  readonly budget: string;
}

const rows: Row[] = [];
const ms = (n: number) => (n >= 100 ? `${Math.round(n)} ms` : `${n.toFixed(n < 1 ? 3 : 1)} ms`);
const tell = (what: string, figure: string, budget = '') => {
  rows.push({ what, figure, budget });
  console.log(`  ${what.padEnd(62)} ${figure.padEnd(34)} ${budget}`);
};

const large = largePiece(LARGE);
const small = largePiece({ frames: 4, layers: 240, threads: 20 });
console.log(`\nLarge piece: ${LARGE.frames} frames, ${LARGE.layers} layers, ${LARGE.threads} threads (parts come with the full engine).\n`);

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
tell('one edit and program update, large piece', `${ms(edit.median)} median, ${ms(edit.p95)} 95th`, 'budget 2 ms median');
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
  'budget 3 × JSON.parse, plus first paint'
);
const reading = measure(3, () => unwrap(readPiece(JSON.parse(text))));
tell('reading the large piece with full validation', ms(reading.median));

const cold = measure(3, () => audit(compile(largePiece(LARGE))));
tell('checking the large piece from nothing, making it included', ms(cold.median), 'budget 400 ms for the reading rules');
let program = compile(large);
audit(program);
const again = measure(40, (run) => {
  const { piece, touched } = unwrap(apply(program.piece, moveOf(run, LARGE.frames)));
  program = update(program, piece, touched);
  return audit(program);
});
tell('checking all of it again after one edit', `${ms(again.median)} median`, 'budget 10 ms median for the reading rules');

const wide = compile(largePiece({ frames: 4000, layers: 40_000, threads: 24_000 }));
explore(wide);
const walked = explore(wide);
const walking = measure(10, () => explore(wide));
const perSecond = (n: number) => `${Math.round((n / walking.median) * 1000).toLocaleString('en')} a second`;
tell(
  `explorer: states, of ${walked.states.length} with ${walked.moves} moves, routes kept`,
  perSecond(walked.states.length),
  'budget 1,500,000 on the full engine'
);
tell('explorer: moves', perSecond(walked.moves));

const runtime = readFileSync(new URL('../../player/dist/runtime.js', import.meta.url));
tell('exported page: runtime without pictures, gzipped', `${(gzipSync(runtime).length / 1000).toFixed(1)} kB`, 'budget 45 kB');
console.log('');
