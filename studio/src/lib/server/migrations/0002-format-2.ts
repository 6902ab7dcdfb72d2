import { QueryTypes, type QueryInterface } from 'sequelize';
import { apply, migrated, pieceFromTrusted, pieceToJson, type Operation, type PieceJson } from '@zany/core';

/**
 * Brings every piece to format 2: its newest snapshot and the log after it, as they were written, give the piece of that time;
 * migrated, it becomes a snapshot at its own revision, so that the older log is never applied again.
 */
export async function up(queries: QueryInterface): Promise<void> {
  const { sequelize } = queries;
  const select = <T extends object>(sql: string, replacements: Record<string, unknown>) =>
    sequelize.query<T>(sql, { type: QueryTypes.SELECT, replacements });
  const pieces = await select<{ id: string; revision: number }>('SELECT id, revision FROM pieces', {});
  for (const { id, revision } of pieces) {
    const [snapshot] = await select<{ revision: number; body: PieceJson }>(
      'SELECT revision, body FROM snapshots WHERE piece_id = :id AND revision <= :revision ORDER BY revision DESC LIMIT 1',
      { id, revision }
    );
    if (!snapshot) continue;
    const log = await select<{ operations: Operation[] }>(
      'SELECT operations FROM batches WHERE piece_id = :id AND revision > :from AND revision <= :revision ORDER BY revision',
      { id, from: snapshot.revision, revision }
    );
    let piece = pieceFromTrusted(snapshot.body);
    for (const { operations } of log) {
      const applied = apply(piece, operations);
      if (applied.ok) piece = applied.value.piece;
    }
    const body = migrated({ ...pieceToJson(piece), format: snapshot.body.format });
    await sequelize.transaction(async (transaction) => {
      await sequelize.query('DELETE FROM snapshots WHERE piece_id = :id', { replacements: { id }, transaction });
      await sequelize.query('INSERT INTO snapshots (piece_id, revision, body) VALUES (:id, :revision, :body)', {
        replacements: { id, revision, body: JSON.stringify(body) },
        transaction,
      });
    });
  }
}
