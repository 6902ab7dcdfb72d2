import type { PieceEdit, PieceVersion } from '$lib/shared/types';
import { database, rows } from '../database';
import type { Principal } from '../principal';
import { Refusal } from '../refusal';
import { documentAt } from './keeping';
import { mustBeThere } from './revisions';
import { memberAccess } from './rights';

/**
 * Versions of a piece. Every revision can be read again, so keeping one only means to list it: those that were given a name, those
 * after which nobody did anything for a while, one in each hour of work, and those before an edit that replaced a lot.
 */

/** A rest in minutes; an edit that replaces a lot in operations. */
const REST = 10;
const LARGE = 100;

/** Listed at most, the latest first; named versions of one piece; edits of one stretch. */
const MOST = { listed: 300, named: 500, edits: 500 };

interface Row extends Omit<PieceVersion, 'at' | 'edits'> {
  readonly at: Date;
}

/** The versions of a piece, the latest first; the beginning is the last of them. */
export async function versionsOf(who: Principal, piece: string): Promise<{ versions: PieceVersion[]; isAll: boolean }> {
  await memberAccess(who, piece, 'see versions');
  const found = await rows<Row>(
    `WITH log AS (
       SELECT revision, created_at AS at, name AS last, person_id, size,
         lead(created_at) OVER later AS next_at, lead(size) OVER later AS next_size, lead(name) OVER later AS next_name
       FROM batches WHERE piece_id = $1 WINDOW later AS (ORDER BY revision)
     ), listed AS (
       SELECT log.revision, at, last, people.name AS by, next_at, next_size, next_name
       FROM log LEFT JOIN people ON people.id = log.person_id
       UNION ALL
       SELECT 0, pieces.created_at, NULL, NULL, '-infinity', (SELECT size FROM log WHERE revision = 1), (SELECT last FROM log WHERE revision = 1)
       FROM pieces WHERE id = $1
     )
     SELECT listed.revision, at, last, by, versions.name, versions.by_name AS "keptBy",
       CASE WHEN next_size >= ${LARGE} THEN next_name END AS before
     FROM listed LEFT JOIN versions ON versions.piece_id = $1 AND versions.revision = listed.revision
     WHERE versions.name IS NOT NULL OR listed.revision = 0 OR next_at IS NULL OR next_size >= ${LARGE}
       OR next_at - at > interval '${REST} minutes' OR date_trunc('hour', next_at) <> date_trunc('hour', at)
     ORDER BY listed.revision DESC LIMIT ${MOST.listed + 1}`,
    [piece]
  );
  const versions = found.map((one, i): PieceVersion => ({ ...one, at: one.at.toISOString(), edits: one.revision - (found[i + 1]?.revision ?? 0) }));
  return { versions: versions.slice(0, MOST.listed), isAll: found.length <= MOST.listed };
}

/** The edits after one version, up to another, the latest first. */
export async function editsOf(who: Principal, piece: string, after: number, upTo: number): Promise<PieceEdit[]> {
  await memberAccess(who, piece, 'see versions');
  const found = await rows<Omit<PieceEdit, 'at'> & { at: Date }>(
    `SELECT revision, batches.created_at AS at, batches.name, people.name AS by FROM batches LEFT JOIN people ON people.id = person_id
     WHERE piece_id = $1 AND revision > $2 AND revision <= $3 ORDER BY revision DESC LIMIT ${MOST.edits}`,
    [piece, after, upTo]
  );
  return found.map((one) => ({ ...one, at: one.at.toISOString() }));
}

/** The piece as it was at a revision, as JSON text. */
export async function versionAt(who: Principal, piece: string, revision: number): Promise<string> {
  const { row } = await memberAccess(who, piece, 'see versions');
  mustBeThere(row, revision, 'not-found');
  return `{"piece":${await documentAt(piece, revision)},"revision":${revision}}`;
}

/** Gives a version a name, or another one. */
export async function nameVersion(who: Principal, piece: string, revision: number, name: string): Promise<void> {
  const { person, row } = await memberAccess(who, piece, 'name versions');
  mustBeThere(row, revision, 'not-found');
  const [count] = await rows<{ all: number }>('SELECT count(*)::int AS all FROM versions WHERE piece_id = $1', [piece]);
  if (count!.all >= MOST.named) throw new Refusal('too-large', `A piece has at most ${MOST.named} versions with names.`);
  await database().query(
    `INSERT INTO versions (piece_id, revision, name, by_name) VALUES ($1, $2, $3, $4)
     ON CONFLICT (piece_id, revision) DO UPDATE SET name = $3, by_name = $4`,
    { bind: [piece, revision, name, person.name] }
  );
}

/** Takes the name from a version; the version itself stays. */
export async function unnameVersion(who: Principal, piece: string, revision: number): Promise<void> {
  await memberAccess(who, piece, 'name versions');
  await database().query('DELETE FROM versions WHERE piece_id = $1 AND revision = $2', { bind: [piece, revision] });
}
