import { expect, test } from 'vitest';
import { keysById } from '../../motion/track.ts';
import { unlikeOutlines, withOutlines } from './outlines.ts';
import type { Timeline } from './timeline.ts';

const path = (...outlines: string[]) => ({
  layer: 'sail',
  property: 'path' as const,
  keys: keysById(outlines.map((value, i) => ({ time: i * 10, value }))),
});

const timeline: Timeline = {
  length: 30,
  tracks: {
    alike: path('M0 0L10 10', 'M5 5L20 20'),
    unlike: path('M0 0L10 10L0 9Z', 'M0 0C1 1 2 2 3 3Z'),
    runs: path('M0 0L10 10M5 5L6 6Z', 'M0 0C1 1 2 2 3 3Z'),
    open: path('M0 0L10 10', 'M0 0C1 1 2 2 3 3'),
    x: { layer: 'sail', property: 'x', keys: { a: { time: 0, value: 3 } } },
  },
};
const all = Object.keys(timeline.tracks!).map((track) => ({ track, time: 0 }));

test('outlines that jump are told, where they are chosen, closed and drawn in one run', () => {
  expect(unlikeOutlines(timeline, all)).toEqual(['unlike']);
  expect(unlikeOutlines(timeline, [])).toEqual([]);
  expect(unlikeOutlines({ length: 3 }, all)).toEqual([]);
});

test('only the outlines of those tracks are drawn anew, with their times', () => {
  const next = withOutlines(timeline, ['unlike'], (outlines) => outlines.map((_, i) => `M${i} ${i}L9 9Z`));
  expect(next.tracks!['unlike']!.keys).toEqual({ k0: { time: 0, value: 'M0 0L9 9Z' }, k10: { time: 10, value: 'M1 1L9 9Z' } });
  expect({ ...next.tracks, unlike: null }).toEqual({ ...timeline.tracks, unlike: null });
  expect(unlikeOutlines(next, all)).toEqual([]);
});
