import type { Invitation, Role } from '$lib/shared/types';
import { database, rows } from '../database';
import { sha256 } from '../digest';
import { newId } from '../ids';
import { announce } from '../listen';
import { sendLater } from '../mail';
import type { Principal } from '../principal';
import { Refusal } from '../refusal';
import { newToken } from '../tokens';
import { noteDoor } from './door-book';
import { roleWords } from './members';
import { memberAccess, somebody } from './rights';
import { countTry } from './tries';

const DAYS = 14;

/**
 * An invitation that one person can take, as the address of its page; it is sent to an e-mail address if one is given. The
 * address is in no table: it is seen once.
 */
export async function invite(who: Principal, piece: string, role: Role, email: string, origin: string): Promise<{ readonly address: string }> {
  const { person, row } = await memberAccess(who, piece, 'invite');
  await countTry('invite', person.id);
  const { token, hash } = newToken();
  await database().transaction(async (transaction) => {
    await database().query(
      `INSERT INTO invitations (id, token_hash, piece_id, role, email, by_name, expires) VALUES ($1, $2, $3, $4, $5, $6, now() + interval '${DAYS} days')`,
      { bind: [newId(), hash, piece, role, email, person.name], transaction }
    );
    await noteDoor(piece, person.name, `invited ${email || 'somebody'} as ${roleWords[role]}`, transaction);
  });
  const address = `${origin}/join/${token}`;
  if (email)
    sendLater({
      to: email,
      subject: `${person.name} invites you to “${row.name}”`,
      text: [
        'Hello,',
        `${person.name} invites you to be ${roleWords[role]} of “${row.name}” in Zany Thread. Come in here within ${DAYS} days:`,
        address,
        'The link is for one person.',
      ].join('\n\n'),
    });
  return { address };
}

/** The invitations that wait to be taken. */
export async function invitationsTo(who: Principal, piece: string): Promise<Invitation[]> {
  await memberAccess(who, piece, 'invite');
  const found = await rows<Omit<Invitation, 'expires'> & { expires: Date }>(
    'SELECT id, role, email, by_name AS by, expires FROM invitations WHERE piece_id = $1 AND expires > now() ORDER BY created_at',
    [piece]
  );
  return found.map((one) => ({ ...one, expires: one.expires.toISOString() }));
}

export async function takeBack(who: Principal, piece: string, id: string): Promise<void> {
  const { person } = await memberAccess(who, piece, 'invite');
  const gone = await rows<{ email: string }>('DELETE FROM invitations WHERE id = $1 AND piece_id = $2 RETURNING email', [id, piece]);
  if (!gone[0]) throw new Refusal('not-found', 'This invitation has been taken, or taken back.');
  await noteDoor(piece, person.name, `took the invitation of ${gone[0].email || 'somebody'} back`);
}

export interface Invited {
  readonly piece: string;
  readonly name: string;
  readonly role: Role;
  readonly by: string;
}

const gone = () => new Refusal('not-found', 'This invitation has been taken already, was taken back, or is too old. Ask for a new one.');

/** What an invitation is to, for whoever has its link. */
export async function invitationOf(token: string): Promise<Invited> {
  const [found] = await rows<Invited>(
    `SELECT piece_id AS piece, pieces.name, role, by_name AS by FROM invitations JOIN pieces ON pieces.id = piece_id
     WHERE token_hash = $1 AND expires > now() AND deleted_at IS NULL`,
    [sha256(token)]
  );
  if (!found) throw gone();
  return found;
}

/** Makes who takes an invitation a member, once; who is one already keeps the higher of both roles. Gives the piece. */
export async function takeInvitation(who: Principal, token: string): Promise<string> {
  const person = somebody(who);
  const { piece } = await database().transaction(async (transaction) => {
    const invited = await invitationOf(token);
    const taken = await rows('DELETE FROM invitations WHERE token_hash = $1 RETURNING id', [sha256(token)], transaction);
    if (taken.length === 0) throw gone();
    await database().query(
      `INSERT INTO members (piece_id, person_id, role) VALUES ($1, $2, $3) ON CONFLICT (piece_id, person_id) DO UPDATE SET role = excluded.role
       WHERE array_position(ARRAY['reviewer', 'editor', 'owner'], members.role) < array_position(ARRAY['reviewer', 'editor', 'owner'], excluded.role)`,
      { bind: [invited.piece, person.id, invited.role], transaction }
    );
    await noteDoor(invited.piece, person.name, `came in as ${roleWords[invited.role]}, invited by ${invited.by}`, transaction);
    return invited;
  });
  await announce({ type: 'rights', person: person.id, piece });
  return piece;
}
