import { emptyPiece, insertStarter, apply, type Piece, type Starter } from '@zany/core';

/** A piece with nothing but a starter part in it, to be looked at. */
export function composePart(starter: Starter): Piece {
  let n = 0;
  const makeId = () => `preview${n++}`;
  const blank = emptyPiece({ id: 'preview', name: 'Preview', width: 390, height: 844, start: [] });
  const frame = apply(blank, [
    {
      op: 'put',
      table: 'scenes',
      value: { id: 'frame', use: 'frame', name: 'Frame', order: 'a0', width: 390, height: 844, background: '#ffffff' } as { id: string },
    },
  ]);
  if (!frame.ok) return blank;
  const made = apply(frame.value.piece, insertStarter(frame.value.piece, starter, 'frame', makeId).operations);
  return made.ok ? made.value.piece : frame.value.piece;
}
