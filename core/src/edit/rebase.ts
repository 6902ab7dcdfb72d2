import type { Piece } from '../piece/piece.ts';
import type { Fault } from '../result.ts';
import { apply } from './apply.ts';
import type { Touched } from './touched.ts';
import type { Batch } from './operation.ts';

export interface Rebased {
  readonly piece: Piece;
  /** The batches that still hold, in order. */
  readonly kept: Batch[];
  /** Those that no longer can be applied, each with the reason. */
  readonly dropped: { readonly batch: Batch; readonly fault: Fault }[];
  readonly touched: Touched[];
}

/**
 * Applies batches that are not acknowledged yet on top of a newer confirmed piece. Since everybody confirms the same
 * batches in the server's order, pieces converge as soon as nothing is pending.
 */
export function rebase(confirmed: Piece, pending: readonly Batch[]): Rebased {
  let piece = confirmed;
  const kept: Batch[] = [];
  const dropped: Rebased['dropped'] = [];
  const touched: Touched[] = [];
  for (const batch of pending) {
    const applied = apply(piece, batch.operations);
    if (!applied.ok) {
      dropped.push({ batch, fault: applied.error });
      continue;
    }
    piece = applied.value.piece;
    kept.push(batch);
    touched.push(applied.value.touched);
  }
  return { piece, kept, dropped, touched };
}
