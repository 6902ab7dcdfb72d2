import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compose, layerId } from '../../compose/compose.ts';
import { keysById, keysOf } from '../../motion/track.ts';
import type { Piece } from '../../piece/piece.ts';
import { unwrap } from '../../result.ts';
import { apply } from '../apply.ts';
import { copyKeys, easeKeys, moveKeys, removeKeys, setKey, type KeyAt } from './keys.ts';
import { timelineOperations, trackValue, type Timeline } from './timeline.ts';

const keys = [0, 10, 20, 30, 40, 50].map((time) => [time, time * 2] as const);
const piece: Piece = compose({
  frames: {
    Quay: { layers: { Boat: { type: 'box', at: [0, 0, 20, 10] } }, timeline: { length: 100, tracks: [['Boat', 'x', keys]] } },
  },
});
const boat = layerId('Quay', 'Boat');
const [scene] = [...piece.scenes.keys()];
const timelineOf = (of: Piece): Timeline => of.scenes.get(scene!)!.timeline!;
const [track] = Object.keys(timelineOf(piece).tracks!);
const told = (of: Piece) => keysOf(timelineOf(of).tracks![track!]!).map(({ time, value, easing }) => [time, value, ...(easing ? [easing] : [])]);
const edit = (change: (timeline: Timeline) => Timeline) => timelineOperations(piece, scene!, change(timelineOf(piece)));
const after = (...edits: ReturnType<typeof edit>[]) => edits.reduce((at, operations) => unwrap(apply(at, operations)).piece, piece);
const at = (...times: number[]): KeyAt[] => times.map((time) => ({ track: track!, time }));

describe('two people at one track', () => {
  test('keep the work of both, whoever was first', () => {
    const moved = edit((timeline) => moveKeys(timeline, at(10), 5));
    const raised = edit((timeline) => setKey(timeline, 'new', boat, 'x', { time: 30, value: 7 }));
    const gone = edit((timeline) => removeKeys(timeline, at(50)));
    const eased = edit((timeline) => easeKeys(timeline, at(40), 'ease-in'));
    const both = [
      [0, 0],
      [15, 20],
      [20, 40],
      [30, 7],
      [40, 80, 'ease-in'],
    ];
    expect(told(after(moved, raised, gone, eased))).toEqual(both);
    expect(told(after(eased, gone, raised, moved))).toEqual(both);
  });

  test('who makes a key at the same time makes one, with the value of who was last', () => {
    const [one, other] = [8, 9].map((value) => edit((timeline) => setKey(timeline, 'new', boat, 'x', { time: 25, value })));
    expect(told(after(one!, other!)).filter(([time]) => time === 25)).toEqual([[25, 9]]);
    expect(told(after(other!, one!)).filter(([time]) => time === 25)).toEqual([[25, 8]]);
  });

  test('who bring two keys to one time see one of them, the same for both; the next edit of the track takes the other away', () => {
    const late = edit((timeline) => moveKeys(timeline, at(10), 15));
    const early = edit((timeline) => moveKeys(timeline, at(30), -5));
    const merged = after(late, early);
    expect(Object.keys(timelineOf(merged).tracks![track!]!.keys)).toHaveLength(6);
    expect(told(merged)).toEqual(told(after(early, late)));
    expect(told(merged).filter(([time]) => time === 25)).toHaveLength(1);
    const next = unwrap(
      apply(
        merged,
        timelineOperations(
          merged,
          scene!,
          moveKeys(
            timelineOf(merged),
            keysOf(timelineOf(merged).tracks![track!]!).map(({ time }) => ({ track: track!, time })),
            1
          )
        )
      )
    ).piece;
    expect(Object.keys(timelineOf(next).tracks![track!]!.keys)).toHaveLength(5);
  });

  test('a track whose last keys two people take away keeps the one that was taken away last', () => {
    const [first, rest] = [at(0), at(10, 20, 30, 40, 50)];
    const base = after(edit((timeline) => removeKeys(timeline, rest.slice(1))));
    const without = (which: KeyAt[]) => timelineOperations(base, scene!, removeKeys(timelineOf(base), which));
    const one = unwrap(apply(base, without(first))).piece;
    expect(apply(one, without(rest.slice(0, 1))).ok).toBe(false);
    expect(unwrap(apply(base, without([...first, ...rest]))).piece.scenes.get(scene!)!.timeline!.tracks).toBeUndefined();
  });

  test('whatever the two do to keys of their own: both is there, in either order, and undone without a trace', () => {
    const change = fc.oneof(
      fc.integer({ min: -4, max: 4 }).map((by) => (timeline: Timeline, key: KeyAt[]) => moveKeys(timeline, key, by, 3)),
      fc.constant((timeline: Timeline, key: KeyAt[]) => removeKeys(timeline, key)),
      fc.constant((timeline: Timeline, key: KeyAt[]) => easeKeys(timeline, key, 'ease-out')),
      fc.constant((timeline: Timeline, key: KeyAt[]) => copyKeys(timeline, key, 5))
    );
    fc.assert(
      fc.property(change, change, fc.shuffledSubarray([0, 10, 20, 30, 40, 50], { minLength: 2, maxLength: 2 }), (mine, yours, [a, b]) => {
        const [left, right] = [edit((timeline) => mine(timeline, at(a!))), edit((timeline) => yours(timeline, at(b!)))];
        const alone = told(after(left)).filter(([time]) => Math.abs(Number(time) - a!) <= 5);
        const both = after(left, right);
        expect(told(both).filter(([time]) => Math.abs(Number(time) - a!) <= 5)).toEqual(expect.arrayContaining(alone));
        expect(told(both)).toEqual(told(after(right, left)));
        const first = unwrap(apply(piece, left));
        const second = unwrap(apply(first.piece, right));
        const back = unwrap(apply(unwrap(apply(second.piece, second.inverse)).piece, first.inverse)).piece;
        expect(timelineOf(back)).toEqual(timelineOf(piece));
      })
    );
  });
});

