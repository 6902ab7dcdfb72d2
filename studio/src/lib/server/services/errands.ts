import { exportKinds, exportName, fileName, reportKinds, VERSION } from '@zany/core';
import parts from '@zany/player/page-parts.json';
import { drawnAs } from '@zany/player/pictures';
import { errandDeeds, isUnderWay, type BringInWish, type Errand, type ErrandState, type ErrandWish } from '$lib/shared/errands';
import type { ReviewTask } from '$lib/shared/types';
import { database, rows } from '../database';
import { newId } from '../ids';
import { log } from '../log';
import type { Principal } from '../principal';
import { later, type Jobs } from '../queue';
import { Refusal } from '../refusal';
import { hasTimeForErrand, heavyErrand } from '../work';
import { ServerEnds, WorkerLost } from '../work/pool';
import type { BroughtIn, ErrandTask, Written } from '../work/tasks';
import { bytesOf } from './assets';
import { cardLater } from './cards';
import { documentAt } from './keeping';
import { insertBroughtIn } from './pieces';
import { mustBeThere } from './revisions';
import { memberAccess, somebody } from './rights';
import { shownPiece } from './shown';

/**
 * Long work that servers do for people, by a queue in the database: it can be begun, looked at, stopped, and what came of it fetched
 * later, from another window or after a reload. How it stands is kept in one row; whoever works on it says every second that he still
 * does, so that what a killed server leaves lying is taken up by another one.
 */

/** Under way for one person at once; ended ones that are kept for him, and for how long, in hours; megabytes of a file. */
const MOST = { underWay: 3, kept: 10, hours: 24, megabytes: 100 };

/** Whoever works on one is taken to be gone when he has said nothing for so long, and is not followed by another more often. In seconds. */
const SILENT = 20;
const TRIES = 3;
/** Between two signs of life, in milliseconds. */
const BEAT = 1000;

/** What else decides what comes of an errand, as it was when it was asked for. */
interface Pinned {
  readonly version: string;
  readonly shown?: { readonly bundle: string | null; readonly start: string | null; readonly tasks: readonly ReviewTask[] };
}

/** Has something done; who asks for what is done already, or under way, is given that. */
export async function beginErrand(who: Principal, piece: string, wish: ErrandWish): Promise<Errand> {
  const { row, person } = await memberAccess(who, piece, errandDeeds[wish.kind]);
  if (wish.kind === 'compare') for (const revision of [wish.before, wish.after]) mustBeThere(row, revision, 'bad-request');
  const { revision, pinned } = await pinnedOf(piece, row.revision, wish);
  const same = [person.id, piece, revision, JSON.stringify(wish), JSON.stringify(pinned)];
  const [made] = await rows<{ id: string }>(
    `INSERT INTO errands (id, person_id, piece_id, revision, wish, pinned)
     SELECT $6, $1, $2, $3, $4::jsonb, $5::jsonb WHERE NOT EXISTS (${SAME} AND state = 'done') AND ${HAS_ROOM}
     ON CONFLICT DO NOTHING RETURNING id`,
    [...same, newId()]
  );
  if (made) return begun(who, piece, made.id);
  const [known] = await rows<{ id: string }>(`${SAME} AND state IN ('waiting', 'at work', 'done') ORDER BY created_at DESC LIMIT 1`, same);
  if (known) return errandOf(who, piece, known.id);
  throw tooMany();
}

/** Has a package brought in as a new piece. */
export async function beginBringIn(who: Principal, file: string, bytes: Uint8Array): Promise<Errand> {
  const wish: BringInWish = { kind: 'bring in', file };
  const [made] = await rows<{ id: string }>(
    `INSERT INTO errands (id, person_id, revision, wish, pinned, sent) SELECT $2, $1, 0, $3::jsonb, '{}', $4 WHERE ${HAS_ROOM} RETURNING id`,
    [somebody(who).id, newId(), JSON.stringify(wish), Buffer.from(bytes)]
  );
  if (!made) throw tooMany();
  return begun(who, null, made.id);
}

/** Whether a person, the first that is bound, may have more under way. */
const HAS_ROOM = `(SELECT count(*) FROM errands WHERE person_id = $1 AND state IN ('waiting', 'at work')) < ${MOST.underWay}`;

const tooMany = () => new Refusal('too-often', `${MOST.underWay} things are being done for you already. Wait until one is done, or stop one.`);

