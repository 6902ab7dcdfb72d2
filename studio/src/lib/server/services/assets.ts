import { createHash } from 'node:crypto';
import { QueryTypes, type Transaction } from 'sequelize';
import { fault, type Asset, type AssetBytes, type Fault, type Operation, type Piece } from '@zany/core';
import type { Person } from '$lib/shared/types';
import { database } from '../database';
import { Refusal } from '../errors';
import { AssetRow, PieceAssetRow } from '../models';
import { takePicture } from '../pictures';
import { access } from './rights';

const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** Takes in a picture file for a piece: checked, decoded and written anew, and kept under the digest of what was written. */
export async function addPicture(person: Person | null, pieceId: string, file: string, bytes: Uint8Array): Promise<Asset> {
  await access(person, pieceId, 'editor');
  const picture = await takePicture(file, bytes);
  const id = sha256(picture.bytes);
  const { mediaType, width, height } = picture;
  await keepAsset(pieceId, { id, mediaType, width, height, bytes: picture.bytes });
  return { id, name: file.slice(0, 120), mediaType, size: picture.bytes.length, width, height };
}

export async function keepAsset(
  pieceId: string,
  asset: { id: string; mediaType: string; width: number; height: number; bytes: Buffer },
  transaction?: Transaction
): Promise<void> {
  const options = { ignoreDuplicates: true, ...(transaction && { transaction }) };
  await AssetRow.bulkCreate([asset], options);
  await PieceAssetRow.bulkCreate([{ pieceId, assetId: asset.id }], options);
}

export async function readAsset(person: Person | null, pieceId: string, id: string): Promise<AssetRow> {
  await access(person, pieceId, 'reviewer', { deleted: true });
  const linked = await PieceAssetRow.findOne({ where: { pieceId, assetId: id } });
  const row = linked && (await AssetRow.findByPk(id));
  if (!row) throw new Refusal('not-found', 'There is no such picture in this piece.');
  return row;
}

/** Pictures that an edit names must have been taken in for this piece, or for another that the person can see. */
export async function linkAssets(person: Person, pieceId: string, operations: readonly Operation[], transaction: Transaction): Promise<Fault | null> {
  for (const operation of operations) {
    if (operation.op !== 'put' || operation.table !== 'assets') continue;
    const id = operation.value.id;
    const found = await database().query(
      `SELECT 1 FROM piece_assets JOIN members USING (piece_id) WHERE asset_id = :id AND (piece_id = :pieceId OR person_id = :person) LIMIT 1`,
      { replacements: { id, pieceId, person: person.id }, type: QueryTypes.SELECT, transaction }
    );
    if (!found.length) return fault('missing-asset', ['assets', id], 'This picture has not been brought in.');
    await PieceAssetRow.bulkCreate([{ pieceId, assetId: id }], { ignoreDuplicates: true, transaction });
  }
  return null;
}

export async function bytesOf(piece: Piece): Promise<AssetBytes> {
  const rows = await AssetRow.findAll({ where: { id: [...piece.assets.keys()] } });
  return new Map(rows.map((row) => [row.id, row.bytes]));
}
