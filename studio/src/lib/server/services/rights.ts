import type { Transaction } from 'sequelize';
import type { Person, Role } from '$lib/shared/types';
import { rows } from '../database';
import { Refusal } from '../refusal';
import { MemberRow, PieceRow } from '../models';

const rank: Record<Role, number> = { reviewer: 0, editor: 1, owner: 2 };

export interface Access {
  readonly row: PieceRow;
  readonly role: Role;
}

/** Somebody with no part in a piece is told the same as when there is no such piece. */
export const unknownPiece = () => new Refusal('not-found', 'There is no such piece, or it is not shared with you.');

export const signedOut = () => new Refusal('signed-out', 'Please sign in first.');

/** Why a role may not do what takes at least another; null where it may. */
export function roleFault(role: Role | undefined, least: Role): Refusal | null {
  if (!role) return unknownPiece();
  return rank[role] < rank[least] ? new Refusal('not-allowed', `Only ${least === 'owner' ? 'its owner' : 'its editors'} can do this.`) : null;
}

/** The piece, if this person may do what the role can. */
export async function access(
  person: Person | null,
  pieceId: string,
  least: Role,
  options: { transaction?: Transaction; deleted?: boolean } = {}
): Promise<Access> {
  if (!person) throw signedOut();
  const { transaction, deleted = false } = options;
  const row = await PieceRow.findByPk(pieceId, { ...(transaction && { transaction }) });
  const member = row && (await MemberRow.findOne({ where: { pieceId, personId: person.id }, ...(transaction && { transaction }) }));
  const refused = roleFault(!row || (row.deletedAt && !deleted) ? undefined : member?.role, least);
  if (refused) throw refused;
  return { row: row!, role: member!.role };
}

/** Which of some pieces somebody may look at now. */
export async function visibleOf(person: string, pieces: readonly string[]): Promise<Set<string>> {
  const found = await rows<{ id: string }>(
    'SELECT id FROM pieces JOIN members ON piece_id = id WHERE person_id = $1 AND id = ANY($2) AND deleted_at IS NULL',
    [person, [...pieces]]
  );
  return new Set(found.map(({ id }) => id));
}