async function begun(who: Principal, piece: string | null, errand: string): Promise<Errand> {
  await Promise.all([putToWork(errand), forgetOld(somebody(who).id)]);
  return errandOf(who, piece, errand);
}

/**
 * Has one done: at once where this server has time, else by whichever comes to it first. A queue that only those stand in
 * who wait is a short one; should this server be killed before it has begun, what nobody works on is taken up all the same.
 */
async function putToWork(errand: string): Promise<void> {
  const job = { errand };
  if (hasTimeForErrand()) void doErrand(job).catch((error: unknown) => log.warn({ err: error, ...job }, 'could not do an errand'));
  else await later('do an errand', job);
}

const SAME = 'SELECT id FROM errands WHERE person_id = $1 AND piece_id = $2 AND revision = $3 AND wish = $4::jsonb AND pinned = $5::jsonb';

async function pinnedOf(piece: string, latest: number, wish: ErrandWish): Promise<{ readonly revision: number; readonly pinned: Pinned }> {
  if (wish.kind === 'compare') return { revision: wish.after ?? latest, pinned: { version: VERSION } };
  if (wish.kind !== 'shortest') return { revision: latest, pinned: { version: VERSION } };
  const [link] = await rows<{ revision: number | null; bundle: string | null; start: string | null; tasks: readonly ReviewTask[] }>(
    'SELECT revision, bundle, start, tasks FROM links WHERE piece_id = $1 AND id = $2',
    [piece, wish.link]
  );
  if (!link) throw new Refusal('not-found', 'There is no such link in this piece.', ['link']);
  const { revision, ...shown } = link;
  return { revision: revision ?? latest, pinned: { version: VERSION, shown } };
}

interface Row extends Omit<Errand, 'file' | 'begun'> {
  readonly name: string | null;
  readonly size: number | null;
  readonly begun: Date;
}

const SHOWN = `id, wish, revision, state, said, problem, name, octet_length(bytes) AS size, left_out AS "leftOut", made, created_at AS begun`;

const shown = ({ name, size, begun, ...rest }: Row): Errand => ({
  ...rest,
  begun: begun.toISOString(),
  file: name !== null && size !== null ? { name, size } : null,
});

/** What is made for a person of a piece, and what was lately, the latest first; with null what is about no piece yet. */
export async function errandsOf(who: Principal, piece: string | null): Promise<Errand[]> {
  const person = await personFor(who, piece);
  const found = await rows<Row>(`SELECT ${SHOWN} FROM errands WHERE ${OF_PIECE} ORDER BY created_at DESC, id`, [person, piece]);
  return found.map(shown);
}

const OF_PIECE = 'person_id = $1 AND piece_id IS NOT DISTINCT FROM $2';

const personFor = async (who: Principal, piece: string | null): Promise<string> =>
  (piece === null ? somebody(who) : (await memberAccess(who, piece, 'hand over')).person).id;

export async function errandOf(who: Principal, piece: string | null, id: string): Promise<Errand> {
  const [found] = await rows<Row>(`SELECT ${SHOWN} FROM errands WHERE ${OF_PIECE} AND id = $3`, [await personFor(who, piece), piece, id]);
  if (!found) throw gone();
  return shown(found);
}

const gone = () => new Refusal('not-found', 'This is not there any more. Have it made again.');

export interface ErrandFile {
  readonly bytes: Uint8Array;
  readonly name: string;
  readonly mediaType: string;
}

export async function errandFile(who: Principal, piece: string, id: string): Promise<ErrandFile> {
  const { state, problem, wish } = await errandOf(who, piece, id);
  if (wish.kind !== 'bring in') await memberAccess(who, piece, errandDeeds[wish.kind]);
  if (state !== 'done') throw new Refusal('not-found', problem ?? (state === 'stopped' ? 'It was stopped.' : 'It is not ready yet.'));
  const [found] = await rows<ErrandFile>('SELECT bytes, name, media_type AS "mediaType" FROM errands WHERE id = $1', [id]);
  if (!found) throw gone();
  return found;
}

/** Stops what is under way; what has ended is forgotten. */
export async function stopErrand(who: Principal, piece: string | null, id: string): Promise<void> {
  const errand = await errandOf(who, piece, id);
  const isStopped = isUnderWay(errand) && (await ended(id, 'stopped'));
  if (!isStopped) await rows('DELETE FROM errands WHERE id = $1', [id]);
}

