import { verify } from '@node-rs/argon2';
import type { LinkFace, LinkWish } from '$lib/shared/types';
import { database, rows } from '../database';
import { sha256 } from '../digest';
import { newId } from '../ids';
import type { Holder } from '../principal';
import { Refusal } from '../refusal';
import { newToken } from '../tokens';
import { countTry, forgive } from './tries';

/** The door that a review link leads to: who may come in by it, and who has. */

interface Row extends Omit<LinkWish, 'expires' | 'name'> {
  readonly id: string;
  readonly piece: string;
  readonly pieceName: string;
  readonly by: string;
  readonly passwordHash: string | null;
  readonly expires: Date | null;
  readonly isWithdrawn: boolean;
  readonly isOver: boolean;
}

const TOKEN = /^[\w-]{22}$/;

/** Holders of one link at most. */
const MOST_HOLDERS = 5000;

async function rowOf(token: string): Promise<Row | null> {
  if (!TOKEN.test(token)) return null;
  const [found] = await rows<Row>(
    `SELECT links.id, piece_id AS piece, pieces.name AS "pieceName", by_name AS by, may, start, bundle, links.revision, hints, tasks,
       password_hash AS "passwordHash", expires, withdrawn_at IS NOT NULL OR deleted_at IS NOT NULL AS "isWithdrawn", coalesce(expires <= now(), false) AS "isOver"
     FROM links JOIN pieces ON pieces.id = piece_id WHERE token = $1`,
    [token]
  );
  return found ?? null;
}

/**
 * What a link leads to.
 *
 * @throws a sentence for one that there is not, that is over, or that was withdrawn
 */
async function openRow(token: string): Promise<Row> {
  const row = await rowOf(token);
  if (!row) throw new Refusal('not-found', 'There is no such link. Perhaps a part of its address is missing.');
  if (row.isWithdrawn) throw new Refusal('gone', `${row.by} has withdrawn this link. Ask for another one if you still need it.`);
  if (row.isOver) {
    const day = row.expires!.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' });
    throw new Refusal('gone', `This link ended on ${day}. Ask ${row.by} for another one if you still need it.`);
  }
  return row;
}

/** What is said of a link to whoever has it; wrong links are counted by where they come from. */
export async function faceOf(token: string, from: string): Promise<LinkFace> {
  try {
    const { pieceName, by, may, passwordHash } = await openRow(token);
    return { piece: pieceName, by, may, needsPassword: passwordHash !== null };
  } catch (error) {
    if (error instanceof Refusal && error.code === 'not-found') await countTry('wrong link', from);
    throw error;
  }
}

/** Lets somebody in under a name; gives what his browser keeps. */
export async function comeIn(token: string, name: string, password: string, from: string): Promise<string> {
  const row = await openRow(token);
  if (row.passwordHash !== null) {
    await countTry('wrong link', from);
    await countTry('link password', row.id);
    if (!(await verify(row.passwordHash, password).catch(() => false)))
      throw new Refusal('not-allowed', 'This is not the password of the link.', ['password']);
    // A room full of people who know it must not lock itself out.
    await Promise.all([forgive('wrong link', from), forgive('link password', row.id)]);
  } else await countTry('come in', from);
  const [count] = await rows<{ all: number }>('SELECT count(*)::int AS all FROM holders WHERE link_id = $1', [row.id]);
  if (count!.all >= MOST_HOLDERS) throw new Refusal('too-large', 'Too many have come in by this link.');
  const made = newToken();
  await database().query('INSERT INTO holders (id, token_hash, link_id, name) VALUES ($1, $2, $3, $4)', {
    bind: [newId(), made.hash, row.id, name.trim()],
  });
  return made.token;
}

/** Who holds a link, by what his browser keeps; null for who has not come in, or may not any more. */
export async function holderOf(token: string, kept: string | undefined): Promise<Holder | null> {
  if (!kept || !TOKEN.test(token)) return null;
  const [found] = await rows<Omit<Holder, 'kind'>>(
    `SELECT holders.id, holders.name, links.id AS link, piece_id AS piece, may FROM holders JOIN links ON links.id = link_id
     WHERE token = $1 AND token_hash = $2 AND withdrawn_at IS NULL AND (expires IS NULL OR expires > now())`,
    [token, sha256(kept)]
  );
  return found ? { kind: 'holder', ...found } : null;
}

/** How a link shows its piece. */
export async function settingsOf(
  link: string
): Promise<Pick<LinkWish, 'start' | 'bundle' | 'revision' | 'hints' | 'tasks'> & { readonly view: number }> {
  const [found] = await rows<LinkWish & { readonly view: number }>(
    'SELECT start, bundle, revision, hints, tasks, jsonb_array_length(views) AS view FROM links WHERE id = $1',
    [link]
  );
  if (!found) throw new Refusal('gone', 'This link is gone.');
  return found;
}
