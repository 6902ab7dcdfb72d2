import { expect, test } from 'vitest';
import { compose, layerId as id } from '../../compose/compose.ts';
import { unwrap } from '../../result.ts';
import { apply } from '../apply.ts';
import { trimOperations } from './trim.ts';

test('what a sound plays is trimmed within its file, and what is whole is not said', () => {
  const before = compose({ frames: { home: { layers: { bell: { type: 'sound', at: [0, 0, 9, 9], media: { loop: true } } } } } });
  const bell = id('home', 'bell');
  const trim = (piece: typeof before, edge: 'from' | 'to', ms: number) => unwrap(apply(piece, trimOperations(piece, bell, edge, ms, 4000))).piece;
  const media = (piece: typeof before) => piece.layers.get(bell)!.media;
  const cut = trim(trim(before, 'to', 3000.4), 'from', 500);
  expect(media(cut)).toEqual({ loop: true, to: 3000, from: 500 });
  // Never beyond the other end, nor outside the file.
  expect(media(trim(cut, 'from', 9999))).toMatchObject({ from: 2999 });
  expect(media(trim(cut, 'to', -5))).toMatchObject({ to: 501 });
  // Back to the whole is nothing.
  expect(media(trim(trim(cut, 'to', 4000), 'from', 0))).toEqual({ loop: true });
  expect(trimOperations(before, bell, 'from', 0, 4000)).toEqual([]);
  expect(trimOperations(before, bell, 'to', 5000, 4000)).toEqual([]);
});
