import { cutText } from '../../text.ts';
import type { Piece } from '../../piece/piece.ts';
import type { Head } from '../../piece/schema.ts';
import { MOST_STEPS_KEPT, type Asked, type KeptStep, type KeptWalk } from '../../piece/walks.ts';
import type { Operation } from '../operation.ts';
import type { MakeId } from '../make-id.ts';
import { inOrder, namedLast, setHead } from './named.ts';

/** Walks that are kept with a piece, and loose ends that are set aside, or made of what somebody said. */

export const walksOf = (head: Head): (KeptWalk & { id: string })[] => inOrder(head.walks);

/** Keeps a walk: from a frame, what was done and where each step led; none that is empty, and of a long one its beginning. */
export const keepWalk = (piece: Piece, name: string, from: string, steps: readonly KeptStep[], makeId: MakeId): Operation[] =>
  steps.length === 0
    ? []
    : [setHead(piece, ['walks', makeId()], { ...namedLast(walksOf(piece.head), name, 'Walk'), from, steps: steps.slice(0, MOST_STEPS_KEPT) })];

/** Where a kept walk leads is from now on where it leads now. */
export const keepWalkAnew = (piece: Piece, id: string, steps: readonly KeptStep[]): Operation[] =>
  piece.head.walks?.[id] && steps.length ? [setHead(piece, ['walks', id, 'steps'], steps)] : [];

export const renameWalk = (piece: Piece, id: string, name: string): Operation[] =>
  name.trim() && piece.head.walks?.[id] ? [setHead(piece, ['walks', id, 'name'], cutText(name.trim(), 120))] : [];

export const removeWalk = (piece: Piece, id: string): Operation[] => (piece.head.walks?.[id] ? [setHead(piece, ['walks', id])] : []);

/** Sets a loose end aside, by what it is called and what its place is like. */
export const setAside = (piece: Piece, key: string, reason: string, mark: string): Operation[] =>
  reason.trim() ? [setHead(piece, ['aside', key], { reason: cutText(reason.trim(), 500), mark })] : [];

export const takeUpAgain = (piece: Piece, key: string): Operation[] => (piece.head.aside?.[key] ? [setHead(piece, ['aside', key])] : []);

/** Makes a loose end of what somebody said, by the id of what was said. */
export const askFor = (piece: Piece, id: string, { words, by, ...about }: Asked): Operation[] => {
  const cut = { words: cutText(words.trim(), 500), by: cutText(by.trim(), 120) };
  return cut.words && cut.by ? [setHead(piece, ['asked', id], { ...cut, ...about })] : [];
};

/** What was asked for is there, or is no longer wanted. */
export const asksNoMore = (piece: Piece, id: string): Operation[] => (piece.head.asked?.[id] ? [setHead(piece, ['asked', id])] : []);
