import type { PieceCard } from '$lib/shared/types';
import { rows } from '../database';
import { log } from '../log';
import { Refusal } from '../refusal';
import { heavy } from '../work';
import type { Card } from '../work/tasks';
import { happened, rested } from './hooks';
import { documentAt } from './keeping';

/** A card follows when a piece has rested this long, and while it is worked on now and then. In milliseconds. */
const REST = 1200;
const LONGEST = 15_000;

const waiting = new Map<string, { timer: ReturnType<typeof setTimeout>; since: number; revision: number }>();

/** The revisions of each piece whose cards are being worked out. */
const underWay = new Map<string, Set<number>>();

/** Has the card of a piece worked out anew, a little later. */
export function cardLater(piece: string, revision: number, rest = REST): void {
  const known = waiting.get(piece);
  const since = known?.since ?? Date.now();
  clearTimeout(known?.timer);
  const delay = Math.max(0, Math.min(rest, since + LONGEST - Date.now()));
  const timer = setTimeout(() => {
    waiting.delete(piece);
    void work(piece, revision);
  }, delay);
  timer.unref();
  waiting.set(piece, { timer, since, revision });
}

/** Cards that are not there, or of an older revision, are worked out one after the other; whoever looks again finds them. */
export function refreshCards(pieces: readonly { readonly id: string; readonly revision: number }[]): void {
  for (const { id, revision } of pieces) if (!waiting.has(id) && !underWay.get(id)?.has(revision)) cardLater(id, revision, 0);
}

async function work(piece: string, revision: number): Promise<void> {
  // That does not wait for the card, before which those of large pieces may stand in line.
  rested(piece, revision);
  const revisions = underWay.get(piece) ?? new Set();
  underWay.set(piece, revisions.add(revision));
  try {
    await keep(piece, revision, await cardOf(piece, revision));
  } catch (error) {
    log.warn({ err: error, piece }, 'could not work out what the Workroom shows of a piece');
  } finally {
    revisions.delete(revision);
    if (!revisions.size) underWay.delete(piece);
  }
}

async function cardOf(piece: string, revision: number): Promise<Card & { problem: string | null }> {
  try {
    return { ...(await heavy('card', { document: await documentAt(piece, revision) }, 'This piece')), problem: null };
  } catch (error) {
    // One piece that cannot be shown must not hide the others.
    const problem = error instanceof Refusal ? error.message : 'This piece cannot be looked through.';
    if (!(error instanceof Refusal)) log.warn({ err: error, piece }, 'a piece cannot be shown in the Workroom');
    return { frames: 0, looseEnds: null, complete: false, cover: null, problem };
  }
}

/** A slower server that comes late with an older card does not put it over a newer one. */
async function keep(
  piece: string,
  revision: number,
  { frames, looseEnds, complete, cover, problem }: Card & { problem: string | null }
): Promise<void> {
  const [kept] = await rows<{ before: number | null; old: number | null }>(
    `WITH old AS (SELECT revision, loose_ends FROM cards WHERE piece_id = $1)
     INSERT INTO cards (piece_id, revision, frames, loose_ends, complete, cover, problem)
     SELECT id, $2, $3, $4, $5, $6::jsonb, $7 FROM pieces WHERE id = $1
     ON CONFLICT (piece_id) DO UPDATE SET (revision, frames, loose_ends, complete, cover, problem)
       = (excluded.revision, excluded.frames, excluded.loose_ends, excluded.complete, excluded.cover, excluded.problem)
     WHERE cards.revision <= excluded.revision
     RETURNING (SELECT revision FROM old) AS old, (SELECT loose_ends FROM old) AS before`,
    [piece, revision, frames, looseEnds, complete, cover && JSON.stringify(cover), problem]
  );
  // What is only looked at anew has not changed.
  if (!kept || kept.old === null || kept.old >= revision) return;
  if (kept.before !== null && looseEnds !== null && kept.before !== looseEnds)
    happened(piece, 'loose ends', { revision, before: kept.before, now: looseEnds, complete });
}

interface Row {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly updated: Date;
  readonly role: PieceCard['role'];
  readonly at: number | null;
  readonly frames: number | null;
  readonly looseEnds: number | null;
  readonly complete: boolean | null;
  readonly cover: PieceCard['cover'];
  readonly problem: string | null;
}

/** The pieces a person can see, the latest changed first, with what was kept of each. Nothing is worked out on request. */
export async function cardsOf(person: string): Promise<PieceCard[]> {
  const found = await rows<Row>(
    `SELECT pieces.id, pieces.name, pieces.revision, pieces.updated_at AS updated, role, cards.revision AS at, frames,
       loose_ends AS "looseEnds", complete, cover, problem
     FROM members JOIN pieces ON pieces.id = members.piece_id LEFT JOIN cards ON cards.piece_id = pieces.id
     WHERE person_id = $1 AND deleted_at IS NULL ORDER BY updated_at DESC, pieces.id`,
    [person]
  );
  refreshCards(found.filter(({ at, revision }) => at !== revision));
  return found.map(({ id, name, revision, updated, role, at, frames, looseEnds, complete, cover, problem }) => ({
    id,
    name,
    revision,
    updated: updated.toISOString(),
    role,
    isBehind: at !== revision,
    frames: frames ?? null,
    looseEnds,
    complete: complete ?? false,
    cover,
    problem,
  }));
}
