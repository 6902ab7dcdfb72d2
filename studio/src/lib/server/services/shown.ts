import type { LinkedPiece } from '$lib/shared/types';
import { AssetRow } from '../models';
import { lately } from '../lately';
import type { Principal } from '../principal';
import { Refusal } from '../refusal';
import { heavy } from '../work';
import type { ShownPiece } from '../work/tasks';
import { documentAt } from './keeping';
import { settingsOf } from './link-door';
import { linkAccess } from './rights';

/** What holders of links see: the piece as a link shows it, which may be some frames of an older version, and no more of it. */

export interface Showing {
  readonly piece: string;
  readonly revision: number;
  readonly bundle: string | null;
  readonly start: string | null;
}

/** Made once for everybody in a room. */
export const shownPiece = lately(
  30,
  async ({ piece, revision, bundle, start }: Showing): Promise<ShownPiece> =>
    heavy('shown', { document: await documentAt(piece, revision), bundle, start }, 'This piece'),
  ({ piece, revision, bundle, start }) => [piece, revision, bundle, start]
);

/** What the link of a holder shows, and how. */
async function shownTo(who: Principal) {
  const { row, holder } = await linkAccess(who, 'look by a link');
  const { start, bundle, revision: fixed, view, hints, tasks } = await settingsOf(holder.link);
  const revision = fixed ?? row.revision;
  return { shown: await shownPiece({ piece: holder.piece, revision, bundle, start }), revision, view, hints, tasks };
}

/** The piece that a link shows, as JSON text. */
export async function openLinked(who: Principal): Promise<string> {
  const { shown, ...rest }: { shown: ShownPiece } & Omit<LinkedPiece, 'piece'> = await shownTo(who);
  const { document, problem } = shown;
  if (problem) throw new Refusal('gone', problem);
  return `{"piece":${document},${JSON.stringify(rest).slice(1)}`;
}

/** A picture of what the link shows; of all others of the piece nothing is told. */
export async function linkedAsset(who: Principal, id: string): Promise<AssetRow> {
  const { assets } = (await shownTo(who)).shown;
  const row = assets.includes(id) ? await AssetRow.findByPk(id) : null;
  if (!row) throw new Refusal('not-found', 'There is no such picture in this piece.');
  return row;
}

/** The frames that the link of a holder shows. */
export const shownFrames = async (who: Principal): Promise<ReadonlySet<string>> => new Set((await shownTo(who)).shown.frames);
