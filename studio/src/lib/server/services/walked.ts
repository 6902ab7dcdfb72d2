import type { Person, WalkedBranch } from '$lib/shared/types';
import { database, rows } from '../database';
import { access } from './rights';

/** What a person has walked of a piece. */
export async function walkedBy(person: Person | null, piece: string): Promise<WalkedBranch[]> {
  await access(person, piece, 'reviewer');
  return rows<WalkedBranch>('SELECT thread, branch, line FROM walked WHERE piece_id = $1 AND person_id = $2', [piece, person!.id]);
}

/** Notes what a person has walked; a branch walked before counts with what its thread says now. */
export async function noteWalked(person: Person | null, piece: string, walked: readonly WalkedBranch[]): Promise<void> {
  await access(person, piece, 'reviewer');
  const newest = [...new Map(walked.map((one) => [`${one.thread}/${one.branch}`, one])).values()];
  await database().query(
    `INSERT INTO walked (piece_id, person_id, thread, branch, line)
     SELECT $1, $2, t, b, l FROM unnest($3::text[], $4::int[], $5::text[]) AS new (t, b, l)
     ON CONFLICT (piece_id, person_id, thread, branch) DO UPDATE SET line = excluded.line, walked_at = now()`,
    { bind: [piece, person!.id, newest.map(({ thread }) => thread), newest.map(({ branch }) => branch), newest.map(({ line }) => line)] }
  );
}

/** Forgets what a person has walked: the walk begins anew. */
export async function forgetWalked(person: Person | null, piece: string): Promise<void> {
  await access(person, piece, 'reviewer');
  await database().query('DELETE FROM walked WHERE piece_id = $1 AND person_id = $2', { bind: [piece, person!.id] });
}
