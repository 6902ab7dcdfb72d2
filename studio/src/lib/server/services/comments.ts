import type { Transaction } from 'sequelize';
import { commentWords } from '$lib/shared/comment-words';
import { spokenTo } from '$lib/shared/mentions';
import type { Comment, CommentPlace, CommentThread, Person } from '$lib/shared/types';
import { database, rows } from '../database';
import { newId } from '../ids';
import { announce } from '../listen';
import { sendLater } from '../mail';
import { isHolder, isPerson, type Holder, type Principal } from '../principal';
import { Refusal } from '../refusal';
import { endLooseEnds } from './asked';
import { happened } from './hooks';
import { access, linkAccess, memberAccess } from './rights';
import { shownFrames } from './shown';

/** Comments on one piece at most. */
const MOST = 5000;

export interface NewComment {
  /** The comment that it answers; null for one of its own. */
  readonly root: string | null;
  readonly place: CommentPlace | null;
  readonly body: string;
}

interface Row {
  readonly id: string;
  readonly root: string | null;
  readonly place: CommentPlace | null;
  readonly body: string;
  readonly person: string | null;
  readonly holder: string | null;
  readonly by: string;
  readonly made: Date;
  readonly changed: Date | null;
  readonly isResolved: boolean;
  readonly resolvedBy: string | null;
  readonly seen: Date | null;
}

export interface Commenting {
  readonly piece: string;
  /** The frames that are shown; null for all. */
  readonly frames: ReadonlySet<string> | null;
  readonly by: Person | Holder;
}

/** Where somebody comments, if he may: a member on a piece, the holder of a link on what that shows (where no piece is named). */
export async function commenting(who: Principal, piece: string | null): Promise<Commenting> {
  if (piece !== null) return { piece, frames: null, by: (await memberAccess(who, piece, 'comment')).person };
  const { holder } = await linkAccess(who, 'comment by a link');
  return { piece: holder.piece, frames: await shownFrames(who), by: holder };
}

const isBy = (who: Principal, { person, holder }: Pick<Row, 'person' | 'holder'>): boolean =>
  isPerson(who) ? person === who.id : isHolder(who) && holder === who.id;

const commentOf = (who: Principal, row: Row): Comment => ({
  id: row.id,
  by: row.by,
  isMine: isBy(who, row),
  isGuest: row.person === null,
  body: row.body,
  made: row.made.toISOString(),
  changed: row.changed?.toISOString() ?? null,
});

/** What places of comments did not say in former versions. */
const UNSAID = { thread: null, threadLine: null, size: null };

/** The names of those who can be spoken to: the members, for one of them. */
export async function namesAround(who: Principal, id: string): Promise<string[]> {
  const { piece } = await commenting(who, id);
  const found = await rows<{ name: string }>(
    'SELECT DISTINCT name FROM members JOIN people ON people.id = person_id WHERE piece_id = $1 ORDER BY name',
    [piece]
  );
  return found.map(({ name }) => name);
}

/** The comments on a piece, the oldest first; for the holder of a link those on the frames that it shows. */
export async function commentsOn(who: Principal, id: string | null): Promise<CommentThread[]> {
  const { piece, frames } = await commenting(who, id);
  const found = await rows<Row>(
    `SELECT comments.id, comments.root, place, body, comments.person_id AS person, holder_id AS holder, by_name AS by, created_at AS made, changed_at AS changed,
       resolved_at IS NOT NULL AS "isResolved", resolved_by AS "resolvedBy", comments_seen.at AS seen
     FROM comments LEFT JOIN comments_seen ON comments_seen.root = comments.id AND comments_seen.person_id = $2
     WHERE piece_id = $1 ORDER BY created_at, comments.id`,
    [piece, isPerson(who) ? who.id : '']
  );
  const answers = new Map<string, Row[]>();
  for (const row of found) if (row.root !== null) answers.set(row.root, [...(answers.get(row.root) ?? []), row]);
  return found
    .filter((row) => row.root === null && (frames === null || frames.has(row.place!.scene)))
    .map((row) => {
      const all = [row, ...(answers.get(row.id) ?? [])];
      return {
        ...commentOf(who, row),
        place: { ...UNSAID, ...row.place! },
        resolvedBy: row.isResolved ? (row.resolvedBy ?? '') : null,
        answers: all.slice(1).map((one) => commentOf(who, one)),
        isUnread: isPerson(who) && all.some((one) => !isBy(who, one) && (row.seen === null || one.made > row.seen)),
      };
    });
}

