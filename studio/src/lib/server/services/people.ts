import { randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { UniqueConstraintError, fn, col, where } from 'sequelize';
import type { Person } from '$lib/shared/types';
import { database, rows } from '../database';
import { Refusal } from '../errors';
import { sha256 } from '../digest';
import { newId } from '../ids';
import { announce } from '../listen';
import { PersonRow } from '../models';
import { passwordProblem } from '../passwords';
import { newToken } from '../tokens';
import { countTry, forgive } from './tries';

export const DEMO_EMAIL = 'demo@kittiwake.example';

export const personOf = ({ id, name, email }: { id: string; name: string; email: string }): Person => ({ id, name, email });

export const byEmail = (email: string) => PersonRow.findOne({ where: where(fn('lower', col('email')), email.trim().toLowerCase()) });

/**
 * Makes an account, unless there is one with this address: the answer is the same and takes as long, so that nobody learns
 * who has one. Whoever gave the password can sign in.
 */
export async function register(name: string, email: string, password: string, from: string): Promise<void> {
  const weak = passwordProblem(password, [name, email]);
  if (weak) throw new Refusal('bad-request', weak, ['password']);
  await countTry('register', from);
  const passwordHash = await hash(password);
  if (await byEmail(email)) return;
  try {
    await PersonRow.create({ id: newId(), name: name.trim(), email: email.trim(), passwordHash });
  } catch (error) {
    // Somebody was faster with the same address.
    if (!(error instanceof UniqueConstraintError)) throw error;
  }
}

/** A browser that somebody has signed in with before is told from all others by a token that it keeps. */
export interface Visitor {
  readonly address: string;
  readonly device: string | undefined;
}

/**
 * Checks a password. The answer takes as long and says the same for an address that is not known. Wrong tries are counted
 * for the browser if this account has signed in there before, else for where they come from: strangers who guess lock out
 * strangers, never the one who has the account.
 */
export async function signIn(email: string, password: string, { address, device }: Visitor): Promise<Person> {
  const row = await byEmail(email);
  const isKnown = row !== null && device !== undefined && (await isDeviceOf(row.id, device));
  const key = isKnown ? `device/${sha256(device)}` : `${address}/${email.trim().toLowerCase()}`;
  await countTry('sign-in', key);
  if (!isKnown) await countTry('sign-in from', address);
  const good = await verify(row?.passwordHash ?? (await decoyHash()), password).catch(() => false);
  if (!row || !good) throw new Refusal('signed-out', 'This address and password do not go together.', ['password']);
  await forgive('sign-in', key);
  return personOf(row);
}

let decoy: Promise<string> | null = null;
const decoyHash = () => (decoy ??= hash(randomBytes(16).toString('hex')));

const isDeviceOf = async (person: string, token: string): Promise<boolean> =>
  (await rows('SELECT 1 FROM devices WHERE token_hash = $1 AND person_id = $2', [sha256(token), person])).length > 0;

/** Keeps in mind that somebody signs in with this browser; gives the token that it keeps. */
export async function rememberDevice(person: string, token: string | undefined): Promise<string> {
  if (token && (await isDeviceOf(person, token))) return token;
  const made = newToken();
  await database().query('INSERT INTO devices (token_hash, person_id) VALUES ($1, $2)', { bind: [made.hash, person] });
  return made.token;
}

const DAYS = 30;
/** A session ends at the latest after this, and after so long without a sign of life. */
export const SESSION_SECONDS = DAYS * 24 * 3600;
const IDLE = '7 days';

/** A new session; the token goes into the cookie and is nowhere else. The session that the browser had before ends. */
export async function openSession(person: Person, old: string | undefined): Promise<string> {
  const { token, hash: tokenHash } = newToken();
  await closeSession(old);
  await database().query(`DELETE FROM sessions WHERE expires < now() OR seen < now() - interval '${IDLE}'`);
  await database().query('INSERT INTO sessions (token_hash, person_id, expires) VALUES ($1, $2, $3)', {
    bind: [tokenHash, person.id, new Date(Date.now() + SESSION_SECONDS * 1000)],
  });
  return token;
}

/**
 * Whose session it is, known for a moment: a browser that saves asks many times a second. A session that is ended here is
 * forgotten at once, one that is ended elsewhere within that moment.
 */
const MOMENT = 1000;
const MOST_KNOWN = 5000;
const seen = new Map<string, { readonly person: Person; readonly until: number }>();

/** Whose session it is, if it has not ended. That it was seen is noted once an hour. */
export async function personOfSession(token: string | undefined): Promise<Person | null> {
  if (!token) return null;
  const key = sha256(token);
  const known = seen.get(key);
  if (known && known.until > Date.now()) return known.person;
  const [found] = await rows<Person & { stale: boolean }>(
    `SELECT id, name, email, seen < now() - interval '1 hour' AS stale FROM sessions JOIN people ON id = person_id
     WHERE token_hash = $1 AND expires > now() AND seen > now() - interval '${IDLE}'`,
    [key]
  );
  seen.delete(key);
  if (!found) return null;
  if (found.stale) await database().query('UPDATE sessions SET seen = now() WHERE token_hash = $1', { bind: [key] });
  const person = personOf(found);
  seen.set(key, { person, until: Date.now() + MOMENT });
  for (const oldest of seen.keys()) if (seen.size > MOST_KNOWN) seen.delete(oldest);
  return person;
}

/** What is known of somebody is asked for anew. */
export function forgetPerson(id: string): void {
  for (const [key, { person }] of seen) if (person.id === id) seen.delete(key);
}

/** Ends a session; streams that are open in it end too. */
export async function closeSession(token: string | undefined): Promise<void> {
  if (!token) return;
  seen.delete(sha256(token));
  const ended = await rows<{ person: string }>('DELETE FROM sessions WHERE token_hash = $1 RETURNING person_id AS person', [sha256(token)]);
  seen.delete(sha256(token));
  for (const { person } of ended) await announce({ type: 'rights', person });
}

/** Ends all sessions of somebody but one, if any is left; streams that are open in them end too. */
export async function endSessions(person: string, kept: string | undefined): Promise<number> {
  const ended = await rows<{ key: string }>('DELETE FROM sessions WHERE person_id = $1 AND token_hash <> $2 RETURNING token_hash AS key', [
    person,
    kept ? sha256(kept) : '',
  ]);
  for (const { key } of ended) seen.delete(key);
  if (ended.length) await announce({ type: 'rights', person });
  return ended.length;
}

/** The person of the demo sign-in; exists only where the start command made the database. */
export async function demoPerson(): Promise<Person> {
  const row = await byEmail(DEMO_EMAIL);
  if (!row) throw new Refusal('not-found', 'There is no demo here.');
  return personOf(row);
}
