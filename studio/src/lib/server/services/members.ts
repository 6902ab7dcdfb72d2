import type { Transaction } from 'sequelize';
import type { Member, Role } from '$lib/shared/types';
import { database, rows } from '../database';
import { announce } from '../listen';
import { MemberRow } from '../models';
import type { Principal } from '../principal';
import { Refusal } from '../refusal';
import { noteDoor } from './door-book';
import { memberAccess } from './rights';

/** The members of a piece, owners first. Only who may invite sees addresses. */
export async function membersOf(who: Principal, piece: string): Promise<Member[]> {
  const { role } = await memberAccess(who, piece, 'see members');
  const found = await rows<Member>(
    `SELECT people.id, name, email, role FROM members JOIN people ON people.id = person_id WHERE piece_id = $1
     ORDER BY array_position(ARRAY['owner', 'editor', 'reviewer'], role), lower(name), people.id`,
    [piece]
  );
  return role === 'owner' ? found : found.map((one) => ({ ...one, email: '' }));
}

/** Roles of a piece change one after the other: two owners who leave at once must not leave it without any. */
async function changing<T>(piece: string, work: (transaction: Transaction) => Promise<T>): Promise<T> {
  return database().transaction(async (transaction) => {
    await rows('SELECT id FROM pieces WHERE id = $1 FOR UPDATE', [piece], transaction);
    return work(transaction);
  });
}

async function memberRow(piece: string, person: string, transaction: Transaction): Promise<MemberRow & { person: { name: string } }> {
  const row = await MemberRow.findOne({ where: { pieceId: piece, personId: person }, transaction });
  const [found] = await rows<{ name: string }>('SELECT name FROM people WHERE id = $1', [person], transaction);
  if (!row || !found) throw new Refusal('not-found', 'This person is no member of the piece.');
  return Object.assign(row, { person: found });
}

async function refuseLastOwner(piece: string, transaction: Transaction): Promise<void> {
  const owners = await MemberRow.count({ where: { pieceId: piece, role: 'owner' }, transaction });
  if (owners < 2) throw new Refusal('not-allowed', 'A piece needs an owner: make somebody else its owner first.');
}

export async function changeRole(who: Principal, piece: string, person: string, role: Role): Promise<void> {
  await changing(piece, async (transaction) => {
    const { person: by } = await memberAccess(who, piece, 'change members', { transaction });
    const row = await memberRow(piece, person, transaction);
    if (row.role === role) return;
    if (row.role === 'owner') await refuseLastOwner(piece, transaction);
    await MemberRow.update({ role }, { where: { pieceId: piece, personId: person }, transaction });
    await noteDoor(piece, by.name, `made ${row.person.name} ${roleWords[role]}, who was ${roleWords[row.role]} before`, transaction);
  });
  await announce({ type: 'rights', person, piece });
}

/** Makes somebody the owner in one's own place; one stays as an editor. */
export async function handOverOwnership(who: Principal, piece: string, person: string): Promise<void> {
  await changing(piece, async (transaction) => {
    const { person: by } = await memberAccess(who, piece, 'change members', { transaction });
    if (by.id === person) throw new Refusal('bad-request', 'You are its owner already.');
    const row = await memberRow(piece, person, transaction);
    await MemberRow.update({ role: 'owner' }, { where: { pieceId: piece, personId: person }, transaction });
    await MemberRow.update({ role: 'editor' }, { where: { pieceId: piece, personId: by.id }, transaction });
    await noteDoor(piece, by.name, `handed the ownership over to ${row.person.name}`, transaction);
  });
  await announce({ type: 'rights', piece });
}

/** Takes somebody out. Windows that have the piece open are told at once. */
export async function takeOut(who: Principal, piece: string, person: string): Promise<void> {
  await changing(piece, async (transaction) => {
    const { person: by } = await memberAccess(who, piece, 'change members', { transaction });
    const row = await memberRow(piece, person, transaction);
    if (row.role === 'owner') await refuseLastOwner(piece, transaction);
    await MemberRow.destroy({ where: { pieceId: piece, personId: person }, transaction });
    await noteDoor(piece, by.name, `took ${row.person.name} out`, transaction);
  });
  await announce({ type: 'rights', person, piece });
}

export async function leavePiece(who: Principal, piece: string): Promise<void> {
  const { person } = await changing(piece, async (transaction) => {
    const found = await memberAccess(who, piece, 'leave', { transaction });
    if (found.role === 'owner') await refuseLastOwner(piece, transaction);
    await MemberRow.destroy({ where: { pieceId: piece, personId: found.person.id }, transaction });
    await noteDoor(piece, found.person.name, 'left', transaction);
    return found;
  });
  await announce({ type: 'rights', person: person.id, piece });
}

export const roleWords: Record<Role, string> = { owner: 'an owner', editor: 'an editor', reviewer: 'a reviewer' };
