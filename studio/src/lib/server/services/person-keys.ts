import type { KeyMay, Person, PersonKey } from '$lib/shared/types';
import { rows } from '../database';
import { isReading } from '../methods';
import { sha256 } from '../digest';
import { newId } from '../ids';
import type { Principal } from '../principal';
import { Refusal } from '../refusal';
import { newToken } from '../tokens';
import { somebody } from './rights';

/** Keys with which programs act for whoever made them, in what is not about the account itself. */

/** So many at a time; whoever needs more ends one. */
const MOST = 20;

export interface KeyWish {
  readonly name: string;
  readonly may: KeyMay;
  /** From now on. */
  readonly days: number;
}

/** Makes a key; it is told once, and kept as a digest. */
export async function makePersonKey(who: Principal, { name, may, days }: KeyWish): Promise<string> {
  const { id } = somebody(who);
  const { token, hash } = newToken();
  const [made] = await rows<{ id: string }>(
    `INSERT INTO person_keys (id, key_hash, person_id, name, may, expires)
     SELECT $1, $2, $3, $4, $5, now() + $6 * interval '1 day'
     WHERE (SELECT count(*) FROM person_keys WHERE person_id = $3 AND expires > now()) < ${MOST} RETURNING id`,
    [newId(), hash, id, name, may, days]
  );
  if (!made) throw new Refusal('not-allowed', `There are ${MOST} keys already. End one that is not needed any more.`);
  return token;
}

/** Those that have not run out, the newest first. */
export async function personKeysOf(who: Principal): Promise<PersonKey[]> {
  const found = await rows<{ id: string; name: string; may: KeyMay; made: Date; expires: Date; used: Date | null }>(
    `SELECT id, name, may, created_at AS made, expires, used_at AS used FROM person_keys
     WHERE person_id = $1 AND expires > now() ORDER BY created_at DESC, id`,
    [somebody(who).id]
  );
  return found.map(({ made, expires, used, ...one }) => ({
    ...one,
    made: made.toISOString(),
    expires: expires.toISOString(),
    used: used?.toISOString() ?? null,
  }));
}

export async function endPersonKey(who: Principal, id: string): Promise<void> {
  const [gone] = await rows<{ id: string }>('DELETE FROM person_keys WHERE id = $1 AND person_id = $2 RETURNING id', [id, somebody(who).id]);
  if (!gone) throw new Refusal('not-found', 'There is no such key any more.');
}

/** Whose key it is, and what it may; null where there is none, or it has run out. That it was used is noted once an hour. */
export async function personOfKey(key: string): Promise<{ readonly person: Person; readonly may: KeyMay; readonly key: string } | null> {
  const hash = sha256(key);
  const [found] = await rows<Person & { key: string; may: KeyMay; stale: boolean }>(
    `SELECT person_keys.id AS key, people.id, people.name, email, may, used_at IS NULL OR used_at < now() - interval '1 hour' AS stale
     FROM person_keys JOIN people ON people.id = person_id WHERE key_hash = $1 AND expires > now()`,
    [hash]
  );
  if (!found) return null;
  if (found.stale) await rows('UPDATE person_keys SET used_at = now() WHERE key_hash = $1', [hash]);
  const { id, name, email, may } = found;
  return { person: { id, name, email }, may, key: found.key };
}

/** Why a request that brings a key may not be made with it; null where it may. */
export function keyFault(may: KeyMay, method: string, route: string | null): Refusal | null {
  if (route !== null && !route.startsWith('/api/')) return new Refusal('not-allowed', 'A key opens nothing but addresses under /api.');
  if (may === 'change' || isReading(method)) return null;
  return new Refusal('not-allowed', 'This key only reads. Make one that may change things.');
}