test('an edit is as large as what it changes: one key of five thousand is one key', () => {
  const many = { layer: boat, property: 'x' as const, keys: keysById(Array.from({ length: 5000 }, (_, time) => ({ time, value: time }))) };
  const large: Timeline = { length: 6000, tracks: { [track!]: many } };
  const wide = unwrap(apply(piece, timelineOperations(piece, scene!, large))).piece;
  const operations = timelineOperations(wide, scene!, setKey(large, 'new', boat, 'x', { time: 400, value: -1 }));
  expect(operations).toEqual([
    { op: 'set', table: 'scenes', id: scene, path: ['timeline', 'tracks', track, 'keys', 'k400'], value: { time: 400, value: -1 } },
  ]);
  expect(
    timelineOperations(
      wide,
      scene!,
      moveKeys(
        large,
        [...keysOf(many)].map(({ time }) => ({ track: track!, time })),
        3
      )
    )
  ).toHaveLength(1);
});

test('an edit of very many keys sets their tracks, whichever of them it touches', () => {
  const tracks = Object.fromEntries(
    Array.from({ length: 30 }, (_, i) => [
      `t${i}`,
      { layer: boat, property: 'x' as const, keys: keysById([0, 5, 9].map((time) => ({ time, value: i }))) },
    ])
  );
  const wide: Timeline = { length: 60, tracks };
  const made = unwrap(apply(piece, timelineOperations(piece, scene!, wide))).piece;
  const late = (most: number): KeyAt[] =>
    Object.keys(tracks)
      .slice(0, most)
      .flatMap((id) => [0, 5, 9].map((time) => ({ track: id, time })));
  const counted = (most: number) => timelineOperations(made, scene!, moveKeys(wide, late(most), 7));
  expect(counted(20)).toHaveLength(60);
  expect(counted(21)).toHaveLength(21);
  for (const most of [20, 21]) expect(timelineOf(unwrap(apply(made, counted(most))).piece)).toEqual(moveKeys(wide, late(most), 7));
});

describe('keys by id', () => {
  const id = fc.option(fc.constantFrom('a', 'b', 'c', 'k3', 'k3b'), { nil: undefined });
  const list = fc.array(
    fc.tuple(id, fc.nat(9), fc.nat(99)).map(([id, time, value]) => ({ ...(id !== undefined && { id }), time, value })),
    { maxLength: 12 }
  );

  test('hold each time once, as the last in the list says it; what has an id of its own keeps it', () => {
    fc.assert(
      fc.property(list, (given) => {
        const made = keysById(given);
        const standing = keysOf({ keys: made });
        const wanted = new Map(given.map(({ time, value }) => [time, value]));
        expect(standing.map(({ time, value }) => [time, value])).toEqual([...wanted].sort(([a], [b]) => a - b));
        expect(Object.keys(made)).toHaveLength(wanted.size);
        expect(keysById(standing)).toEqual(made);
        for (const { time } of standing) expect(trackValue({ layer: 'x', property: 'x', keys: made }, time)).toBe(wanted.get(time));
      })
    );
  });
});
