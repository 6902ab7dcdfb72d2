import { randomBytes } from 'node:crypto';
import { hash } from '@node-rs/argon2';
import type { LinkWish, ReviewLink } from '$lib/shared/types';
import { database, rows } from '../database';
import { newId } from '../ids';
import { announce } from '../listen';
import type { Principal } from '../principal';
import { Refusal } from '../refusal';
import { noteDoor } from './door-book';
import { mustBeThere } from './revisions';
import { memberAccess } from './rights';

/** Links of one piece at most, the withdrawn ones counted. */
const MOST_LINKS = 500;

interface Row extends Omit<ReviewLink, 'made' | 'expires'> {
  readonly made: Date;
  readonly expires: Date | null;
}

const COLUMNS = `links.id, token, links.name, by_name AS by, may, start, bundle, revision, hints, tasks, expires, links.created_at AS made,
  password_hash IS NOT NULL AS "hasPassword", withdrawn_at IS NOT NULL AS withdrawn,
  (SELECT count(*)::int FROM holders WHERE link_id = links.id) AS holders`;

const linkOf = ({ made, expires, ...row }: Row): ReviewLink => ({ ...row, made: made.toISOString(), expires: expires?.toISOString() ?? null });

/** The review links of a piece, the newest first. */
export async function linksOf(who: Principal, piece: string): Promise<ReviewLink[]> {
  await memberAccess(who, piece, 'see links');
  const found = await rows<Row>(`SELECT ${COLUMNS} FROM links WHERE piece_id = $1 ORDER BY links.created_at DESC, links.id LIMIT ${MOST_LINKS}`, [
    piece,
  ]);
  return found.map(linkOf);
}

export async function makeLink(who: Principal, piece: string, wish: LinkWish, password: string | null): Promise<ReviewLink> {
  const { person, row } = await memberAccess(who, piece, 'make links');
  mustBeThere(row, wish.revision, 'bad-request');
  const [count] = await rows<{ all: number }>('SELECT count(*)::int AS all FROM links WHERE piece_id = $1', [piece]);
  if (count!.all >= MOST_LINKS) throw new Refusal('too-large', `A piece has at most ${MOST_LINKS} links.`);
  const id = newId();
  // 128 bits: as long as nobody is told, nobody comes upon it.
  const token = randomBytes(16).toString('base64url');
  const passwordHash = password === null ? null : await hash(password);
  await database().transaction(async (transaction) => {
    await database().query(
      `INSERT INTO links (id, token, piece_id, name, by_name, may, start, bundle, revision, hints, tasks, password_hash, expires)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11::jsonb, $12, $13)`,
      {
        bind: [
          id,
          token,
          piece,
          wish.name,
          person.name,
          wish.may,
          wish.start,
          wish.bundle,
          wish.revision,
          wish.hints,
          JSON.stringify(wish.tasks),
          passwordHash,
          wish.expires,
        ],
        transaction,
      }
    );
    await noteDoor(piece, person.name, `made the link “${wish.name}”`, transaction);
  });
  return oneLink(piece, id);
}

async function oneLink(piece: string, id: string): Promise<ReviewLink> {
  const [found] = await rows<Row>(`SELECT ${COLUMNS} FROM links WHERE piece_id = $1 AND links.id = $2`, [piece, id]);
  if (!found) throw new Refusal('not-found', 'There is no such link in this piece.');
  return linkOf(found);
}

/** What can be changed of a link that is out already: what was done by it is looked at with the frames that it showed then. */
export type LinkChange = Partial<LinkWish> & {
  /** Another password; null for none any more. */
  readonly password?: string | null;
};

/** Changes a link; whoever has it open gets what it allows then with the next thing he asks for. */
export async function changeLink(who: Principal, piece: string, id: string, change: LinkChange): Promise<ReviewLink> {
  const { row } = await memberAccess(who, piece, 'make links');
  const { password, ...wish } = change;
  const { name, may, start, bundle, hints, tasks, expires, revision } = { ...(await oneLink(piece, id)), ...wish };
  mustBeThere(row, revision, 'bad-request');
  const passwordHash = password ? await hash(password) : null;
  await database().query(
    `UPDATE links SET name = $3, may = $4, hints = $5, tasks = $6::jsonb, expires = $7, revision = $8,
       password_hash = CASE WHEN $9 THEN $10 ELSE password_hash END, start = $11, bundle = $12,
       views = CASE WHEN start IS DISTINCT FROM $11 OR bundle IS DISTINCT FROM $12
         THEN views || jsonb_build_array(jsonb_build_object('start', start, 'bundle', bundle)) ELSE views END
     WHERE piece_id = $1 AND id = $2`,
    { bind: [piece, id, name, may, hints, JSON.stringify(tasks), expires, revision, password !== undefined, passwordHash, start, bundle] }
  );
  await announce({ type: 'link', link: id });
  return oneLink(piece, id);
}

/** Ends a link at once; who walks by it is told. What was done by it stays. */
export async function withdrawLink(who: Principal, piece: string, id: string): Promise<void> {
  const { person } = await memberAccess(who, piece, 'make links');
  const { name, withdrawn } = await oneLink(piece, id);
  if (withdrawn) return;
  await database().transaction(async (transaction) => {
    await database().query('UPDATE links SET withdrawn_at = now() WHERE id = $1', { bind: [id], transaction });
    await noteDoor(piece, person.name, `withdrew the link “${name}”`, transaction);
  });
  await announce({ type: 'link', link: id });
}