/** @param origin the address of the studio, for letters to members who are spoken to */
export async function addComment(
  who: Principal,
  id: string | null,
  { root, place, body }: NewComment,
  origin: string
): Promise<{ readonly id: string }> {
  const { piece, frames, by } = await commenting(who, id);
  const [count] = await rows<{ all: number }>('SELECT count(*)::int AS all FROM comments WHERE piece_id = $1', [piece]);
  if (count!.all >= MOST) throw new Refusal('too-large', `A piece has at most ${MOST} comments.`);
  const about = root === null ? place : (await rootOf(piece, root)).place;
  if (!about) throw new Refusal('bad-request', 'It is not said what the comment is about.', ['place']);
  if (frames && !frames.has(about.scene)) throw new Refusal('not-found', 'This frame is not shown by the link.');
  const made = newId();
  await database().query(
    'INSERT INTO comments (id, piece_id, root, place, body, person_id, holder_id, by_name) VALUES ($1, $2, $3, $4::jsonb, $5, $6, $7, $8)',
    {
      bind: [
        made,
        piece,
        root,
        root === null ? JSON.stringify(place) : null,
        body,
        isPerson(by) ? by.id : null,
        isPerson(by) ? null : by.id,
        by.name,
      ],
    }
  );
  // Who answers what was resolved opens it again.
  if (root !== null) await database().query('UPDATE comments SET resolved_at = NULL, resolved_by = NULL WHERE id = $1', { bind: [root] });
  await announce({ type: 'comments', piece });
  happened(piece, 'commented', { comment: made, root, by: by.name, body });
  await writeTo(piece, by, body, origin);
  return { id: made };
}

/** Members who are spoken to get a letter. */
async function writeTo(piece: string, by: Commenting['by'], body: string, origin: string): Promise<void> {
  if (!body.includes('@')) return;
  const members = await rows<{ id: string; name: string; email: string; piece: string }>(
    `SELECT people.id, people.name, email, pieces.name AS piece FROM members JOIN people ON people.id = person_id JOIN pieces ON pieces.id = piece_id
     WHERE piece_id = $1`,
    [piece]
  );
  const names = spokenTo(
    body,
    members.map(({ name }) => name)
  );
  for (const member of members)
    if (names.includes(member.name) && member.id !== by.id)
      sendLater({
        to: member.email,
        subject: `${by.name} speaks to you about “${member.piece}”`,
        text: ['Hello,', `${by.name} has said of “${member.piece}”:`, commentWords(body), `${origin}/p/${piece}/build`].join('\n\n'),
      });
}

async function rootOf(piece: string, id: string): Promise<{ readonly place: CommentPlace }> {
  const [found] = await rows<{ place: CommentPlace }>('SELECT place FROM comments WHERE piece_id = $1 AND id = $2 AND root IS NULL', [piece, id]);
  if (!found) throw new Refusal('not-found', 'The comment that you answer is gone.');
  return found;
}

/** Resolves or reopens a comment, or writes it anew, which only its author may. */
export async function changeComment(
  who: Principal,
  id: string,
  comment: string,
  { body, resolved }: { readonly body?: string; readonly resolved?: boolean }
) {
  const { piece } = await commenting(who, id);
  const row = await ownOrAny(piece, comment);
  if (body !== undefined) {
    if (!isBy(who, row)) throw new Refusal('not-allowed', 'Only who wrote a comment changes it.');
    await database().query('UPDATE comments SET body = $2, changed_at = now() WHERE id = $1', { bind: [comment, body] });
  }
  if (resolved !== undefined)
    await database().query('UPDATE comments SET resolved_at = CASE WHEN $2 THEN now() END, resolved_by = $3 WHERE id = $1 AND root IS NULL', {
      bind: [comment, resolved, resolved && isPerson(who) ? who.name : null],
    });
  if (resolved && isPerson(who)) await endLooseEnds(piece, [comment], who);
  await announce({ type: 'comments', piece });
}

async function ownOrAny(piece: string, comment: string): Promise<Pick<Row, 'person' | 'holder'>> {
  const [row] = await rows<Pick<Row, 'person' | 'holder'>>(
    'SELECT person_id AS person, holder_id AS holder FROM comments WHERE piece_id = $1 AND id = $2',
    [piece, comment]
  );
  if (!row) throw new Refusal('not-found', 'This comment is gone.');
  return row;
}

/** Deletes a comment: its author may, and an owner of the piece. Where it was answered its place and the answers stay. */
export async function deleteComment(who: Principal, id: string, comment: string): Promise<void> {
  const { piece } = await commenting(who, id);
  const row = await ownOrAny(piece, comment);
  if (!isBy(who, row)) await access(who, piece, 'delete');
  await database().transaction(async (transaction) => {
    const answered = await rows('SELECT 1 FROM comments WHERE root = $1 LIMIT 1', [comment], transaction);
    await database().query(
      answered.length ? `UPDATE comments SET body = '', changed_at = now() WHERE id = $1` : 'DELETE FROM comments WHERE id = $1',
      {
        bind: [comment],
        transaction,
      }
    );
  });
  if (isPerson(who)) await endLooseEnds(piece, [comment], who);
  await announce({ type: 'comments', piece });
}

/** Takes what somebody wrote by a link out of all comments, with the name; answers of others stay. */
export async function forgetWords(holder: string, transaction: Transaction): Promise<void> {
  await database().query(`UPDATE comments SET body = '', by_name = 'Somebody', changed_at = now() WHERE holder_id = $1`, {
    bind: [holder],
    transaction,
  });
}

/** Notes that somebody has seen comments, with all answers there are now. */
export async function noteSeen(who: Principal, id: string, roots: readonly string[]): Promise<void> {
  const { piece } = await commenting(who, id);
  if (!isPerson(who)) return;
  await database().query(
    `INSERT INTO comments_seen (person_id, root) SELECT $1, id FROM comments WHERE piece_id = $2 AND root IS NULL AND id = ANY($3)
     ON CONFLICT (person_id, root) DO UPDATE SET at = now()`,
    { bind: [who.id, piece, [...roots]] }
  );
}
