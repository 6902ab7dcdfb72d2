import type { Person, WalkedBranch, WalkedByOther } from '$lib/shared/types';
import { database, rows } from '../database';
import { access } from './rights';

/** What a person has walked of a piece. */
export async function walkedBy(person: Person | null, piece: string): Promise<WalkedBranch[]> {
  await access(person, piece, 'reviewer');
  return rows<WalkedBranch>('SELECT thread, branch, line, verdict, note FROM walked WHERE piece_id = $1 AND person_id = $2', [piece, person!.id]);
}

/** What all others have walked of it, by name. */
export async function walkedByOthers(person: Person | null, piece: string): Promise<WalkedByOther[]> {
  await access(person, piece, 'reviewer');
  return rows<WalkedByOther>(
    `SELECT thread, branch, line, verdict, note, people.name AS by FROM walked JOIN people ON people.id = person_id
     WHERE piece_id = $1 AND person_id <> $2 ORDER BY people.name, person_id, thread, branch`,
    [piece, person!.id]
  );
}

/** Notes what a person has walked; a branch walked before counts with what its thread says now, and with what is said of it now. */
export async function noteWalked(person: Person | null, piece: string, walked: readonly WalkedBranch[]): Promise<void> {
  await access(person, piece, 'reviewer');
  const newest = [...new Map(walked.map((one) => [`${one.thread}/${one.branch}`, one])).values()];
  await database().query(
    `INSERT INTO walked (piece_id, person_id, thread, branch, line, verdict, note)
     SELECT $1, $2, * FROM unnest($3::text[], $4::int[], $5::text[], $6::text[], $7::text[])
     ON CONFLICT (piece_id, person_id, thread, branch)
     DO UPDATE SET line = excluded.line, verdict = excluded.verdict, note = excluded.note, walked_at = now()`,
    { bind: [piece, person!.id, ...(['thread', 'branch', 'line', 'verdict', 'note'] as const).map((key) => newest.map((one) => one[key]))] }
  );
}

/** Forgets what a person has walked: the walk begins anew. */
export async function forgetWalked(person: Person | null, piece: string): Promise<void> {
  await access(person, piece, 'reviewer');
  await database().query('DELETE FROM walked WHERE piece_id = $1 AND person_id = $2', { bind: [piece, person!.id] });
}
