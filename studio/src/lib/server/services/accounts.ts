import { hash, verify } from '@node-rs/argon2';
import { database, rows } from '../database';
import { sha256 } from '../digest';
import { log } from '../log';
import { sendLetter } from '../mail';
import { PersonRow } from '../models';
import { passwordProblem } from '../passwords';
import type { Principal } from '../principal';
import { Refusal } from '../refusal';
import { newToken } from '../tokens';
import { byEmail, DEMO_EMAIL, endSessions, forgetPerson } from './people';
import { somebody } from './rights';
import { countTry, forgive } from './tries';

export interface Account {
  readonly name: string;
  readonly email: string;
  /** Browsers in which this person is signed in. */
  readonly sessions: number;
  /** The person of the demo has no password that anybody knows. */
  readonly isDemo: boolean;
}

export async function accountOf(who: Principal): Promise<Account> {
  const { id, name, email } = somebody(who);
  const [found] = await rows<{ count: number }>('SELECT count(*)::int AS count FROM sessions WHERE person_id = $1 AND expires > now()', [id]);
  return { name, email, sessions: found!.count, isDemo: email === DEMO_EMAIL };
}

export async function changeName(who: Principal, name: string): Promise<void> {
  const { id } = somebody(who);
  await PersonRow.update({ name: name.trim() }, { where: { id } });
  forgetPerson(id);
}

/** Changes a password, for whoever knows the old one. All other sessions end. */
export async function changePassword(who: Principal, session: string | undefined, old: string, wanted: string): Promise<void> {
  const { id, name, email } = somebody(who);
  if (email === DEMO_EMAIL) throw new Refusal('not-allowed', 'The person of the demo has no password.');
  const weak = passwordProblem(wanted, [name, email]);
  if (weak) throw new Refusal('bad-request', weak, ['password']);
  await countTry('old password', id);
  const row = await PersonRow.findByPk(id);
  if (!row || !(await verify(row.passwordHash, old).catch(() => false))) throw new Refusal('bad-request', 'This is not your old password.', ['old']);
  await row.update({ passwordHash: await hash(wanted) });
  await forgive('old password', id);
  await endSessions(id, session);
}

const RESET_MINUTES = 60;

/**
 * Sends a link by which a forgotten password can be replaced, if there is an account with this address. Whether there is one
 * shows in nothing: all that depends on it is done after the answer.
 */
export async function forgotPassword(email: string, from: string, origin: string): Promise<void> {
  await countTry('forgotten from', from);
  void sendReset(email.trim(), origin).catch((error: unknown) => log.error({ err: error }, 'a link for a new password could not be sent'));
}

async function sendReset(email: string, origin: string): Promise<void> {
  const row = await byEmail(email);
  if (!row || row.email === DEMO_EMAIL) return;
  // Somebody else who asks again and again must not fill the letter box.
  if (
    !(await countTry('forgotten to', row.id).then(
      () => true,
      (error: unknown) => isTooOften(error)
    ))
  )
    return;
  const { token, hash: tokenHash } = newToken();
  await database().query('DELETE FROM resets WHERE expires < now()');
  await database().query(`INSERT INTO resets (token_hash, person_id, expires) VALUES ($1, $2, now() + interval '${RESET_MINUTES} minutes')`, {
    bind: [tokenHash, row.id],
  });
  await sendLetter({
    to: row.email,
    subject: 'A new password for Zany Thread',
    text: [
      `Hello ${row.name},`,
      `somebody, most likely you, has asked for a new password. Choose one here within ${RESET_MINUTES} minutes:`,
      `${origin}/new-password/${token}`,
      'If it was not you, there is nothing to do: the old password stays.',
    ].join('\n\n'),
  });
}

function isTooOften(error: unknown): false {
  if (error instanceof Refusal && error.code === 'too-often') return false;
  throw error;
}

export const resetGone = () => new Refusal('not-found', 'This link has been used, or is too old. Ask for a new one.');

/** Whose password a link is for, by name. */
export async function resetFor(token: string): Promise<{ readonly name: string }> {
  const [found] = await rows<{ name: string }>('SELECT name FROM resets JOIN people ON id = person_id WHERE token_hash = $1 AND expires > now()', [
    sha256(token),
  ]);
  if (!found) throw resetGone();
  return found;
}

/** Takes a new password by a link, once. All sessions end, and all other such links. */
export async function resetPassword(token: string, wanted: string): Promise<void> {
  const person = await database().transaction(async (transaction) => {
    const [found] = await rows<{ id: string; name: string; email: string }>(
      'SELECT id, name, email FROM resets JOIN people ON id = person_id WHERE token_hash = $1 AND expires > now() FOR UPDATE OF resets',
      [sha256(token)],
      transaction
    );
    if (!found) throw resetGone();
    const weak = passwordProblem(wanted, [found.name, found.email]);
    if (weak) throw new Refusal('bad-request', weak, ['password']);
    await PersonRow.update({ passwordHash: await hash(wanted) }, { where: { id: found.id }, transaction });
    await database().query('DELETE FROM resets WHERE person_id = $1', { bind: [found.id], transaction });
    return found.id;
  });
  await endSessions(person, undefined);
}