/** Ends what is under way, whoever works on it, or only where it is still that try; false where it has ended already. */
async function ended(id: string, state: ErrandState, problem: string | null = null, tries: number | null = null): Promise<boolean> {
  const found = await rows(
    `UPDATE errands SET state = $2, problem = $3, said = NULL, sent = NULL
     WHERE id = $1 AND state IN ('waiting', 'at work') AND ($4::int IS NULL OR tries = $4) RETURNING id`,
    [id, state, problem, tries]
  );
  return found.length > 0;
}

const forgetOld = (person: string) =>
  rows(
    `DELETE FROM errands WHERE state NOT IN ('waiting', 'at work') AND (created_at < now() - interval '${MOST.hours} hours' OR id IN (
       SELECT id FROM errands WHERE person_id = $1 AND state NOT IN ('waiting', 'at work') ORDER BY created_at DESC OFFSET ${MOST.kept}))`,
    [person]
  );

// ── who does it ───────────────────────────────────────────────────────────────

interface Claim {
  readonly id: string;
  readonly person: string;
  readonly piece: string | null;
  readonly wish: ErrandWish | BringInWish;
  readonly revision: number;
  readonly pinned: Pinned;
  readonly tries: number;
}

/** Does one, if nobody else does. */
export async function doErrand({ errand }: Jobs['do an errand']): Promise<void> {
  const [claim] = await rows<Claim>(
    `UPDATE errands SET state = 'at work', tries = tries + 1, alive_at = now(), said = NULL WHERE id = $1 AND state = 'waiting'
     RETURNING id, person_id AS person, piece_id AS piece, wish, revision, pinned, tries`,
    [errand]
  );
  if (!claim) return;
  if (claim.tries > TRIES)
    return void (await ended(errand, 'failed', `It was begun ${TRIES} times, and each time its server ended before it was done.`));
  const stop = new AbortController();
  let said: string | null = null;
  const beat = setInterval(() => {
    void isMine(claim, said).then(
      (mine) => mine || stop.abort(),
      (error: unknown) => log.warn({ err: error, errand }, 'could not say how far an errand has come')
    );
  }, BEAT);
  try {
    const { file, task } = await taskOf(claim);
    const made = await heavyErrand(task, { heard: (words) => void (said = words), stop: stop.signal });
    await ('document' in made ? keepPiece(claim, made) : keep(claim, file!, made));
  } catch (error) {
    await leave(claim, error, stop.signal.aborted);
  } finally {
    clearInterval(beat);
  }
}

/** Says that it is still worked on; false where it was stopped, or somebody else has taken it up. */
async function isMine({ id, tries }: Claim, said: string | null): Promise<boolean> {
  const found = await rows(`UPDATE errands SET alive_at = now(), said = $3 WHERE id = $1 AND state = 'at work' AND tries = $2 RETURNING id`, [
    id,
    tries,
    said,
  ]);
  return found.length > 0;
}

async function keep({ id, tries }: Claim, { name, mediaType }: FileOf, { bytes, leftOut }: Written): Promise<void> {
  if (bytes.length > MOST.megabytes * 1e6) return void (await ended(id, 'failed', `It would be larger than ${MOST.megabytes} MB.`, tries));
  await rows(
    `UPDATE errands SET state = 'done', said = NULL, name = $3, media_type = $4, bytes = $5, left_out = $6::jsonb WHERE id = $1 AND state = 'at work' AND tries = $2`,
    [id, tries, name, mediaType, Buffer.from(bytes), JSON.stringify(leftOut)]
  );
}

/** The piece is there as soon as this is done, and only where it is still that try. */
async function keepPiece({ id, person, tries }: Claim, brought: BroughtIn): Promise<void> {
  const isKept = await database().transaction(async (transaction) => {
    const [mine] = await rows(`SELECT 1 FROM errands WHERE id = $1 AND state = 'at work' AND tries = $2 FOR UPDATE`, [id, tries], transaction);
    if (!mine) return false;
    await insertBroughtIn(person, brought, transaction);
    await rows(`UPDATE errands SET state = 'done', said = NULL, sent = NULL, made = $2 WHERE id = $1`, [id, brought.id], transaction);
    return true;
  });
  if (isKept) cardLater(brought.id, 0, 0);
}

