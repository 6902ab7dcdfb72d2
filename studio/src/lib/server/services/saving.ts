import type { Transaction } from 'sequelize';
import type { Fault } from '@zany/core';
import type { Deed } from '$lib/shared/rights';
import type { BatchResult, FollowedText, Person, Role } from '$lib/shared/types';
import { database, rows } from '../database';
import { SERVER, tell } from '../listen';
import { isPerson, type Principal } from '../principal';
import { Refusal } from '../refusal';
import type { SentBatch } from '../work/tasks';
import { linkAssets } from './assets';
import { cardLater } from './cards';
import { feeds } from './feeds';
import { applyTo, noteSaved } from './keeping';
import { roleFault, signedOut } from './rights';
import { snapshotLater } from './snapshots';

/** What one request wants to have saved, and how far it has come. */
interface Request {
  readonly person: Person;
  /** What he has to be let to do. */
  readonly deed: Deed;
  readonly batches: readonly SentBatch[];
  readonly results: BatchResult[];
  readonly resolve: (results: BatchResult[]) => void;
  readonly reject: (error: unknown) => void;
}

/** A part of a request that is saved together with parts of others. */
interface Share {
  readonly request: Request;
  readonly batches: SentBatch[];
}

/**
 * What waits for one piece is saved together, up to this much: some tens of milliseconds of work, so that nobody waits long
 * for somebody else who sends a lot.
 */
const MOST_TOGETHER = { batches: 400, signs: 80_000 };

const SMALL = 5000;

const lines = new Map<string, Request[]>();

/**
 * Saves batches, each with a revision of its own. All that waits for a piece, whoever sent it, is judged and saved in one
 * transaction; each batch is still answered for by itself: one that was saved before gets the revision it got then, one
 * that cannot be applied the reason. `deed` is what they are part of, where that is not to edit.
 */
export function saveBatches(who: Principal, piece: string, batches: readonly SentBatch[], deed: Deed = 'edit'): Promise<BatchResult[]> {
  if (!isPerson(who)) return Promise.reject(signedOut());
  return new Promise((resolve, reject) => {
    const request: Request = { person: who, deed, batches, results: [], resolve, reject };
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
    const shares = takeSome(line);
    try {
      await saveTogether(piece, line, shares);
    } catch (error) {
      // One that is too heavy must not take the others along: each is tried by itself.
      for (const share of shares)
        await (shares.length > 1 ? saveTogether(piece, line, [share]) : Promise.reject(error)).catch((alone: unknown) =>
          leave(line, share.request, alone)
        );
    }
  }
  lines.delete(piece);
}

function leave(line: Request[], request: Request, error: unknown): void {
  line.splice(line.indexOf(request), 1);
  request.reject(error);
}

/** A batch from each request in turn, as much as is saved together; the first one in any case. */
function takeSome(line: readonly Request[]): Share[] {
  const shares = line.map((request): Share => ({ request, batches: [] }));
  let [batches, signs] = [0, 0];
  for (let round = 0, more = true; more; round++) {
    more = false;
    for (const { request, batches: taken } of shares) {
      const next = request.batches[request.results.length + round];
      if (!next || taken.length < round) continue;
      // A small edit never waits for somebody's many large ones.
      const isSmall = round === 0 && next.operations.length < SMALL;
      if (batches > 0 && !isSmall && (batches >= MOST_TOGETHER.batches || signs + next.operations.length > MOST_TOGETHER.signs)) continue;
      taken.push(next);
      batches++;
      signs += next.operations.length;
      more = true;
    }
  }
  return shares.filter((share) => share.batches.length > 0);
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

async function saveTogether(piece: string, line: Request[], shares: readonly Share[]): Promise<void> {
  const answers = new Map<Share, BatchResult[] | Refusal>();
  const saved = await database().transaction((transaction) => saveIn(transaction, piece, shares, answers));
  if (saved.news.length) {
    noteSaved(piece, saved.revision);
    feeds.deliver(piece, saved.news);
    snapshotLater(piece, saved.revision, saved.news);
    cardLater(piece, saved.revision);
  }
  for (const share of shares) {
    const [{ request }, answer] = [share, answers.get(share)!];
    if (answer instanceof Refusal) {
      leave(line, request, answer);
      continue;
    }
    request.results.push(...answer);
    if (request.results.length < request.batches.length) continue;
    line.splice(line.indexOf(request), 1);
    request.resolve(request.results);
  }
}

async function saveIn(
  transaction: Transaction,
  piece: string,
  shares: readonly Share[],
  answers: Map<Share, BatchResult[] | Refusal>
): Promise<Saved> {
  const standing = await standingOf(transaction, piece, shares);
  const allowed = shares.filter((share) => {
    const refused = roleFault(standing && !standing.deleted ? standing.roles?.[share.request.person.id] : undefined, share.request.deed);
    if (refused) answers.set(share, refused);
    return !refused;
  });
  if (!standing || allowed.length === 0) return { revision: standing?.revision ?? 0, news: [] };
  const known = new Map(Object.entries(standing.known ?? {}));
  const isNew = new Set<string>();
  const fresh = allowed.flatMap(({ request: { person }, batches }) =>
    batches.flatMap((batch) => {
      if (known.has(batch.id) || isNew.has(batch.id)) return [];
      isNew.add(batch.id);
      return [{ person, batch }];
    })
  );
  const { results, news, revision, name } = await applyAll(transaction, piece, standing.revision, fresh);
  if (news.length) await keep(transaction, piece, revision, name, news);
  for (const share of allowed)
    answers.set(
      share,
      share.batches.map(({ id }) => (known.has(id) ? { id, revision: known.get(id)! } : results.get(id)!))
    );
  return { revision, news };
}

/** Locks the piece, and says all there is to know about it and those who ask. */
async function standingOf(transaction: Transaction, piece: string, shares: readonly Share[]): Promise<Standing | null> {
  const people = [...new Set(shares.map(({ request }) => request.person.id))];
  const ids = shares.flatMap(({ batches }) => batches.map(({ id }) => id));
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
    `WITH sent AS MATERIALIZED (
       SELECT r, i, p, n, o::jsonb AS o FROM unnest($2::int[], $3::text[], $4::text[], $5::text[], $6::text[]) AS t (r, i, p, n, o)
     )
     INSERT INTO batches (piece_id, revision, id, person_id, name, operations, size, created_at)
     SELECT $1, r, i, p, n, o, jsonb_array_length(o), now() FROM sent`,
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
