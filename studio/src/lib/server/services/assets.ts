import type { Transaction } from 'sequelize';
import { cutText, fault, mendedText, MOST_NAME, type Asset, type Fault } from '@zany/core';
import type { Person } from '$lib/shared/types';
import { rows } from '../database';
import { sha256 } from '../digest';
import { Refusal } from '../errors';
import { AssetRow, PieceAssetRow } from '../models';
import { mediaTypeOf } from '../media';
import type { Principal } from '../principal';
import { heavy, orRefuse } from '../work';
import { access } from './rights';

/** A file's name as a piece keeps it. */
const assetName = (file: string) => cutText(mendedText(file), MOST_NAME);

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
export async function addAsset(who: Principal, pieceId: string, file: string, bytes: Uint8Array, measured: Measured | null): Promise<Asset> {
  await access(who, pieceId, 'edit');
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
  const picture = orRefuse(await heavy('picture', { file, bytes }, file));
  const id = sha256(picture.bytes);
  const { mediaType, width, height } = picture;
  await keepAsset(pieceId, { id, mediaType, width, height, bytes: Buffer.from(picture.bytes) });
  return { id, name: assetName(file), mediaType, size: picture.bytes.length, width, height };
}

export async function keepAsset(
  pieceId: string,
  asset: { id: string; mediaType: string; width: number; height: number; bytes: Buffer },
  transaction?: Transaction
): Promise<void> {
  const { id, mediaType, width, height, bytes } = asset;
  // As they are: rows of a model would be written out as text, which takes ten times as long.
  const put = 'INSERT INTO assets (id, media_type, width, height, bytes) VALUES ($1, $2, $3, $4, $5) ON CONFLICT DO NOTHING';
  await rows(put, [id, mediaType, width, height, bytes], transaction);
  await PieceAssetRow.bulkCreate([{ pieceId, assetId: id }], { ignoreDuplicates: true, ...(transaction && { transaction }) });
}

export async function readAsset(who: Principal, pieceId: string, id: string): Promise<AssetRow> {
  await access(who, pieceId, 'look', { deleted: true });
  const linked = await PieceAssetRow.findOne({ where: { pieceId, assetId: id } });
  const row = linked && (await AssetRow.findByPk(id));
  if (!row) throw new Refusal('not-found', 'There is no such picture in this piece.');
  return row;
}

/** Which pictures a batch puts into a piece. */
export interface WantedAssets {
  readonly person: Person;
  readonly batch: string;
  readonly assets: readonly string[];
}

/**
 * Pictures that edits name must have been taken in for this piece, or for another that the person can see. Gives the fault
 * of each batch whose pictures are not there.
 */
export async function linkAssets(piece: string, wanted: readonly WantedAssets[], transaction: Transaction): Promise<Record<string, Fault>> {
  const all = [...new Set(wanted.flatMap(({ assets }) => assets))];
  const found = await rows<{ asset: string; here: boolean; people: string[] }>(
    `SELECT asset_id AS asset, bool_or(piece_id = $1) AS here, array_agg(DISTINCT person_id) AS people
     FROM piece_assets JOIN members USING (piece_id) WHERE asset_id = ANY($2) GROUP BY asset_id`,
    [piece, all],
    transaction
  );
  const known = new Map(found.map((one) => [one.asset, one]));
  const faults: Record<string, Fault> = {};
  for (const { person, batch, assets } of wanted)
    for (const id of assets)
      if (!known.get(id)?.here && !known.get(id)?.people.includes(person.id))
        faults[batch] ??= fault('missing-asset', ['assets', id], 'This picture has not been brought in.');
  if (Object.keys(faults).length === 0)
    await PieceAssetRow.bulkCreate(
      all.map((assetId) => ({ pieceId: piece, assetId })),
      { ignoreDuplicates: true, transaction }
    );
  return faults;
}

/** The bytes of pictures by their ids. */
export async function bytesOf(piece: string): Promise<[string, Uint8Array][]> {
  const found = await rows<{ id: string; bytes: Buffer }>('SELECT id, bytes FROM assets JOIN piece_assets ON asset_id = id WHERE piece_id = $1', [
    piece,
  ]);
  return found.map(({ id, bytes }) => [id, bytes]);
}