async function leave({ id, tries }: Claim, error: unknown, isStopped: boolean): Promise<void> {
  if (isStopped) return;
  if (error instanceof ServerEnds) {
    // Another server goes on with it, or this one once it is back: it was no try.
    await rows(`UPDATE errands SET state = 'waiting', tries = tries - 1, alive_at = '-infinity' WHERE id = $1 AND state = 'at work' AND tries = $2`, [
      id,
      tries,
    ]);
    return;
  }
  if (error instanceof WorkerLost) return void (await ended(id, 'failed', `It cannot be made: ${error.message}.`, tries));
  if (!(error instanceof Refusal)) log.warn({ err: error, errand: id }, 'an errand failed');
  await ended(id, 'failed', error instanceof Refusal ? error.message : 'It cannot be made: something went wrong on the server.', tries);
}

interface FileOf {
  readonly name: string;
  readonly mediaType: string;
}

/** What is to be done, and what the file that comes of it is; null where none does. */
async function taskOf({ id, piece, wish, revision, pinned }: Claim): Promise<{ file: FileOf | null; task: ErrandTask }> {
  if (wish.kind === 'bring in') {
    const [{ sent } = { sent: null }] = await rows<{ sent: Uint8Array | null }>('SELECT sent FROM errands WHERE id = $1', [id]);
    if (!sent) throw gone();
    return { file: null, task: { kind: wish.kind, bytes: new Uint8Array(sent), id: newId() } };
  }
  const { task, ...file } = await fileTask(piece!, wish, revision, pinned);
  return { file, task };
}

async function fileTask(piece: string, wish: ErrandWish, revision: number, pinned: Pinned): Promise<FileOf & { readonly task: ErrandTask }> {
  const [named] = await rows<{ name: string }>('SELECT name FROM pieces WHERE id = $1 AND deleted_at IS NULL', [piece]);
  if (!named) throw new Refusal('not-found', 'The piece was deleted.');
  const { name } = named;
  switch (wish.kind) {
    case 'export': {
      const [document, assets] = await Promise.all([documentAt(piece, revision), bytesOf(piece)]);
      const task = { kind: wish.kind, to: wish.to, document, assets, parts };
      return { name: exportName(name, wish.to), mediaType: exportKinds[wish.to].mediaType, task };
    }
    case 'walk': {
      const { ending, mediaType } = reportKinds[wish.as];
      const day = new Date().toISOString().slice(0, 10);
      return { name: fileName(name) + ending, mediaType, task: { kind: wish.kind, as: wish.as, document: await documentAt(piece, revision), day } };
    }
    case 'draw': {
      const [document, assets] = await Promise.all([documentAt(piece, revision), bytesOf(piece)]);
      const { ending, mediaType } = drawnAs[wish.draw.as];
      const day = new Date().toLocaleDateString('en-GB', { dateStyle: 'long' });
      const of = wish.draw.timeline ?? wish.draw.walk;
      const task = { kind: wish.kind, wish: wish.draw, document, assets, faces: parts.fonts, day };
      return { name: fileName(of === undefined ? name : `${name} ${of}`) + ending, mediaType, task };
    }
    case 'compare': {
      const [before, after] = await Promise.all([documentAt(piece, wish.before), documentAt(piece, revision)]);
      return { name: `${fileName(name)}.compared.json`, mediaType: JSON_TYPE, task: { kind: wish.kind, before, after } };
    }
    case 'shortest': {
      const { bundle, start, tasks } = pinned.shown!;
      const { document } = await shownPiece({ piece, revision, bundle, start });
      return { name: `${fileName(name)}.shortest.json`, mediaType: JSON_TYPE, task: { kind: wish.kind, document, tasks } };
    }
  }
}

const JSON_TYPE = 'application/json';

/** Puts in again what nobody works on any more. */
export async function takeUpErrands(): Promise<void> {
  const found = await rows<{ id: string }>(
    `UPDATE errands SET state = 'waiting', alive_at = now()
     WHERE state IN ('waiting', 'at work') AND alive_at < now() - interval '${SILENT} seconds' RETURNING id`
  );
  for (const { id } of found) await putToWork(id);
}

/** Does that now and then, as long as the server is there. */
export function watchErrands(): void {
  const look = () => void takeUpErrands().catch((error: unknown) => log.warn({ err: error }, 'could not look for what nobody works on'));
  look();
  setInterval(look, (SILENT * 1000) / 2).unref();
}
