import type { Piece } from '../../piece/piece.ts';
import type { Operation } from '../operation.ts';

/** Trimming what a video or sound plays: what is left out stays in its file. */

/**
 * Sets where it begins or ends, in milliseconds of the file, which is `whole` long. What is not trimmed any more is not said.
 */
export function trimOperations(piece: Piece, layer: string, edge: 'from' | 'to', ms: number, whole: number): Operation[] {
  const media = piece.layers.get(layer)?.media ?? {};
  const [least, most] = edge === 'from' ? [0, (media.to ?? whole) - 1] : [(media.from ?? 0) + 1, whole];
  const at = Math.round(Math.max(least, Math.min(most, ms)));
  const isWhole = edge === 'from' ? at <= 0 : at >= whole;
  if (isWhole && media[edge] === undefined) return [];
  return [{ op: 'set', table: 'layers', id: layer, path: ['media', edge], ...(!isWhole && { value: at }) }];
}
