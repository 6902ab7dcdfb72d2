import { threadsOf, type Piece } from '../piece/piece.ts';
import type { Finding } from './finding.ts';

/** Loose ends that somebody has looked at and let be. */

/** What a loose end is called where it is kept. */
export const asideKey = ({ id }: Pick<Finding, 'id'>): string => id.replaceAll(/[^0-9A-Za-z_/-]+/g, '/').slice(0, 200);

/** What the place of a loose end is like, in short: another text once anything there is another. */
export function markOf(piece: Piece, { place, sentence }: Finding): string {
  const layer = place.layer === undefined ? undefined : piece.layers.get(place.layer);
  const threads = place.thread === undefined ? (layer ? threadsOf(piece, layer.id) : []) : [piece.threads.get(place.thread)];
  return hashOf(JSON.stringify([layer ?? null, threads, layer ? '' : sentence]));
}

/** Why a loose end is set aside; null where it is not, or its place has changed since. */
export function reasonFor(piece: Piece, found: Finding): string | null {
  const aside = piece.head.aside?.[asideKey(found)];
  return aside && aside.mark === markOf(piece, found) ? aside.reason : null;
}

/** FNV-1a over UTF-16 units, twice with different beginnings, in base 36. */
function hashOf(text: string): string {
  const one = (begin: number) => {
    let hash = begin;
    for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
    return (hash >>> 0).toString(36);
  };
  return one(0x811c9dc5) + one(0x9747b28c);
}
