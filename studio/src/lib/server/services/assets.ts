import { createHash } from 'node:crypto';
import { QueryTypes, type Transaction } from 'sequelize';
import { cutText, fault, mendedText, MOST_NAME, type Asset, type AssetBytes, type Fault, type Operation, type Piece } from '@zany/core';
import type { Person } from '$lib/shared/types';
import { database } from '../database';
import { Refusal } from '../errors';
import { AssetRow, PieceAssetRow } from '../models';
import { mediaTypeOf } from '../media';
import { takePicture } from '../pictures';
import { access } from './rights';

/** A file's name as a piece keeps it. */
const assetName = (file: string) => cutText(mendedText(file), MOST_NAME);

const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** How large a video is shown and how long it plays, as the browser that sends it has measured it. */
export interface Measured {
  readonly width: number;
  readonly height: number;
  readonly ms: number;
}

/**
 * Takes in a file for a piece, kept under the digest of what is kept. A picture is checked, decoded and written anew; a video or
 * sound is what its content says it is, and stays as it came.
 */
export async function addAsset(person: Person | null, pieceId: string, file: string, bytes: Uint8Array, measured: Measured | null): Promise<Asset> {
  await access(person, pieceId, 'editor');
  const mediaType = await mediaTypeOf(bytes);
  return mediaType ? addMedia(pieceId, file, mediaType, bytes, measured) : addPicture(pieceId, file, bytes);
}

async function addMedia(pieceId: string, file: string, mediaType: Asset['mediaType'], bytes: Uint8Array, measured: Measured | null): Promise<Asset> {
  const id = sha256(bytes);
  const { width, height, ms } = measured ?? { width: 640, height: 360, ms: 0 };
  await keepAsset(pieceId, { id, mediaType, width, height, bytes: Buffer.from(bytes) });
  return { id, name: assetName(file), mediaType, size: bytes.length, width, height, ...(ms > 0 && { ms }) };
}

async function addPicture(pieceId: string, file: string, bytes: Uint8Array): Promise<Asset> {
  const picture = await takePicture(file, bytes);
  const id = sha256(picture.bytes);
  const { mediaType, width, height } = picture;
  await keepAsset(pieceId, { id, mediaType, width, height, bytes: picture.bytes });
  return { id, name: assetName(file), mediaType, size: picture.bytes.length, width, height };
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
