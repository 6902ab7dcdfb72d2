import type { Transaction } from 'sequelize';
import type { Fault } from '@zany/core';
import type { BatchResult, FollowedText, Person, Role } from '$lib/shared/types';
import { database, rows } from '../database';
import { SERVER, tell } from '../listen';
import { Refusal } from '../refusal';
import type { SentBatch } from '../work/tasks';
import { linkAssets } from './assets';
import { cardLater } from './cards';
import { feeds } from './feeds';
import { applyTo, noteSaved } from './keeping';
import { roleFault, signedOut } from './rights';
import { snapshotLater } from './snapshots';

/** What one request wants to have saved. */
interface Request {
  readonly person: Person;
  readonly batches: readonly SentBatch[];
  readonly resolve: (results: BatchResult[]) => void;
  readonly reject: (error: unknown) => void;
}

/** What waits for one piece is saved together; more than this begins another time. */
const MOST_TOGETHER = { batches: 400, signs: 4_000_000 };

const lines = new Map<string, Request[]>();

/**
 * Saves batches, each with a revision of its own. All that waits for a piece, whoever sent it, is judged and saved in one
 * transaction; each batch is still answered for by itself: one that was saved before gets the revision it got then, one
 * that cannot be applied the reason.
 */
export function saveBatches(person: Person | null, piece: string, batches: readonly SentBatch[]): Promise<BatchResult[]> {
  if (!person) return Promise.reject(signedOut());
  return new Promise((resolve, reject) => {
    const request = { person, batches, resolve, reject };
    const line = lines.get(piece);
    if (line) line.push(request);
    else {
      lines.set(piece, [request]);
      void work(piece);
    }
  });
}

async function work(piece: string): Promise<void> {
  const line = lines.get(piece)!;
  while (line.length) {
    const taken = takeSome(line);
    try {
      await saveTogether(piece, taken);
    } catch (error) {
      // One that is too heavy must not take the others along: each is tried by itself.
      if (taken.length > 1) for (const request of taken) await saveTogether(piece, [request]).catch(request.reject);
      else taken[0]!.reject(error);
    }
  }
  lines.delete(piece);
}

function takeSome(line: Request[]): Request[] {
  let [batches, signs, count] = [0, 0, 0];
  for (const request of line) {
    batches += request.batches.length;
    for (const { operations } of request.batches) signs += operations.length;
    if (count > 0 && (batches > MOST_TOGETHER.batches || signs > MOST_TOGETHER.signs)) break;
    count++;
  }
  return line.splice(0, count);
}

interface Standing {
  readonly revision: number;
  readonly deleted: boolean;
  readonly roles: Readonly<Record<string, Role>> | null;
  readonly known: Readonly<Record<string, number>> | null;
}

interface Saved {
  readonly revision: number;
  readonly news: readonly FollowedText[];
}

async function saveTogether(piece: string, requests: readonly Request[]): Promise<void> {
  const answers = new Map<Request, BatchResult[] | Refusal>();
  const saved = await database().transaction((transaction) => saveIn(transaction, piece, requests, answers));
  if (saved.news.length) {
    noteSaved(piece, saved.revision);
    feeds.deliver(piece, saved.news);
    snapshotLater(piece, saved.revision, saved.news);
    cardLater(piece, saved.revision);
  }
  for (const request of requests) {
    const answer = answers.get(request)!;
    if (answer instanceof Refusal) request.reject(answer);
    else request.resolve(answer);
  }
}

async function saveIn(
  transaction: Transaction,
  piece: string,
  requests: readonly Request[],
  answers: Map<Request, BatchResult[] | Refusal>
): Promise<Saved> {
  const standing = await standingOf(transaction, piece, requests);
  const allowed = requests.filter((request) => {
    const refused = roleFault(standing && !standing.deleted ? standing.roles?.[request.person.id] : undefined, 'editor');
    if (refused) answers.set(request, refused);
    return !refused;
  });
  if (!standing || allowed.length === 0) return { revision: standing?.revision ?? 0, news: [] };
  const known = new Map(Object.entries(standing.known ?? {}));
  const isNew = new Set<string>();
  const fresh = allowed.flatMap(({ person, batches }) =>
    batches.flatMap((batch) => {
      if (known.has(batch.id) || isNew.has(batch.id)) return [];
      isNew.add(batch.id);
      return [{ person, batch }];
    })
  );
  const { results, news, revision, name } = await applyAll(transaction, piece, standing.revision, fresh);
  if (news.length) await keep(transaction, piece, revision, name, news);
  for (const request of allowed)
    answers.set(
      request,
      request.batches.map(({ id }) => (known.has(id) ? { id, revision: known.get(id)! } : results.get(id)!))
    );
  return { revision, news };
}

