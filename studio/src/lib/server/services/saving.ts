import type { Transaction } from 'sequelize';
import { apply, BatchSchema, fault, schemaFault, type Batch, type Piece } from '@zany/core';
import type { BatchResult, Person } from '$lib/shared/types';
import { database } from '../database';
import { channel } from '../listen';
import { BatchRow, type PieceRow } from '../models';
import { linkAssets } from './assets';
import { pieceAt, remember, SNAPSHOT_EVERY, takeSnapshot } from './loading';
import { access } from './rights';

/**
 * Applies batches in one transaction, each with a revision of its own. A batch that was saved before gets the revision it
 * got then; one that cannot be applied is answered with the reason, and the others still are.
 */
export async function saveBatches(person: Person | null, pieceId: string, batches: readonly Batch[]): Promise<BatchResult[]> {
  const done = await database().transaction(async (transaction) => {
    const { row } = await access(person, pieceId, 'editor', { transaction, lock: true });
    const before = await pieceAt(pieceId, row.revision, transaction);
    const saved = await saveAll(person!, row, before, batches, transaction);
    if (saved.revision !== row.revision) await close(row, saved, transaction);
    return saved;
  });
  remember(pieceId, done.revision, done.piece);
  return done.results;
}

interface Saved {
  readonly piece: Piece;
  readonly revision: number;
  readonly results: BatchResult[];
}

async function saveAll(person: Person, row: PieceRow, before: Piece, batches: readonly Batch[], transaction: Transaction): Promise<Saved> {
  let piece = before;
  let { revision } = row;
  const results: BatchResult[] = [];
  for (const batch of batches) {
    const old = await BatchRow.findOne({ where: { pieceId: row.id, id: batch.id }, attributes: ['revision'], transaction });
    if (old) {
      results.push({ id: batch.id, revision: old.revision });
      continue;
    }
    const bad = schemaFault(BatchSchema, batch, []);
    const applied = bad ? null : apply(piece, batch.operations);
    const refusal = bad ?? (applied!.ok ? await linkAssets(person, row.id, batch.operations, transaction) : applied!.error);
    if (refusal || !applied?.ok) {
      results.push({ id: batch.id, fault: refusal ?? fault('failed', [], 'This could not be applied.') });
      continue;
    }
    piece = applied.value.piece;
    revision++;
    await BatchRow.create(
      { pieceId: row.id, revision, id: batch.id, personId: person.id, name: batch.name, operations: batch.operations },
      { transaction }
    );
    if (revision % SNAPSHOT_EVERY === 0) await takeSnapshot(row.id, revision, piece, transaction);
    results.push({ id: batch.id, revision });
  }
  return { piece, revision, results };
}

/** The new revision, and news of it to every server when the transaction commits. */
async function close(row: PieceRow, saved: Saved, transaction: Transaction): Promise<void> {
  await row.update({ revision: saved.revision, name: saved.piece.head.name }, { transaction });
  await database().query('SELECT pg_notify(:channel, :piece)', { replacements: { channel, piece: row.id }, transaction });
}
