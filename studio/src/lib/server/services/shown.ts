import type { LinkedPiece } from '$lib/shared/types';
import { AssetRow } from '../models';
import type { Holder, Principal } from '../principal';
import { Refusal } from '../refusal';
import { heavy } from '../work';
import type { ShownPiece } from '../work/tasks';
import { documentAt } from './keeping';
import { settingsOf } from './link-door';
import { access } from './rights';

/** What holders of links see: the piece as a link shows it, which may be some frames of an older version, and no more of it. */

/** What was made last, by what decides it; asked for once by everybody in a room. Only ever a shortcut. */
const MOST_KEPT = 30;
const kept = new Map<string, Promise<ShownPiece>>();

export interface Showing {
  readonly piece: string;
  readonly revision: number;
  readonly bundle: string | null;
  readonly start: string | null;
}

export function shownPiece({ piece, revision, bundle, start }: Showing): Promise<ShownPiece> {
  const key = JSON.stringify([piece, revision, bundle, start]);
  const known = kept.get(key);
  if (known) return known;
  const made = (async () => heavy('shown', { document: await documentAt(piece, revision), bundle, start }, 'This piece'))();
  kept.set(key, made);
  made.catch(() => kept.delete(key));
  for (const oldest of kept.keys()) if (kept.size > MOST_KEPT) kept.delete(oldest);
  return made;
}

async function showingOf(who: Principal): Promise<Showing & { readonly link: string }> {
  if (!who || !('kind' in who) || who.kind !== 'holder') throw new Refusal('signed-out', 'Please come in by the link first.');
  const { row } = await access(who, who.piece, 'look by a link');
  const { start, bundle, revision } = await settingsOf(who.link);
  return { piece: who.piece, revision: revision ?? row.revision, bundle, start, link: who.link };
}

/** The piece that a link shows, as JSON text. */
export async function openLinked(who: Principal): Promise<string> {
  const showing = await showingOf(who);
  const { hints, tasks } = await settingsOf(showing.link);
  const { document, problem } = await shownPiece(showing);
  if (problem) throw new Refusal('gone', problem);
  const rest: Omit<LinkedPiece, 'piece'> = { revision: showing.revision, hints, tasks };
  return `{"piece":${document},${JSON.stringify(rest).slice(1)}`;
}

/** A picture of what the link shows; of all others of the piece nothing is told. */
export async function linkedAsset(who: Principal, id: string): Promise<AssetRow> {
  const { assets } = await shownPiece(await showingOf(who));
  const row = assets.includes(id) ? await AssetRow.findByPk(id) : null;
  if (!row) throw new Refusal('not-found', 'There is no such picture in this piece.');
  return row;
}

/** The frames that the link of a holder shows. */
export async function shownFrames(who: Holder): Promise<ReadonlySet<string>> {
  const { row } = await access(who, who.piece, 'look by a link');
  const { start, bundle, revision } = await settingsOf(who.link);
  return new Set((await shownPiece({ piece: who.piece, revision: revision ?? row.revision, bundle, start })).frames);
}
