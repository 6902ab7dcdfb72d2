/// <reference lib="webworker" />
import {
  compareVersions,
  compile,
  differencesBetween,
  exploring,
  judge,
  pieceFromTrusted,
  tellApart,
  type Apart,
  type Change,
  type Differences,
  type PieceJson,
  type Program,
  type Version,
} from '@zany/core';

export interface CompareTask {
  readonly before: PieceJson;
  readonly after: PieceJson;
}

/** What is known so far, in the order in which it comes. */
export type CompareNews =
  | { readonly type: 'written'; readonly differences: Differences }
  | { readonly type: 'progress'; readonly which: 'before' | 'after'; readonly states: number }
  | {
      readonly type: 'walked';
      readonly changes: readonly Change[];
      /** What was left out of exploring each of them; null where nothing was. */
      readonly cut: { readonly before: string | null; readonly after: string | null };
    }
  | { readonly type: 'apart'; readonly apart: Apart };

/** States between two words of how far it has come. */
const STEP = 5000;

/** Compares two versions by how they are written and by what they do. It is stopped by ending the worker. */
onmessage = ({ data }: MessageEvent<CompareTask>) => {
  const [before, after] = [compile(pieceFromTrusted(data.before)), compile(pieceFromTrusted(data.after))];
  tell({ type: 'written', differences: differencesBetween(before, after) });
  const [a, b] = [walked(before, 'before'), walked(after, 'after')];
  tell({ type: 'walked', changes: compareVersions(a, b), cut: { before: a.audit.exploration.cut, after: b.audit.exploration.cut } });
  tell({ type: 'apart', apart: tellApart(before, after) });
};

const tell = (news: CompareNews): void => postMessage(news);

function walked(program: Program, which: 'before' | 'after'): Version {
  const begun = exploring(program);
  for (let states = STEP; begun.on(Math.min(states, begun.usual)) === 'limit' && states < begun.usual; states += STEP)
    tell({ type: 'progress', which, states });
  return { program, audit: judge(program, begun.result()) };
}
