import { count, PACKAGE_LIMITS, pieceToJson, readPackage, type AssetBytes, type Piece, type PieceJson } from '@zany/core';
import { limits } from '../config';
import { sha256 } from '../digest';
import { checkMedia, isMedia } from '../media';
import { takePicture } from '../pictures';
import { Refusal } from '../refusal';
import { withNewId } from './renewed';
import type { BroughtIn, Tell } from './tasks';

export { takePicture };

/** Reads a package as a new piece. Its pictures are decoded as any others, and kept as they are only if that succeeds. */
export async function bringIn(bytes: Uint8Array, id: string, tell: Tell = () => undefined): Promise<BroughtIn> {
  const read = await readPackage(bytes, sha256, { bytes: limits.package * 2, document: PACKAGE_LIMITS.document });
  if (!read.ok) throw new Refusal('unreadable', read.error.sentence, read.error.path);
  const { piece, assets } = read.value;
  const lost = [...piece.assets.values()].find((asset) => !assets.has(asset.id));
  if (lost)
    throw new Refusal('unreadable', `The picture “${lost.name}” is not in the file. Bring in the package, which holds the pictures.`, [
      'assets',
      lost.id,
    ]);
  const taken = await takeAll(piece, assets, tell);
  const json = withNewId(pieceToJson(piece), id, piece.head.name);
  return { id, name: piece.head.name, document: JSON.stringify(withAssets(json, taken)), assets: [...taken.values()] };
}

type Taken = BroughtIn['assets'][number];

/** The document with its pictures under the digests of what is kept of them. */
function withAssets(json: PieceJson, taken: ReadonlyMap<string, Taken>): PieceJson {
  const moved = [...taken].filter(([id, asset]) => asset.id !== id);
  if (moved.length === 0) return json;
  const byOld = new Map(moved);
  const text = JSON.stringify(json).replace(/"[0-9a-f]{64}"/g, (quoted) => {
    const asset = byOld.get(quoted.slice(1, -1));
    return asset ? `"${asset.id}"` : quoted;
  });
  const renamed = JSON.parse(text) as PieceJson;
  for (const { id, bytes } of byOld.values()) renamed.assets[id] = { ...renamed.assets[id]!, size: bytes.length };
  return renamed;
}

const fileEndings: Record<string, string> = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp', 'image/svg+xml': 'svg' };

/**
 * A package may have been written by anybody: all files in it must be what they say, and each can be decoded. SVG is cleaned;
 * one that was clean already stays as it is.
 */
async function takeAll(piece: Piece, assets: AssetBytes, tell: Tell): Promise<Map<string, Taken>> {
  const all = new Map<string, Taken>();
  for (const asset of piece.assets.values()) {
    tell(`${all.size} of ${count(piece.assets.size, 'picture')}`);
    const { id, mediaType, width, height } = asset;
    const bytes = assets.get(id)!;
    if (isMedia(mediaType)) await checkMedia(asset, bytes);
    else {
      const taken = await takePicture(`${asset.name.replace(/\.[a-z0-9]+$/i, '')}.${fileEndings[mediaType]}`, bytes);
      if (mediaType === 'image/svg+xml') {
        all.set(id, { id: sha256(taken.bytes), mediaType, width, height, bytes: taken.bytes });
        continue;
      }
    }
    all.set(id, { id, mediaType, width, height, bytes });
  }
  return all;
}
