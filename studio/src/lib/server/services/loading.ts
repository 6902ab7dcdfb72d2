import { Op, type Transaction } from 'sequelize';
import { apply, pieceFromTrusted, pieceToJson, unwrap, type Piece } from '@zany/core';
import { BatchRow, SnapshotRow } from '../models';

/** Pieces in memory by revision: only ever a shortcut, checked against the revision in the database. */
const cache = new Map<string, { revision: number; piece: Piece }>();
const MOST = 60;

export function remember(id: string, revision: number, piece: Piece): void {
  cache.delete(id);
  cache.set(id, { revision, piece });
  for (const oldest of cache.keys()) if (cache.size > MOST) cache.delete(oldest);
}

/** The piece at a revision: from memory, else from the newest snapshot and the log after it. */
export async function pieceAt(id: string, revision: number, transaction?: Transaction): Promise<Piece> {
  const known = cache.get(id);
  if (known && known.revision === revision) return known.piece;
  const base = known && known.revision < revision ? known : await newestSnapshot(id, revision, transaction);
  const rows = await BatchRow.findAll({
    where: { pieceId: id, revision: { [Op.gt]: base.revision, [Op.lte]: revision } },
    order: ['revision'],
    transaction: transaction ?? null,
  });
  let { piece } = base;
  for (const row of rows) piece = unwrap(apply(piece, row.operations)).piece;
  remember(id, revision, piece);
  return piece;
}

async function newestSnapshot(id: string, revision: number, transaction?: Transaction): Promise<{ revision: number; piece: Piece }> {
  const row = await SnapshotRow.findOne({
    where: { pieceId: id, revision: { [Op.lte]: revision } },
    order: [['revision', 'DESC']],
    transaction: transaction ?? null,
  });
  if (!row) throw new Error(`piece ${id} has no snapshot`);
  return { revision: row.revision, piece: pieceFromTrusted(row.body) };
}

/** A snapshot every this many revisions. */
export const SNAPSHOT_EVERY = 100;

export const takeSnapshot = (id: string, revision: number, piece: Piece, transaction: Transaction) =>
  SnapshotRow.create({ pieceId: id, revision, body: pieceToJson(piece) }, { transaction });