/** Locks the piece, and says all there is to know about it and those who ask. */
async function standingOf(transaction: Transaction, piece: string, requests: readonly Request[]): Promise<Standing | null> {
  const people = [...new Set(requests.map(({ person }) => person.id))];
  const ids = requests.flatMap(({ batches }) => batches.map(({ id }) => id));
  const [found] = await rows<Standing>(
    `SELECT revision, deleted_at IS NOT NULL AS deleted,
       (SELECT json_object_agg(person_id, role) FROM members WHERE piece_id = pieces.id AND person_id = ANY($2)) AS roles,
       (SELECT json_object_agg(batches.id, batches.revision) FROM batches WHERE piece_id = pieces.id AND batches.id = ANY($3)) AS known
     FROM pieces WHERE id = $1 FOR UPDATE`,
    [piece, people, ids],
    transaction
  );
  return found ?? null;
}

interface Fresh {
  readonly person: Person;
  readonly batch: SentBatch;
}

interface AllApplied {
  readonly results: ReadonlyMap<string, BatchResult>;
  readonly news: readonly FollowedText[];
  readonly revision: number;
  readonly name: string;
}

/** Applies batches in order. Those that put pictures which their person cannot have are refused, and the rest is applied anew. */
async function applyAll(transaction: Transaction, piece: string, revision: number, fresh: readonly Fresh[]): Promise<AllApplied> {
  const batches = fresh.map(({ batch }) => batch);
  let refused: Record<string, Fault> = {};
  for (;;) {
    const applied = batches.length ? await applyTo(piece, revision, { batches, refused }, transaction) : { results: [], revision, name: '' };
    const wanted = fresh.flatMap(({ person, batch }, i) => {
      const result = applied.results[i]!;
      return 'assets' in result && result.assets.length ? [{ person, batch: batch.id, assets: result.assets }] : [];
    });
    const missing = wanted.length ? await linkAssets(piece, wanted, transaction) : {};
    if (Object.keys(missing).length) {
      refused = { ...refused, ...missing };
      continue;
    }
    const results = new Map<string, BatchResult>();
    const news: FollowedText[] = [];
    fresh.forEach(({ person, batch }, i) => {
      const result = applied.results[i]!;
      if ('fault' in result) return void results.set(batch.id, { id: batch.id, fault: result.fault });
      const at = revision + news.length + 1;
      news.push({ revision: at, by: person.id, ...batch });
      results.set(batch.id, { id: batch.id, revision: at });
    });
    return { results, news, revision: applied.revision, name: applied.name };
  }
}

/** One statement for the log, one for the piece with the word to other servers. */
async function keep(transaction: Transaction, piece: string, revision: number, name: string, news: readonly FollowedText[]): Promise<void> {
  await database().query(
    `INSERT INTO batches (piece_id, revision, id, person_id, name, operations, created_at)
     SELECT $1, r, i, p, n, o::jsonb, now() FROM unnest($2::int[], $3::text[], $4::text[], $5::text[], $6::text[]) AS t (r, i, p, n, o)`,
    {
      bind: [
        piece,
        news.map((one) => one.revision),
        news.map((one) => one.id),
        news.map((one) => one.by),
        news.map((one) => one.name),
        news.map((one) => one.operations),
      ],
      transaction,
    }
  );
  await rows(
    'WITH changed AS (UPDATE pieces SET revision = $2, name = $3, updated_at = now() WHERE id = $1 RETURNING id) SELECT pg_notify($4, $5) FROM changed',
    [piece, revision, name, tell.channel, tell.text({ type: 'piece', piece, revision, from: SERVER })],
    transaction
  );
}
