import type { WalkedBranch, WalkedByOther } from '$lib/shared/types';
import { database, rows } from '../database';
import type { Principal } from '../principal';
import { memberAccess } from './rights';

/** What a person has walked of a piece. */
export async function walkedBy(who: Principal, piece: string): Promise<WalkedBranch[]> {
  const { person } = await memberAccess(who, piece, 'walk');
  return rows<WalkedBranch>('SELECT thread, branch, line, verdict, note FROM walked WHERE piece_id = $1 AND person_id = $2', [piece, person.id]);
}

/** What all others have walked of it, by name. */
export async function walkedByOthers(who: Principal, piece: string): Promise<WalkedByOther[]> {
  const { person } = await memberAccess(who, piece, 'walk');
  return rows<WalkedByOther>(
    `SELECT thread, branch, line, verdict, note, people.name AS by FROM walked JOIN people ON people.id = person_id
     WHERE piece_id = $1 AND person_id <> $2 ORDER BY people.name, person_id, thread, branch`,
    [piece, person.id]
  );
}

/** Notes what a person has walked; a branch walked before counts with what its thread says now, and with what is said of it now. */
export async function noteWalked(who: Principal, piece: string, walked: readonly WalkedBranch[]): Promise<void> {
  const { person } = await memberAccess(who, piece, 'walk');
  const newest = [...new Map(walked.map((one) => [`${one.thread}/${one.branch}`, one])).values()];
  await database().query(
    `INSERT INTO walked (piece_id, person_id, thread, branch, line, verdict, note)
     SELECT $1, $2, * FROM unnest($3::text[], $4::int[], $5::text[], $6::text[], $7::text[])
     ON CONFLICT (piece_id, person_id, thread, branch)
     DO UPDATE SET line = excluded.line, verdict = excluded.verdict, note = excluded.note, walked_at = now()`,
    { bind: [piece, person.id, ...(['thread', 'branch', 'line', 'verdict', 'note'] as const).map((key) => newest.map((one) => one[key]))] }
  );
}

/** Forgets what a person has walked: the walk begins anew. */
export async function forgetWalked(who: Principal, piece: string): Promise<void> {
  const { person } = await memberAccess(who, piece, 'walk');
  await database().query('DELETE FROM walked WHERE piece_id = $1 AND person_id = $2', { bind: [piece, person.id] });
}
