import { compose, layerId } from '@zany/core/testing';
import { expect, test } from 'vitest';
import { outermost, placeWords } from './comment-place';
import type { CommentPlace } from './types';

const piece = compose({
  frames: { Plan: { states: { shut: {}, open: {} }, layers: { Book: { at: [0, 0, 10, 10] } } } },
});
const scene = [...piece.scenes.keys()][0]!;
const about = (more: Partial<CommentPlace>): CommentPlace => ({
  scene,
  sceneName: 'Plan',
  layer: null,
  layerName: null,
  state: null,
  moment: null,
  at: null,
  ...more,
});

test.each([
  [{}, 'Plan'],
  [{ moment: 11 }, 'Plan, at 12'],
  [{ layer: layerId(scene, 'Book'), layerName: 'Was' }, 'Book on Plan'],
  [{ layer: 'gone', layerName: 'Was' }, 'Was, which is gone, on Plan'],
  [{ state: 'gone' }, 'Plan, a state that is gone'],
  [{ scene: 'gone', sceneName: 'Old' }, 'Old, a frame that is gone'],
])('what a comment is about is said in words: %o', (more, words) => {
  expect(placeWords(piece, about(more))).toBe(words);
});

test('in a part it stands at the part', () => {
  expect([outermost('card/title'), outermost('title')]).toEqual(['card', 'title']);
});
