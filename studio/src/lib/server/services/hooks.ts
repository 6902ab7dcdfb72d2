import { createHmac, randomBytes } from 'node:crypto';
import type { Hook, HookAnswer, HookEvent } from '$lib/shared/types';
import { rows } from '../database';
import { newId } from '../ids';
import { log } from '../log';
import { postOutside } from '../outside';
import type { Principal } from '../principal';
import { later, type Jobs } from '../queue';
import { Refusal } from '../refusal';
import { noteDoor } from './door-book';
import { memberAccess } from './rights';

/**
 * Addresses that are told what happens to a piece. What is told is signed as Standard Webhooks 1.0 says: `webhook-id`,
 * `webhook-timestamp`, and in `webhook-signature` an HMAC of these and the body (SHA-256, with the secret of the hook).
 */

/** So many for one piece. */
const MOST = 10;

export async function hooksOf(who: Principal, piece: string): Promise<Hook[]> {
  await memberAccess(who, piece, 'make hooks');
  return rows<Hook>('SELECT id, address, events, by_name AS by, answered FROM hooks WHERE piece_id = $1 ORDER BY created_at, id', [piece]);
}

/** Begins to tell an address; the secret is told once. */
export async function makeHook(
  who: Principal,
  piece: string,
  { address, events }: { readonly address: string; readonly events: readonly HookEvent[] }
): Promise<{ readonly id: string; readonly secret: string }> {
  const { person } = await memberAccess(who, piece, 'make hooks');
  const secret = `whsec_${randomBytes(24).toString('base64')}`;
  const [made] = await rows<{ id: string }>(
    `INSERT INTO hooks (id, piece_id, address, events, secret, by_name, told)
     SELECT $1, $2, $3, $4, $5, $6, revision FROM pieces
     WHERE id = $2 AND (SELECT count(*) FROM hooks WHERE piece_id = $2) < ${MOST} RETURNING id`,
    [newId(), piece, address, [...events], secret, person.name]
  );
  if (!made) throw new Refusal('not-allowed', `${MOST} addresses are told of this piece already. End one first.`);
  await noteDoor(piece, person.name, `has ${new URL(address).host} told of what happens`);
  return { id: made.id, secret };
}

export async function endHook(who: Principal, piece: string, id: string): Promise<void> {
  const { person } = await memberAccess(who, piece, 'make hooks');
  const [gone] = await rows<{ address: string }>('DELETE FROM hooks WHERE id = $1 AND piece_id = $2 RETURNING address', [id, piece]);
  if (!gone) throw new Refusal('not-found', 'This address is not told any more.');
  await noteDoor(piece, person.name, `has ${new URL(gone.address).host} told no more`);
}

/** Tells an address something that means nothing, at once, and says what came of it. */
export async function tryHook(who: Principal, piece: string, id: string): Promise<HookAnswer> {
  const { person } = await memberAccess(who, piece, 'make hooks');
  const [found] = await rows<{ id: string }>('SELECT id FROM hooks WHERE id = $1 AND piece_id = $2', [id, piece]);
  if (!found) throw new Refusal('not-found', 'This address is not told any more.');
  return call({ hook: id, ...messageOf('tried'), data: { piece, by: person.name } });
}

const messageOf = (type: HookEvent | 'tried') => ({ message: newId(), type: `piece.${type.replaceAll(' ', '-')}`, at: new Date().toISOString() });

interface Often {
  /** What happens again and again is told once a minute at most, by this key. */
  readonly key: string;
}

const MINUTE = 60;

/** Has all who want to know told of something, by whichever server comes to it. Nothing waits for it, and nothing fails by it. */
export const happened = (piece: string, event: HookEvent, data: object, often?: Often): void =>
  aside(piece, event, async () => {
    const hooks = await rows<Named>(
      'SELECT hooks.id AS hook, name FROM hooks JOIN pieces ON pieces.id = piece_id WHERE piece_id = $1 AND $2 = ANY(events)',
      [piece, event]
    );
    await tellAll(hooks, piece, event, data, often);
  });

/** The same of a piece that was saved and has rested; each address is told of a revision once, whichever servers come upon it. */
export const rested = (piece: string, revision: number): void =>
  aside(piece, 'saved', async () => {
    const hooks = await rows<Named>(
      `UPDATE hooks SET told = $2 FROM pieces
       WHERE piece_id = $1 AND pieces.id = piece_id AND 'saved' = ANY(events) AND told < $2 RETURNING hooks.id AS hook, name`,
      [piece, revision]
    );
    await tellAll(hooks, piece, 'saved', { revision });
  });

const aside = (piece: string, event: HookEvent, tell: () => Promise<void>): void =>
  void tell().catch((error: unknown) => log.warn({ err: error, piece, event }, 'could not have hooks told'));

interface Named {
  readonly hook: string;
  /** Of the piece. */
  readonly name: string;
}

async function tellAll(hooks: readonly Named[], piece: string, event: HookEvent, data: object, often?: Often): Promise<void> {
  for (const { hook, name } of hooks) {
    const job = { hook, ...messageOf(event), data: { piece, name, ...data } };
    await later('tell a hook', job, often ? { once: { key: `${hook} ${often.key}`, seconds: MINUTE } } : {});
  }
}

/** Tells one; throws where that was not taken, so that it is tried again. */
export async function tellHook(job: Jobs['tell a hook']): Promise<void> {
  const { problem } = await call(job);
  if (problem !== null) throw new Error(problem);
}

async function call({ hook, message, type, at, data }: Jobs['tell a hook']): Promise<HookAnswer> {
  const [found] = await rows<{ address: string; secret: string }>('SELECT address, secret FROM hooks WHERE id = $1', [hook]);
  // Who is told no more is not told what happened before either.
  if (!found) return { at, problem: null };
  const body = JSON.stringify({ type, timestamp: at, data });
  const seconds = String(Math.floor(Date.now() / 1000));
  const status = await postOutside(found.address, body, {
    'content-type': 'application/json',
    'user-agent': 'Zany Thread',
    'webhook-id': message,
    'webhook-timestamp': seconds,
    'webhook-signature': `v1,${signed(found.secret, `${message}.${seconds}.${body}`)}`,
  }).catch((error: Error) => error.message);
  const isTaken = typeof status === 'number' && status >= 200 && status < 300;
  const answered: HookAnswer = {
    at: new Date().toISOString(),
    problem: isTaken ? null : typeof status === 'number' ? `It answers with status ${status}.` : status,
  };
  await rows('UPDATE hooks SET answered = $2::jsonb WHERE id = $1', [hook, JSON.stringify(answered)]);
  return answered;
}

const signed = (secret: string, text: string): string =>
  createHmac('sha256', Buffer.from(secret.slice('whsec_'.length), 'base64'))
    .update(text)
    .digest('base64');
