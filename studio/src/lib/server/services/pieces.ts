import { Op, type Transaction } from 'sequelize';
import {
  audit,
  compile,
  cutText,
  excerpt,
  emptyPiece,
  newFrame,
  PACKAGE_LIMITS,
  apply,
  pieceFromTrusted,
  pieceToJson,
  readPackage,
  startFrame,
  unwrap,
  type AssetBytes,
  type Operation,
  type Piece,
  type PieceJson,
} from '@zany/core';
import { createHash } from 'node:crypto';
import type { OpenedPiece, Person, PieceCard, Role } from '$lib/shared/types';
import { limits } from '../config';
import { database } from '../database';
import { Refusal } from '../errors';
import { newId } from '../ids';
import { MemberRow, PieceAssetRow, PieceRow, SnapshotRow } from '../models';
import { checkMedia, isMedia } from '../media';
import { takePicture } from '../pictures';
import { keepAsset } from './assets';
import { pieceAt, remember } from './loading';
import { access } from './rights';
import { saveBatches } from './saving';

/** The pieces a person can see, the latest changed first. */
export async function listPieces(person: Person): Promise<PieceCard[]> {
  const members = await MemberRow.findAll({ where: { personId: person.id } });
  const roles = new Map(members.map((member) => [member.pieceId, member.role]));
  const rows = await PieceRow.findAll({ where: { id: [...roles.keys()], deletedAt: { [Op.is]: null } }, order: [['updatedAt', 'DESC']] });
  return Promise.all(rows.map((row) => cardOf(row, roles.get(row.id)!)));
}

async function cardOf(row: PieceRow, role: Role): Promise<PieceCard> {
  const { frames, looseEnds, cover } = await summaryOf(row.id, row.revision);
  return { id: row.id, name: row.name, revision: row.revision, updated: row.updatedAt.toISOString(), role, frames, looseEnds, cover };
}

type Summary = Pick<PieceCard, 'frames' | 'looseEnds' | 'cover'>;

const summaries = new Map<string, { revision: number; summary: Summary }>();

/** Larger pieces are not audited for the Workroom: it would have to wait for them. */
const MOST_LAYERS = 3000;

/** A list of pieces must not wait for one that has very many states: what is found by then is counted. */
const MOST_TIME = 200;

const within = (ms: number) => {
  const end = performance.now() + ms;
  return () => performance.now() > end;
};

async function summaryOf(id: string, revision: number): Promise<Summary> {
  const known = summaries.get(id);
  if (known?.revision === revision) return known.summary;
  const piece = await pieceAt(id, revision);
  const program = compile(piece);
  const looseEnds = piece.layers.size > MOST_LAYERS ? null : audit(program, { maxStates: 20_000, shouldStop: within(MOST_TIME) }).findings.length;
  const summary = { frames: program.frames.length, looseEnds, cover: coverOf(piece, startFrame(program)) };
  summaries.set(id, { revision, summary });
  return summary;
}

/** The start frame alone, with what it takes to be looked at. */
const coverOf = (piece: Piece, frame: string | null): PieceJson | null => (frame !== null && piece.scenes.has(frame) ? excerpt(piece, frame) : null);

export async function openPiece(person: Person | null, id: string): Promise<OpenedPiece> {
  const { row, role } = await access(person, id, 'reviewer');
  return { piece: pieceToJson(await pieceAt(id, row.revision)), revision: row.revision, role };
}

export async function createPiece(person: Person | null, name: string, width: number, height: number): Promise<string> {
  if (!person) throw new Refusal('signed-out', 'Please sign in first.');
  const empty = emptyPiece({ id: newId(), name, width, height, start: [] });
  const { piece } = unwrap(apply(empty, newFrame(empty, newId())));
  await database().transaction((transaction) => insertPiece(person, piece, transaction));
  return piece.head.id;
}

async function insertPiece(person: Person, piece: Piece, transaction: Transaction): Promise<void> {
  const { id, name } = piece.head;
  await PieceRow.create({ id, name, revision: 0 }, { transaction });
  await MemberRow.create({ pieceId: id, personId: person.id, role: 'owner' }, { transaction });
  await SnapshotRow.create({ pieceId: id, revision: 0, body: pieceToJson(piece) }, { transaction });
}

