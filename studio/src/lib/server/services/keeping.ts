import type { Transaction } from 'sequelize';
import { rows } from '../database';
import { Refusal } from '../refusal';
import { pools, timeOf } from '../work';
import { WorkerLost, type Thread } from '../work/pool';
import type { Applied, ApplyTask, At } from '../work/tasks';
import { unpackedLog } from './packing';

/** Which worker keeps a piece, and at which revisions. Only ever a shortcut: the database says what is true. */
interface Held {
  readonly thread: Thread;
  readonly settled: number;
  /** What was applied last; to be relied on once it is saved. */
  readonly applied: { readonly revision: number; readonly isSaved: boolean } | null;
}

const held = new Map<string, Held>();
/** Pieces that it is known of where they are kept. */
const MOST_HELD = 2000;

/** Beyond this many revisions a snapshot is read instead of the log. */
const MOST_LOG = 400;

/** Applies batches to a piece at a revision. Nothing counts until `noteSaved` says that it has been saved. */
export async function applyTo(
  piece: string,
  revision: number,
  task: Pick<ApplyTask, 'batches' | 'refused'>,
  transaction: Transaction
): Promise<Applied> {
  return onPiece(piece, revision, transaction, async (thread, at) => {
    const applied = await thread.run('apply', { ...at, ...task }, timeOf('apply'));
    hold(piece, { thread, settled: revision, applied: { revision: applied.revision, isSaved: false } });
    return applied;
  });
}

/** What was applied last to a piece is saved now. */
export function noteSaved(piece: string, revision: number): void {
  const known = held.get(piece);
  if (known?.applied?.revision === revision) hold(piece, { ...known, applied: { revision, isSaved: true } });
}

/** The document of a piece at a revision, as text. */
export const documentAt = (piece: string, revision: number, transaction: Transaction | null = null): Promise<string> =>
  onPiece(piece, revision, transaction, async (thread, at) => {
    const text = await thread.run('document', at, timeOf('document'));
    const known = held.get(piece);
    const isSame = known?.thread === thread && at.from === 'settled' && at.log.length === 0;
    hold(piece, { thread, settled: revision, applied: isSame ? known.applied : null });
    return text;
  });

/** The document of a piece as it was last saved here, without looking further; null where no worker keeps it. */
export async function keptDocument(piece: string): Promise<{ revision: number; document: string } | null> {
  const known = held.get(piece);
  const revision = known?.applied?.isSaved ? known.applied.revision : known?.settled;
  return revision === undefined ? null : { revision, document: await documentAt(piece, revision) };
}

function hold(piece: string, what: Held): void {
  held.delete(piece);
  held.set(piece, what);
  for (const oldest of held.keys()) if (held.size > MOST_HELD) held.delete(oldest);
}

async function onPiece<T>(
  piece: string,
  revision: number,
  transaction: Transaction | null,
  work: (thread: Thread, at: At) => Promise<T>
): Promise<T> {
  const pool = pools().pieces;
  const thread = await pool.acquire(held.get(piece)?.thread ?? null);
  try {
    const source = await sourceFor(thread, piece, revision, transaction);
    try {
      return await work(thread, { piece, revision, ...source });
    } catch (error) {
      held.delete(piece);
      if (error instanceof WorkerLost || typeof source.from !== 'string') throw error;
      // The worker has let go of it to make room.
      return await work(thread, { piece, revision, ...(await fromSnapshot(piece, revision, transaction)) });
    }
  } catch (error) {
    if (error instanceof WorkerLost) throw new Refusal('too-heavy', `This cannot be worked out: ${error.message}.`);
    throw error;
  } finally {
    pool.release(thread);
  }
}

type Source = Pick<At, 'from' | 'log'>;

async function sourceFor(thread: Thread, piece: string, revision: number, transaction: Transaction | null): Promise<Source> {
  const known = held.get(piece);
  if (known?.thread !== thread) return fromSnapshot(piece, revision, transaction);
  const { settled, applied } = known;
  const [from, at] = applied?.isSaved && applied.revision <= revision ? (['applied', applied.revision] as const) : (['settled', settled] as const);
  if (at === revision) return { from, log: [] };
  const log = at < revision && revision - at <= MOST_LOG ? await logOf(piece, at, revision, transaction) : null;
  return log ? { from, log } : fromSnapshot(piece, revision, transaction);
}

/** The newest snapshot and the log after it. */
async function fromSnapshot(piece: string, revision: number, transaction: Transaction | null): Promise<Source> {
  const [snapshot] = await rows<{ revision: number; document: string }>(
    'SELECT revision, body::text AS document FROM snapshots WHERE piece_id = $1 AND revision <= $2 ORDER BY revision DESC LIMIT 1',
    [piece, revision],
    transaction ?? undefined
  );
  if (!snapshot) throw new Error(`piece ${piece} has no snapshot`);
  return { from: snapshot, log: await logOf(piece, snapshot.revision, revision, transaction) };
}

/** The operations of revisions after one, up to another, each as JSON. */
async function logOf(piece: string, after: number, upTo: number, transaction: Transaction | null): Promise<string[]> {
  if (after === upTo) return [];
  const found = await rows<{ operations: string | null }>(
    'SELECT operations::text AS operations FROM batches WHERE piece_id = $1 AND revision > $2 AND revision <= $3 ORDER BY revision',
    [piece, after, upTo],
    transaction ?? undefined
  );
  if (found.length !== upTo - after) throw new Error(`piece ${piece} has ${found.length} of ${upTo - after} revisions after ${after}`);
  return found.some(({ operations }) => operations === null)
    ? unpackedLog(piece, after, upTo, transaction)
    : found.map(({ operations }) => operations!);
}
