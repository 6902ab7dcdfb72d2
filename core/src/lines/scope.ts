import { framesOf, type Piece } from '../piece/piece.ts';
import { PLACES } from '../steps/schemas.ts';
import { STOPS, writeRaw } from './raw.ts';

/** The frames that a line can name. */
export interface LineScope {
  readonly frames: readonly { readonly id: string; readonly name: string }[];
}

export const scopeOf = (piece: Piece): LineScope => ({ frames: framesOf(piece) });

/**
 * How a frame is written: by name; the second of two with one name as `Name #2`; one that is not there as `?id`,
 * one not chosen yet as `?`.
 */
export function writeFrame(scope: LineScope, id: string | null): string {
  if (id === null) return '?';
  const frame = scope.frames.find((candidate) => candidate.id === id);
  if (!frame) return `?${id}`;
  const alike = scope.frames.filter((candidate) => candidate.name === frame.name);
  const name = writeName(frame.name);
  const place = alike.indexOf(frame);
  return place > 0 ? `${name} #${place + 1}` : name;
}

/** Names end at a comma too, since a transition may be written behind one. */
export const NAME_STOPS = [...STOPS, ','];

export const writeName = (name: string): string => writeRaw(name, PLACES, NAME_STOPS);

/** The frame of a name: the exact one, else the only one that differs in case. */
export function findFrame(scope: LineScope, name: string, ordinal: number): string | null {
  const exact = scope.frames.filter((frame) => frame.name === name);
  if (exact.length) return exact[ordinal - 1]?.id ?? null;
  const alike = scope.frames.filter((frame) => frame.name.toLowerCase() === name.toLowerCase());
  return alike[ordinal - 1]?.id ?? null;
}
