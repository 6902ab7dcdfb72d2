import {
  apply,
  migratedEdit,
  BatchSchema,
  fault,
  pieceFromTrusted,
  pieceToJson,
  schemaFault,
  unwrap,
  type Fault,
  type Operation,
  type Piece,
  type PieceJson,
} from '@zany/core';
import type { Applied, ApplyTask, At, SentBatch } from './tasks';

interface Kept {
  /** As the database has it. */
  settled: { readonly revision: number; readonly piece: Piece };
  /** As it will be, if what was applied last is saved. */
  applied: { readonly revision: number; readonly piece: Piece } | null;
  /** Signs of its document, about. */
  size: number;
}

/** All documents that are kept together, in signs. */
const MOST_KEPT = 150_000_000;

/** Holds pieces as they were last saved and applies edits to them. Only ever a shortcut: what it holds can be made anew at any time. */
export class Keeper {
  private readonly kept = new Map<string, Kept>();

  apply(task: ApplyTask): Applied {
    const kept = this.at(task);
    kept.applied = null;
    let { revision, piece } = kept.settled;
    const results = task.batches.map((batch) => {
      const known = Object.hasOwn(task.refused, batch.id) ? task.refused[batch.id] : undefined;
      const done = known ? { fault: known } : applyOne(piece, batch);
      if ('fault' in done) return done;
      piece = done.piece;
      revision++;
      kept.size += batch.operations.length;
      return { assets: done.assets };
    });
    kept.applied = { revision, piece };
    return { results, revision, name: piece.head.name };
  }

  document(at: At): string {
    const kept = this.at(at);
    const text = JSON.stringify(pieceToJson(kept.settled.piece));
    kept.size = text.length;
    return text;
  }

  private at({ piece: id, revision, from, log }: At): Kept {
    const kept = typeof from === 'string' ? this.known(id, from) : fresh(from.revision, from.document);
    this.kept.delete(id);
    this.kept.set(id, kept);
    if (log.length) {
      let { piece } = kept.settled;
      for (const operations of log) piece = unwrap(apply(piece, (JSON.parse(operations) as Operation[]).map(migratedEdit))).piece;
      kept.settled = { revision: kept.settled.revision + log.length, piece };
    }
    if (kept.settled.revision !== revision) throw new Error(`piece ${id} is kept at ${kept.settled.revision}, not at ${revision}`);
    this.tidy();
    return kept;
  }

  private known(id: string, from: 'settled' | 'applied'): Kept {
    const kept = this.kept.get(id);
    if (!kept || (from === 'applied' && !kept.applied)) throw new Error(`piece ${id} is not kept here`);
    if (from === 'applied') {
      kept.settled = kept.applied!;
      kept.applied = null;
    }
    return kept;
  }

  /** Forgets what was not used for longest. Whoever asks for it again hears so and sends a snapshot. */
  private tidy(): void {
    let total = 0;
    for (const { size } of this.kept.values()) total += size;
    for (const [id, { size }] of this.kept) {
      if (total <= MOST_KEPT || this.kept.size === 1) return;
      this.kept.delete(id);
      total -= size;
    }
  }
}

const fresh = (revision: number, document: string): Kept => ({
  settled: { revision, piece: pieceFromTrusted(JSON.parse(document) as PieceJson) },
  applied: null,
  size: document.length,
});

function applyOne(piece: Piece, { id, name, operations }: SentBatch): { piece: Piece; assets: string[] } | { fault: Fault } {
  const batch = { id, name, operations: JSON.parse(operations) as Operation[] };
  const bad = schemaFault(BatchSchema, batch, []);
  if (bad) return { fault: bad };
  try {
    const applied = apply(piece, batch.operations);
    return applied.ok ? { piece: applied.value.piece, assets: assetsIn(batch.operations) } : { fault: applied.error };
  } catch {
    return { fault: fault('failed', [], 'This edit cannot be applied.') };
  }
}

const assetsIn = (operations: readonly Operation[]): string[] =>
  operations.flatMap((operation) => (operation.op === 'put' && operation.table === 'assets' ? [operation.value.id] : []));
