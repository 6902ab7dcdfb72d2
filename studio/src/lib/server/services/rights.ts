import type { Transaction } from 'sequelize';
import type { Person, Role } from '$lib/shared/types';
import { Refusal } from '../errors';
import { MemberRow, PieceRow } from '../models';

const rank: Record<Role, number> = { reviewer: 0, editor: 1, owner: 2 };

export interface Access {
  readonly row: PieceRow;
  readonly role: Role;
}

/**
 * The piece, if this person may do what the role can. Somebody with no part in a piece is told the same as when there is
 * no such piece.
 */
export async function access(
  person: Person | null,
  pieceId: string,
  least: Role,
  options: { transaction?: Transaction; lock?: boolean; deleted?: boolean } = {}
): Promise<Access> {
  if (!person) throw new Refusal('signed-out', 'Please sign in first.');
  const { transaction, lock, deleted = false } = options;
  const row = await PieceRow.findByPk(pieceId, {
    ...(transaction && { transaction }),
    ...(lock && transaction && { lock: transaction.LOCK.UPDATE }),
  });
  const member = row && (await MemberRow.findOne({ where: { pieceId, personId: person.id }, ...(transaction && { transaction }) }));
  if (!row || !member || (row.deletedAt && !deleted)) throw new Refusal('not-found', 'There is no such piece, or it is not shared with you.');
  if (rank[member.role] < rank[least]) throw new Refusal('not-allowed', `Only ${least === 'owner' ? 'its owner' : 'its editors'} can do this.`);
  return { row, role: member.role };
}
