import type { PieceRow } from '../models';
import { Refusal } from '../refusal';

/** Refuses a revision that a piece has not come to yet; null is the latest. It stands in what was sent, or in what was asked for. */
export function mustBeThere({ revision: latest }: Pick<PieceRow, 'revision'>, revision: number | null, code: 'bad-request' | 'not-found'): void {
  if (revision !== null && revision > latest) throw new Refusal(code, 'There is no such version.', ['revision']);
}
