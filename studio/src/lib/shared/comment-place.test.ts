import { compose, layerId } from '@zany/core/testing';
import { expect, test } from 'vitest';
import { outermost, placeWords } from './comment-place';
import { wholeFrame, type CommentPlace } from './types';

const piece = compose({
  frames: { Plan: { states: { shut: {}, open: {} }, layers: { Book: { at: [0, 0, 10, 10], lines: ['click → go to Plan'] } } } },
});
const scene = [...piece.scenes.keys()][0]!;
const about = (more: Partial<CommentPlace>): CommentPlace => ({
  ...wholeFrame(scene, 'Plan'),
  ...more,
});

test.each<[Partial<CommentPlace>, string]>([
  [{}, 'Plan'],
  [{ moment: 11 }, 'Plan, at 12'],
  [{ layer: layerId(scene, 'Book'), layerName: 'Was' }, 'Book on Plan'],
  [{ layer: 'gone', layerName: 'Was' }, 'Was, which is gone, on Plan'],
  [
    { layer: layerId(scene, 'Book'), thread: [...piece.threads.keys()][0]!, threadLine: 'click → go to Plan' },
    '“click → go to Plan” of Book on Plan',
  ],
  [{ thread: 'gone', threadLine: 'key a → go to Plan' }, '“key a → go to Plan”, which is gone, of Plan'],
  [{ at: [10, 20], size: [100, 50] }, 'a part of Plan'],
  [{ state: 'gone' }, 'Plan, a state that is gone'],
  [{ scene: 'gone', sceneName: 'Old' }, 'Old, a frame that is gone'],
])('what a comment is about is said in words: %o', (more, words) => {
  expect(placeWords(piece, about(more))).toBe(words);
});

test('in a part it stands at the part', () => {
  expect([outermost('card/title'), outermost('title')]).toEqual(['card', 'title']);
});
