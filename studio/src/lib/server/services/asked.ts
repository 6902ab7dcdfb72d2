import type { Operation } from '@zany/core';
import type { Person } from '$lib/shared/types';
import { rows } from '../database';
import { newId } from '../ids';
import { documentAt } from './keeping';
import { saveBatches } from './saving';

/**
 * What a loose end was made of and is resolved or deleted, is no loose end any more, whoever did that: reviewers may not change the piece
 * otherwise. It is one edit, seen by all who have the piece open.
 */
export async function endLooseEnds(piece: string, comments: readonly string[], by: Person): Promise<void> {
  const [found] = await rows<{ revision: number }>('SELECT revision FROM pieces WHERE id = $1 AND deleted_at IS NULL', [piece]);
  if (!found || comments.length === 0) return;
  const document = await documentAt(piece, found.revision);
  // The id of a comment stands nowhere else in a piece, so that most need not be read.
  const operations = comments
    .filter((id) => document.includes(`"${id}"`))
    .map((id): Operation => ({ op: 'set', table: 'piece', id: piece, path: ['asked', id] }));
  if (operations.length === 0) return;
  const batch = { id: newId(), name: 'What was asked for is answered', operations: JSON.stringify(operations) };
  await saveBatches(by, piece, [batch], 'comment');
}

/** The comments of the holder of a link that may be loose ends. */
export const saidByHolder = async (holder: string): Promise<string[]> =>
  (await rows<{ id: string }>('SELECT id FROM comments WHERE holder_id = $1 AND root IS NULL', [holder])).map(({ id }) => id);

/** Somebody in whose name a piece is changed where nobody of its members does it: an owner. */
export async function ownerOf(piece: string): Promise<Person | null> {
  const [found] = await rows<Person>(
    `SELECT people.id, people.name, people.email FROM members JOIN people ON people.id = person_id
     WHERE piece_id = $1 AND role = 'owner' ORDER BY people.id LIMIT 1`,
    [piece]
  );
  return found ?? null;
}