/** The same piece under a new id; ids of what is in it stay, since they only have to differ within a piece. */
const withNewId = (json: PieceJson, id: string, name: string): PieceJson => ({
  ...json,
  id,
  name,
  threads: Object.fromEntries(Object.entries(json.threads).map(([key, thread]) => [key, thread.on === 'piece' ? { ...thread, owner: id } : thread])),
});

export async function duplicatePiece(person: Person | null, id: string): Promise<string> {
  const { row } = await access(person, id, 'reviewer');
  const piece = pieceFromTrusted(withNewId(pieceToJson(await pieceAt(id, row.revision)), newId(), `${cutText(row.name, 112)} copy`));
  await database().transaction(async (transaction) => {
    await insertPiece(person!, piece, transaction);
    await PieceAssetRow.bulkCreate(
      [...piece.assets.keys()].map((assetId) => ({ pieceId: piece.head.id, assetId })),
      { transaction }
    );
  });
  return piece.head.id;
}

export async function renamePiece(person: Person | null, id: string, name: string): Promise<void> {
  const operations: Operation[] = [{ op: 'set', table: 'piece', id, path: ['name'], value: name }];
  const [result] = await saveBatches(person, id, [{ id: newId(), name: 'Rename the piece', operations }]);
  if (result && 'fault' in result) throw new Refusal('bad-request', result.fault.sentence, result.fault.path);
}

/** Deleting only hides: it can be undone. */
export async function setDeleted(person: Person | null, id: string, deleted: boolean): Promise<void> {
  const { row } = await access(person, id, 'owner', { deleted: true });
  await row.update({ deletedAt: deleted ? new Date() : null }, { silent: true });
}

const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** Brings in a package as a new piece. Its pictures are decoded as any others, and kept as they are only if that succeeds. */
export async function bringInPackage(person: Person | null, bytes: Uint8Array): Promise<string> {
  if (!person) throw new Refusal('signed-out', 'Please sign in first.');
  const read = await readPackage(bytes, sha256, { bytes: limits.package * 2, document: PACKAGE_LIMITS.document });
  if (!read.ok) throw new Refusal('unreadable', read.error.sentence, read.error.path);
  const { piece, assets } = read.value;
  const lost = [...piece.assets.values()].find((asset) => !assets.has(asset.id));
  if (lost)
    throw new Refusal('unreadable', `The picture “${lost.name}” is not in the file. Bring in the package, which holds the pictures.`, [
      'assets',
      lost.id,
    ]);
  await checkAssets(piece, assets);
  const mine = pieceFromTrusted(withNewId(pieceToJson(piece), newId(), piece.head.name));
  await database().transaction(async (transaction) => {
    await insertPiece(person, mine, transaction);
    for (const asset of piece.assets.values()) {
      const { id, mediaType, width, height } = asset;
      await keepAsset(mine.head.id, { id, mediaType, width, height, bytes: Buffer.from(assets.get(id)!) }, transaction);
    }
  });
  remember(mine.head.id, 0, mine);
  return mine.head.id;
}

const fileEndings: Record<string, string> = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp', 'image/svg+xml': 'svg' };

/** A package may have been written by anybody: all files in it must be what they say, and SVG must be clean already. */
async function checkAssets(piece: Piece, assets: AssetBytes): Promise<void> {
  for (const asset of piece.assets.values()) {
    const bytes = assets.get(asset.id)!;
    if (isMedia(asset.mediaType)) {
      await checkMedia(asset, bytes);
      continue;
    }
    const taken = await takePicture(`${asset.name.replace(/\.[a-z0-9]+$/i, '')}.${fileEndings[asset.mediaType]}`, bytes);
    if (asset.mediaType === 'image/svg+xml' && !taken.bytes.equals(Buffer.from(bytes)))
      throw new Refusal('unreadable', `The picture “${asset.name}” holds more than a plain SVG may. Bring it in as a picture first.`, [
        'assets',
        asset.id,
      ]);
  }
}
