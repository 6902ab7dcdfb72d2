import type { FollowedText } from '$lib/shared/types';
import { database } from '../database';
import { log } from '../log';
import { keptDocument } from './keeping';
import { packLog } from './packing';

/** Snapshots are taken beside saving, when so many revisions and so much of a piece have come since the last. */
const EVERY = { revisions: 100, most: 1000, share: 0.25 };

interface Since {
  revisions: number;
  signs: number;
  /** Signs of the last snapshot. */
  size: number;
  taking: boolean;
}

const since = new Map<string, Since>();

/** Takes note of what was saved, and takes a snapshot when it is time. */
export function snapshotLater(piece: string, revision: number, news: readonly FollowedText[]): void {
  const count = since.get(piece) ?? { revisions: revision % EVERY.revisions, signs: 0, size: 0, taking: false };
  since.delete(piece);
  since.set(piece, count);
  for (const oldest of since.keys()) if (since.size > 2000) since.delete(oldest);
  count.revisions += news.length;
  for (const { operations } of news) count.signs += operations.length;
  const isTime = count.revisions >= EVERY.revisions && (count.signs >= count.size * EVERY.share || count.revisions >= EVERY.most);
  if (isTime && !count.taking) void take(piece, revision, count);
}

async function take(piece: string, revision: number, count: Since): Promise<void> {
  count.taking = true;
  try {
    const kept = await keptDocument(piece);
    if (!kept) return;
    const { document } = kept;
    await database().query('INSERT INTO snapshots (piece_id, revision, body) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', {
      bind: [piece, kept.revision, document],
    });
    Object.assign(count, { revisions: 0, signs: 0, size: document.length });
    await packLog(piece, revision);
  } catch (error) {
    // Nothing hangs on one snapshot: the log is there, and the next one will be taken.
    log.warn({ err: error, piece, revision }, 'could not take a snapshot');
  } finally {
    count.taking = false;
  }
}
