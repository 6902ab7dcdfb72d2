import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import { apply, operationsToward, pieceFromTrusted, pieceToJson, unwrap, type PieceJson } from '@zany/core';
import type { Person } from '$lib/shared/types';
import { database } from '../database';
import { batch, closeWorld, layer, makeMember, move, newPerson, newPiece, openWorld } from '../testing/world';
import { openPiece } from './pieces';
import { saveBatches } from './saving';
import { editsOf, nameVersion, unnameVersion, versionAt, versionsOf } from './versions';

let owner: Person;
let piece: string;
let frame: string;

beforeAll(openWorld);
afterAll(closeWorld);
beforeEach(async () => {
  owner = await newPerson('Ina Rask');
  ({ id: piece, frame } = await newPiece(owner));
});

/** Makes edits, the last of them so many minutes ago. */
async function edits(minutesAgo: number, ...names: string[]): Promise<void> {
  for (const name of names) {
    const [saved] = await saveBatches(owner, piece, [batch([layer(name, frame)], undefined, `Draw ${name}`)]);
    await database().query(
      `UPDATE batches SET created_at = timestamptz '2026-05-04 10:50Z' - $3 * interval '1 minute' WHERE piece_id = $1 AND revision = $2`,
      {
        bind: [piece, (saved as { revision: number }).revision, minutesAgo],
      }
    );
  }
}

const listed = async (who = owner) => (await versionsOf(who, piece)).versions;
const documentAt = async (revision: number) => (JSON.parse(await versionAt(owner, piece, revision)) as { piece: PieceJson }).piece;

test('a version is listed for each rest, for the latest and for the beginning, with what was done last and how much', async () => {
  await edits(45, 'a', 'b');
  await edits(20, 'c');
  await edits(15, 'd', 'e');
  expect((await listed()).map(({ revision, last, by, edits: count }) => [revision, last, by, count])).toEqual([
    [5, 'Draw e', 'Ina Rask', 3],
    [2, 'Draw b', 'Ina Rask', 2],
    [0, null, null, 0],
  ]);
});

test('long work without a rest has one for each hour, and one before an edit that replaces a lot', async () => {
  await edits(60, 'a');
  await edits(52, 'b');
  await edits(48, 'c');
  expect((await listed()).map(({ revision }) => revision)).toEqual([3, 2, 0]);
  const many = Array.from({ length: 120 }, (_, i) => layer(`l${i}`, frame));
  await saveBatches(owner, piece, [batch(many, undefined, 'Bring in 120 pages'), batch([move('l1', 4)])]);
  const [latest, before] = await listed();
  expect([latest!.revision, latest!.before]).toEqual([5, null]);
  expect([before!.revision, before!.before]).toEqual([3, 'Bring in 120 pages']);
});

test('a name is kept with a version, changed and taken away; what has none can be given one', async () => {
  await edits(30, 'a', 'b', 'c');
  await nameVersion(owner, piece, 2, 'For Friday');
  expect((await listed()).find(({ revision }) => revision === 2)).toMatchObject({ name: 'For Friday', keptBy: 'Ina Rask', last: 'Draw b' });
  const editor = await newPerson('Liv Moe');
  await makeMember(piece, editor, 'editor');
  await nameVersion(editor, piece, 2, 'For Monday');
  expect((await listed(editor)).find(({ revision }) => revision === 2)).toMatchObject({ name: 'For Monday', keptBy: 'Liv Moe' });
  await unnameVersion(owner, piece, 2);
  expect((await listed()).map(({ revision }) => revision)).toEqual([3, 0]);
  await expect(nameVersion(owner, piece, 4, 'Not there yet')).rejects.toThrow('no such version');
});

test('every revision can be read, with the edits that led to it', async () => {
  await edits(30, 'a', 'b', 'c');
  expect(Object.keys((await documentAt(0)).layers)).toEqual([]);
  expect(Object.keys((await documentAt(2)).layers).sort()).toEqual(['a', 'b']);
  await expect(versionAt(owner, piece, 9)).rejects.toThrow('no such version');
  expect((await editsOf(owner, piece, 1, 3)).map(({ revision, name, by }) => [revision, name, by])).toEqual([
    [3, 'Draw c', 'Ina Rask'],
    [2, 'Draw b', 'Ina Rask'],
  ]);
});

test('restoring is one more edit: what came after the version can be read and restored as well', async () => {
  await edits(30, 'a', 'b', 'c');
  const [then, now] = [pieceFromTrusted(await documentAt(1)), pieceFromTrusted(await documentAt(3))];
  await saveBatches(owner, piece, [batch(operationsToward(now, then), undefined, 'Restore')]);
  const restored = JSON.parse(await openPiece(owner, piece)) as { piece: PieceJson; revision: number };
  expect(restored.revision).toBe(4);
  expect(restored.piece).toEqual(pieceToJson(then));
  expect(await documentAt(3)).toEqual(pieceToJson(now));
  expect(pieceToJson(unwrap(apply(then, operationsToward(then, now))).piece)).toEqual(pieceToJson(now));
});

test('who is no member sees nothing of it; a reviewer sees it and names nothing', async () => {
  await edits(30, 'a');
  const [stranger, reviewer] = [await newPerson('Nobody'), await newPerson('Odd Vik')];
  await makeMember(piece, reviewer, 'reviewer');
  expect((await listed(reviewer)).map(({ revision }) => revision)).toEqual([1, 0]);
  await expect(nameVersion(reviewer, piece, 1, 'Mine')).rejects.toThrow();
  for (const ask of [() => versionsOf(stranger, piece), () => versionAt(stranger, piece, 0), () => editsOf(stranger, piece, 0, 1)])
    await expect(ask()).rejects.toThrow('no such piece');
});
