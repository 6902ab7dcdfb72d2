import type { Transaction } from 'sequelize';
import { leastRole, linkLets, padMay, roleMay, type Deed } from '$lib/shared/rights';
import type { Person, Role } from '$lib/shared/types';
import { rows } from '../database';
import { MemberRow, PieceRow } from '../models';
import { isHolder, isPerson, type Holder, type Principal } from '../principal';
import { Refusal } from '../refusal';

export interface Access {
  readonly row: PieceRow;
  /** Null for who is no member: the holder of a link, or a pad. */
  readonly role: Role | null;
}

/** Somebody with no part in a piece is told the same as when there is no such piece. */
export const unknownPiece = () => new Refusal('not-found', 'There is no such piece, or it is not shared with you.');

export const signedOut = () => new Refusal('signed-out', 'Please sign in first.');

/** Why a member with a role, or somebody who is none, may not do something; null where he may. */
export function roleFault(role: Role | undefined, deed: Deed): Refusal | null {
  if (!role) return unknownPiece();
  if (roleMay(role, deed)) return null;
  return new Refusal('not-allowed', `Only ${leastRole(deed) === 'owner' ? 'its owner' : 'its editors'} can do this.`);
}

/** The person who asks, for what is not about one piece. */
export function somebody(who: Principal): Person {
  if (!isPerson(who)) throw signedOut();
  return who;
}

interface Options {
  readonly transaction?: Transaction;
  /** Also while the piece is deleted, which can be taken back. */
  readonly deleted?: boolean;
}

/** The piece, if whoever asks may do something to it. */
export async function access(who: Principal, pieceId: string, deed: Deed, options: Options = {}): Promise<Access> {
  if (!who) throw signedOut();
  const { transaction, deleted = false } = options;
  const found = await PieceRow.findByPk(pieceId, { ...(transaction && { transaction }) });
  const row = found?.deletedAt && !deleted ? null : found;
  if (!isPerson(who)) return { row: guestPiece(who, pieceId, deed, row), role: null };
  const member = row && (await MemberRow.findOne({ where: { pieceId, personId: who.id }, ...(transaction && { transaction }) }));
  const refused = roleFault(member?.role, deed);
  if (refused) throw refused;
  return { row: row!, role: member!.role };
}

/** The same for the holder of a review link, on the piece of that link. */
export async function linkAccess(who: Principal, deed: Deed): Promise<{ readonly row: PieceRow; readonly holder: Holder }> {
  if (!isHolder(who)) throw new Refusal('signed-out', 'Please come in by the link first.');
  return { row: (await access(who, who.piece, deed)).row, holder: who };
}

/** The same for a member, with who it is. */
export async function memberAccess(
  who: Principal,
  pieceId: string,
  deed: Deed,
  options: Options = {}
): Promise<Access & { person: Person; role: Role }> {
  const person = somebody(who);
  const { row, role } = await access(person, pieceId, deed, options);
  return { row, role: role!, person };
}

function guestPiece(who: Exclude<Principal, Person | null>, pieceId: string, deed: Deed, row: PieceRow | null): PieceRow {
  if (!row || row.deletedAt || who.piece !== pieceId) throw unknownPiece();
  if (who.kind === 'pad' ? !padMay(deed) : !linkLets(who.may, deed)) throw new Refusal('not-allowed', notLetIn(who));
  return row;
}

const notLetIn = (who: Holder | { kind: 'pad' }): string =>
  who.kind === 'pad' ? 'The key of a pad can only press its buttons.' : 'This link does not let you do that.';

/** Which of some pieces somebody may look at now. */
export async function visibleOf(person: string, pieces: readonly string[]): Promise<Set<string>> {
  const found = await rows<{ id: string }>(
    'SELECT id FROM pieces JOIN members ON piece_id = id WHERE person_id = $1 AND id = ANY($2) AND deleted_at IS NULL',
    [person, [...pieces]]
  );
  return new Set(found.map(({ id }) => id));
}
