import type { Transaction } from 'sequelize';
import { apply, cutText, emptyPiece, newFrame, pieceToJson, unwrap, type Operation } from '@zany/core';
import type { PieceCard } from '$lib/shared/types';
import { database } from '../database';
import { newId } from '../ids';
import { announce } from '../listen';
import { MemberRow, PieceAssetRow, PieceRow } from '../models';
import type { Principal } from '../principal';
import { Refusal } from '../refusal';
import { heavy, orRefuse } from '../work';
import type { BroughtIn } from '../work/tasks';
import { keepAsset } from './assets';
import { cardLater, cardsOf } from './cards';
import { documentAt } from './keeping';
import { mustBeThere } from './revisions';
import { access, memberAccess, somebody } from './rights';
import { saveBatches } from './saving';

/** The pieces a person can see, the latest changed first. */
export const listPieces = async (who: Principal): Promise<PieceCard[]> => cardsOf(somebody(who).id);

/** A piece as it is opened, as JSON text: it may be large, and is only passed on. */
export async function openPiece(who: Principal, id: string): Promise<string> {
  const { row, role } = await memberAccess(who, id, 'look');
  return `{"piece":${await documentAt(id, row.revision)},"revision":${row.revision},"role":"${role}"}`;
}

export async function createPiece(who: Principal, name: string, width: number, height: number): Promise<string> {
  const person = somebody(who);
  const empty = emptyPiece({ id: newId(), name, width, height, start: [] });
  const { piece } = unwrap(apply(empty, newFrame(empty, newId())));
  const { id } = piece.head;
  await database().transaction((transaction) => insertPiece(person.id, id, name, JSON.stringify(pieceToJson(piece)), transaction));
  cardLater(id, 0, 0);
  return id;
}

async function insertPiece(person: string, id: string, name: string, document: string, transaction: Transaction): Promise<void> {
  await PieceRow.create({ id, name, revision: 0 }, { transaction });
  await MemberRow.create({ pieceId: id, personId: person, role: 'owner' }, { transaction });
  await database().query('INSERT INTO snapshots (piece_id, revision, body) VALUES ($1, 0, $2)', { bind: [id, document], transaction });
}

/** Makes a copy of a piece as it is, or as it was at a revision. */
export async function duplicatePiece(who: Principal, id: string, revision: number | null = null): Promise<string> {
  const { row, person } = await memberAccess(who, id, 'copy');
  mustBeThere(row, revision, 'not-found');
  const [copy, name] = [newId(), `${cutText(row.name, 112)} copy`];
  const made = await heavy('copy', { document: await documentAt(id, revision ?? row.revision), id: copy, name }, 'This piece');
  await database().transaction(async (transaction) => {
    await insertPiece(person.id, copy, name, made.document, transaction);
    await PieceAssetRow.bulkCreate(
      made.assets.map((assetId) => ({ pieceId: copy, assetId })),
      { transaction }
    );
  });
  cardLater(copy, 0, 0);
  return copy;
}

export async function renamePiece(who: Principal, id: string, name: string): Promise<void> {
  const operations: Operation[] = [{ op: 'set', table: 'piece', id, path: ['name'], value: name }];
  const [result] = await saveBatches(who, id, [{ id: newId(), name: 'Rename the piece', operations: JSON.stringify(operations) }]);
  if (result && 'fault' in result) throw new Refusal('bad-request', result.fault.sentence, result.fault.path);
}

/** Deleting only hides: it can be undone. Whoever has the piece open hears of it. */
export async function setDeleted(who: Principal, id: string, deleted: boolean): Promise<void> {
  const { row } = await access(who, id, 'delete', { deleted: true });
  await row.update({ deletedAt: deleted ? new Date() : null }, { silent: true });
  if (deleted) await announce({ type: 'rights', piece: id });
}

/** Brings in a package as a new piece, whole or not at all. */
export async function bringInPackage(who: Principal, bytes: Uint8Array, within?: Transaction): Promise<string> {
  const { id: person } = somebody(who);
  const brought = orRefuse(await heavy('package', { bytes, id: newId() }, 'This package'));
  const insert = (transaction: Transaction) => insertBroughtIn(person, brought, transaction);
  await (within ? insert(within) : database().transaction(insert));
  if (!within) cardLater(brought.id, 0, 0);
  return brought.id;
}

/** Keeps what was brought in as a piece of a person's. */
export async function insertBroughtIn(person: string, { id, name, document, assets }: BroughtIn, transaction: Transaction): Promise<void> {
  await insertPiece(person, id, name, document, transaction);
  for (const asset of assets) await keepAsset(id, { ...asset, bytes: Buffer.from(asset.bytes) }, transaction);
}
