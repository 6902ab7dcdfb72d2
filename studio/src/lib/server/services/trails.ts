import { readTrail } from '@zany/core';
import type { ResultTrail, ReviewResults, ReviewTask, SentTrail } from '$lib/shared/types';
import { database, rows } from '../database';
import type { Principal } from '../principal';
import { Refusal } from '../refusal';
import { heavy } from '../work';
import { endLooseEnds, ownerOf, saidByHolder } from './asked';
import { forgetWords } from './comments';
import { happened } from './hooks';
import { settingsOf } from './link-door';
import { mustBeThere } from './revisions';
import { linkAccess, memberAccess } from './rights';
import { shownPiece, type Showing } from './shown';

/** What holders of links did, and what it says of the piece. */

/** Goes of one holder at most; versions and goes that are looked at for one page of results. */
const MOST = { ofHolder: 200, versions: 20, looked: 1000 };

/** Keeps what a holder did, in the place of what was sent of the same go before. */
export async function keepTrail(who: Principal, sent: SentTrail): Promise<void> {
  const { row, holder } = await linkAccess(who, 'walk by a link');
  const trail = readTrail(sent.trail);
  if (!trail.ok) throw new Refusal('bad-request', trail.error.sentence, ['trail', ...trail.error.path]);
  mustBeThere(row, sent.revision, 'bad-request');
  const { view } = await settingsOf(holder.link);
  if (sent.view > view) throw new Refusal('bad-request', 'The link has never shown this.', ['view']);
  const [count] = await rows<{ all: number }>('SELECT count(*)::int AS all FROM trails WHERE holder_id = $1 AND id <> $2', [holder.id, sent.id]);
  if (count!.all >= MOST.ofHolder) throw new Refusal('too-large', 'This is enough now: what you do from here on is not kept.');
  await database().query(
    `INSERT INTO trails (id, holder_id, task, revision, view, trail, given_up, is_full) VALUES ($1, $2, $3, $4, $5, $6::jsonb, $7, $8)
     ON CONFLICT (holder_id, id) DO UPDATE SET trail = excluded.trail, given_up = excluded.given_up, is_full = excluded.is_full
     WHERE jsonb_array_length(excluded.trail->'events') >= jsonb_array_length(trails.trail->'events')`,
    { bind: [sent.id, holder.id, sent.task, sent.revision, sent.view, JSON.stringify(trail.value), sent.givenUp, sent.isFull] }
  );
  happened(row.id, 'walked', { link: holder.link, by: holder.name, task: sent.task, givenUp: sent.givenUp }, { key: sent.id });
}

/** A holder takes back all he did, and his name. */
export async function forgetMe(who: Principal): Promise<void> {
  const { holder } = await linkAccess(who, 'look by a link');
  const said = await saidByHolder(holder.id);
  await database().transaction(async (transaction) => {
    await forgetWords(holder.id, transaction);
    await database().query('DELETE FROM holders WHERE id = $1', { bind: [holder.id], transaction });
  });
  const owner = said.length ? await ownerOf(holder.piece) : null;
  if (owner) await endLooseEnds(holder.piece, said, owner);
}

/** Deletes what somebody did by a link, and the name. */
export async function forgetHolder(who: Principal, piece: string, link: string, holder: string): Promise<void> {
  const { person } = await memberAccess(who, piece, 'make links');
  const said = await saidByHolder(holder);
  await database().transaction(async (transaction) => {
    const gone = await rows(
      'SELECT holders.id FROM holders JOIN links ON links.id = link_id WHERE piece_id = $1 AND link_id = $2 AND holders.id = $3',
      [piece, link, holder],
      transaction
    );
    if (gone.length === 0) throw new Refusal('not-found', 'This has been deleted already.');
    await forgetWords(holder, transaction);
    await database().query('DELETE FROM holders WHERE id = $1', { bind: [holder], transaction });
  });
  await endLooseEnds(piece, said, person);
}

interface LinkRow {
  readonly start: string | null;
  readonly bundle: string | null;
  readonly tasks: readonly ReviewTask[];
  /** What it showed before it was changed. */
  readonly views: readonly Pick<Showing, 'start' | 'bundle'>[];
}

interface TrailRow {
  readonly id: string;
  readonly holder: string;
  readonly task: string | null;
  readonly revision: number;
  readonly view: number;
  readonly trail: unknown;
  readonly givenUp: boolean;
  readonly isFull: boolean;
  readonly begun: Date;
}

/** All that was done by a link. Each go is run again in the version, and with the frames, that it was done in: what is said of it is what came of it there. */
export async function resultsOf(who: Principal, piece: string, link: string): Promise<ReviewResults> {
  await memberAccess(who, piece, 'see links');
  const [found] = await rows<LinkRow>('SELECT start, bundle, tasks, views FROM links WHERE piece_id = $1 AND id = $2', [piece, link]);
  if (!found) throw new Refusal('not-found', 'There is no such link in this piece.');
  const { start, bundle, tasks, views } = found;
  const holders = await rows<{ id: string; name: string; came: Date }>(
    'SELECT id, name, created_at AS came FROM holders WHERE link_id = $1 ORDER BY created_at, id',
    [link]
  );
  const all = await rows<TrailRow>(
    `SELECT trails.id, holder_id AS holder, task, revision, view, trail, given_up AS "givenUp", is_full AS "isFull", trails.created_at AS begun
     FROM trails JOIN holders ON holders.id = holder_id WHERE link_id = $1 ORDER BY trails.created_at DESC, trails.id LIMIT $2`,
    [link, MOST.looked + 1]
  );
  const seenIn = ({ revision, view }: TrailRow) => `${revision} ${view}`;
  const versions = [...new Map(all.map((one) => [seenIn(one), one] as const)).entries()].slice(0, MOST.versions);
  const looked = all.slice(0, MOST.looked).filter((one) => versions.some(([seen]) => seen === seenIn(one)));
  const [total] = await rows<{ all: number }>('SELECT count(*)::int AS all FROM trails JOIN holders ON holders.id = holder_id WHERE link_id = $1', [
    link,
  ]);
  const trails: ResultTrail[] = [];
  for (const [seen, { revision, view }] of versions) {
    const { document } = await shownPiece({ piece, revision, ...(views[view] ?? { bundle, start }) });
    const mine = looked.filter((one) => seenIn(one) === seen);
    const run = await heavy(
      'trails',
      { document, trails: mine.map(({ trail, task }) => ({ trail, goal: tasks.find(({ id }) => id === task)?.goal ?? null })) },
      'This piece'
    );
    mine.forEach(({ id, holder, task, givenUp, isFull, begun }, i) =>
      trails.push({ id, holder, task, givenUp, isFull, begun: begun.toISOString(), ...run[i]! })
    );
  }
  return {
    holders: holders.map((one) => ({ ...one, came: one.came.toISOString() })),
    trails: trails.sort((a, b) => (a.begun < b.begun ? -1 : a.begun > b.begun ? 1 : a.id < b.id ? -1 : 1)),
    leftOut: total!.all - looked.length,
  };
}
