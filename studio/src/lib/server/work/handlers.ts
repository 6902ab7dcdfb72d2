import { compile, excerpt, exploring, exported, judge, startFrame, type Piece, type PieceJson } from '@zany/core';
import { runErrand } from './errand';
import { pageParts, pieceFrom } from './from-text';
import { runTrails, shownAs } from './reviewed';
import { Refusal } from '../refusal';
import { Keeper } from './keeper';
import { withNewId } from './renewed';
import type { Card, Outcome, TaskName, Tasks, Tell } from './tasks';

type Handlers = { readonly [K in TaskName]: (input: Tasks[K]['in'], tell: Tell) => Tasks[K]['out'] | Promise<Tasks[K]['out']> };

const keeper = new Keeper();

/** What a worker does for each task. */
export const handlers: Handlers = {
  apply: (task) => keeper.apply(task),
  document: (at) => keeper.document(at),
  package: ({ bytes, id }) => refusable(async () => (await taking()).bringIn(bytes, id)),
  picture: ({ file, bytes }) => refusable(async () => (await taking()).takePicture(file, bytes)),
  card: ({ document }) => cardOf(pieceFrom(document)),
  copy: ({ document, id, name }) => {
    const json = withNewId(JSON.parse(document) as PieceJson, id, name);
    return { document: JSON.stringify(json), assets: Object.keys(json.assets) };
  },
  write: ({ document, kind, assets, parts }) => exported(kind, pieceFrom(document), new Map(assets), pageParts(parts)),
  shown: ({ document, bundle, start }) => shownAs(pieceFrom(document), bundle, start),
  trails: ({ document, trails }) => runTrails(pieceFrom(document), trails),
  errand: (task, tell) => refusable(() => runErrand(task, tell)),
  batches: ({ body }) => refusable(async () => (await import('./sent')).parseBatches(body)),
};

/** Reading files takes libraries that are large; a worker that keeps pieces needs none of them. */
const taking = () => import('./taking');

async function refusable<T>(work: () => T | Promise<T>): Promise<Outcome<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    if (error instanceof Refusal) return { ok: false, error: error.fault };
    throw error;
  }
}

// ── what the Workroom shows ───────────────────────────────────────────────────

/**
 * Exploring for a card ends here: by number, so that the answer is the same on every machine; by time only for what is far too slow. What
 * is found in more states counts only where that is all there is.
 */
const CARD = { states: 3000, ms: 12_000, more: 30_000, moreMs: 30_000 };

export function cardOf(piece: Piece): Card {
  const program = compile(piece);
  const began = performance.now();
  const isLate = (ms: number) => () => performance.now() - began > ms;
  const all = exploring(program);
  const stopped = all.on(CARD.states, isLate(CARD.ms));
  let { findings, exploration } = judge(program, all.result());
  if (stopped === 'limit' && all.on(CARD.more, isLate(CARD.moreMs)) === 'end') ({ findings, exploration } = judge(program, all.result()));
  const first = startFrame(program);
  return {
    frames: program.frames.length,
    looseEnds: stopped === 'paused' ? null : findings.length,
    complete: exploration.cut === null,
    cover: first !== null && piece.scenes.has(first) ? excerpt(piece, first) : null,
  };
}
