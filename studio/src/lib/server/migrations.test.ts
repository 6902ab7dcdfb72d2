import { afterAll, beforeAll, expect, test } from 'vitest';
import { apply, migrated, pieceFromTrusted, pieceToJson, unwrap, type Operation, type PieceJson } from '@zany/core';
import { build } from '@zany/core/testing';
import { database, rows } from './database';
import { newId } from './ids';
import { up } from './migrations/0002-format-2';
import { closeWorld, openWorld } from './testing/world';

beforeAll(openWorld);
afterAll(closeWorld);

/** A document as it was written in format 1, where braces in a text were only braces. */
const inFormat1 = (): PieceJson => {
  const json = JSON.parse(
    JSON.stringify(pieceToJson(build({ home: { layers: { a: { text: 'Seats {7}' }, b: {} } }, pay: { layers: { c: {} } } })))
  ) as PieceJson;
  const { variables: _none, ...rest } = json;
  return { ...rest, format: 'zany-thread/1' } as unknown as PieceJson;
};

test('format 2: the newest snapshot and the log after it, brought up to date; nothing older is taken away, and doing it twice changes nothing', async () => {
  const id = newId();
  const old = inFormat1();
  const log: Operation[][] = [
    [{ op: 'set', table: 'layers', id: 'a', path: ['looks'], value: { hover: { text: 'Hover {x}' } } }],
    [{ op: 'remove', table: 'scenes', id: 'pay' }],
    [{ op: 'set', table: 'piece', id: 'piece', path: ['name'], value: 'Renamed' }],
  ];
  await database().query(`INSERT INTO pieces (id, name, revision, created_at, updated_at) VALUES ($1, 'Old', 13, now(), now())`, { bind: [id] });
  for (const revision of [0, 10])
    await database().query('INSERT INTO snapshots (piece_id, revision, body) VALUES ($1, $2, $3)', { bind: [id, revision, JSON.stringify(old)] });
  for (const [i, operations] of log.entries())
    await database().query(
      `INSERT INTO batches (piece_id, revision, id, person_id, name, operations, created_at) VALUES ($1, $2, $3, 'p', 'Edit', $4, now())`,
      { bind: [id, 11 + i, `b${i}`, JSON.stringify(operations)] }
    );
  const run = () => database().transaction((transaction) => up(database().getQueryInterface(), transaction));
  await run();
  const snapshots = await rows<{ revision: number; body: PieceJson }>('SELECT revision, body FROM snapshots WHERE piece_id = $1 ORDER BY revision', [
    id,
  ]);
  expect(snapshots.map(({ revision }) => revision)).toEqual([0, 10, 13]);
  let piece = pieceFromTrusted(old);
  for (const operations of log) piece = unwrap(apply(piece, operations)).piece;
  const wanted = migrated({ ...pieceToJson(piece), format: 'zany-thread/1' })!;
  // What that migration wrote was format 2, whatever has been added since.
  expect(snapshots[2]!.body).toEqual(JSON.parse(JSON.stringify({ ...wanted, format: 'zany-thread/2' })));
  expect(snapshots[2]!.body.layers['a']!.text).toBe('Seats \\{7}');
  await run();
  const again = await rows<{ body: PieceJson }>('SELECT body FROM snapshots WHERE piece_id = $1 AND revision = 13', [id]);
  expect(again[0]!.body).toEqual(snapshots[2]!.body);
});
