import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import type { Transaction } from 'sequelize';
import { database, rows } from '../database';
import { log } from '../log';

/**
 * Long logs are packed away in stretches: the operations of old revisions stand compressed together, the batches themselves
 * (who, when, called what) stay. A snapshot at the end of each stretch stays too, so that every old version can be
 * read: at once at those, and in between by unpacking one stretch.
 */
const STRETCH = 1000;
/** The newest revisions are left as they are: followers and windows that come back ask for them. */
const LEFT_OPEN = 3000;

/** What is being packed at present, by piece. */
const packing = new Map<string, Promise<void>>();

/** Packs away what is old enough, one stretch after the other; where it is at it already, after that. */
export async function packLog(piece: string, revision: number): Promise<void> {
  if (revision < LEFT_OPEN + STRETCH) return;
  const before = packing.get(piece);
  const all = (async () => {
    await before;
    try {
      while (await packStretch(piece, revision - LEFT_OPEN));
    } catch (error) {
      log.warn({ err: error, piece }, 'could not pack an old log away');
    }
  })();
  packing.set(piece, all);
  await all;
  if (packing.get(piece) === all) packing.delete(piece);
}

/** Packs the oldest open stretch that ends at a snapshot; false where there is none. */
async function packStretch(piece: string, upTo: number): Promise<boolean> {
  return database().transaction(async (transaction) => {
    const [open] = await rows<{ first: number | null }>(
      'SELECT min(revision) AS first FROM batches WHERE piece_id = $1 AND operations IS NOT NULL',
      [piece],
      transaction
    );
    const first = open?.first ?? null;
    if (first === null || first + STRETCH - 1 > upTo) return false;
    const [end] = await rows<{ last: number }>(
      'SELECT revision AS last FROM snapshots WHERE piece_id = $1 AND revision BETWEEN $2 AND $3 ORDER BY revision LIMIT 1',
      [piece, first + STRETCH - 1, upTo],
      transaction
    );
    if (!end) return false;
    const batches = await rows<{ operations: string }>(
      'SELECT operations::text AS operations FROM batches WHERE piece_id = $1 AND revision BETWEEN $2 AND $3 AND operations IS NOT NULL ORDER BY revision',
      [piece, first, end.last],
      transaction
    );
    if (batches.length !== end.last - first + 1) throw new Error(`revisions ${first} to ${end.last} are not all there`);
    const body = await promisify(gzip)(`[${batches.map(({ operations }) => operations).join(',\n')}]`);
    const bind = [piece, first, end.last];
    await database().query('INSERT INTO packed_logs (piece_id, first, last, body) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING', {
      bind: [...bind, body],
      transaction,
    });
    await database().query('UPDATE batches SET operations = NULL WHERE piece_id = $1 AND revision BETWEEN $2 AND $3', { bind, transaction });
    // Of the snapshots inside the stretch its last one is enough.
    await database().query('DELETE FROM snapshots WHERE piece_id = $1 AND revision > $2 AND revision < $3', { bind, transaction });
    return true;
  });
}

/** The operations of revisions after one, up to another, each as JSON, some of which are packed away. */
export async function unpackedLog(piece: string, after: number, upTo: number, transaction: Transaction | null): Promise<string[]> {
  const bind = [piece, after, upTo];
  const packed = await rows<{ first: number; body: Buffer }>(
    'SELECT first, body FROM packed_logs WHERE piece_id = $1 AND last > $2 AND first <= $3 ORDER BY first',
    bind,
    transaction ?? undefined
  );
  const open = await rows<{ revision: number; operations: string }>(
    'SELECT revision, operations::text AS operations FROM batches WHERE piece_id = $1 AND revision > $2 AND revision <= $3 AND operations IS NOT NULL',
    bind,
    transaction ?? undefined
  );
  const found = new Map(open.map(({ revision, operations }) => [revision, operations]));
  for (const { first, body } of packed) {
    const lists = JSON.parse((await promisify(gunzip)(body)).toString()) as unknown[];
    lists.forEach((list, i) => found.set(first + i, JSON.stringify(list)));
  }
  return Array.from({ length: upTo - after }, (_, i) => {
    const operations = found.get(after + 1 + i);
    if (operations === undefined) throw new Error(`piece ${piece} has no operations at revision ${after + 1 + i}`);
    return operations;
  });
}
