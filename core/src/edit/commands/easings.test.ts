import { describe, expect, test } from 'vitest';
import { compose } from '../../compose/compose.ts';
import { pieceToJson } from '../../piece/read.ts';
import { apply } from '../apply.ts';
import type { Operation } from '../operation.ts';
import type { Piece } from '../../piece/piece.ts';
import { addEasing, changeEasing, easingName, easingsOf, easingUses, removeEasing, renameEasing } from './easings.ts';

let count = 0;
const makeId = () => `e${count++}`;

const piece = () =>
  compose({
    parts: {
      Clip: {
        timeline: {
          length: 9,
          tracks: [
            [
              'Dot',
              'x',
              [
                [0, 0, 'ease-in'],
                [8, 9],
              ],
            ],
          ],
        },
        layers: { Dot: { at: [0, 0, 5, 5] } },
      },
    },
    frames: {
      Pier: {
        timeline: {
          length: 9,
          tracks: [
            [
              'Boat',
              'y',
              [
                [0, 0, 'ease-in'],
                [4, 3, 'ease-out'],
                [8, 9],
              ],
            ],
          ],
        },
        layers: {
          Boat: {
            at: [0, 0, 5, 5],
            lines: ['click → go to Sea, dissolve 300 ms ease-in'],
            looks: { hover: { style: { opacity: 0.5 }, easing: 'ease-in' } },
          },
        },
      },
      Sea: {},
    },
  });

const after = (of: Piece, operations: Operation[]): Piece => {
  const done = apply(of, operations);
  if (!done.ok) throw new Error(JSON.stringify(done));
  return done.value.piece;
};

describe('easings under a name', () => {
  test('a name stands for all that hold its easing; what holds another is left alone', () => {
    const before = piece();
    const named = after(before, addEasing(before, 'Lively', 'ease-in', makeId));
    const [lively] = easingsOf(named.head);
    expect(easingName(named.head, 'ease-in')).toBe('Lively');
    expect(easingUses(named).get('ease-in')).toBe(4);
    const changed = after(named, changeEasing(named, lively!.id, 'spring(0.4)'));
    expect(easingUses(changed)).toEqual(
      new Map([
        ['spring(0.4)', 4],
        ['ease-out', 1],
      ])
    );
    expect(easingName(changed.head, 'spring(0.4)')).toBe('Lively');
    // There and back is nothing.
    expect(pieceToJson(after(changed, changeEasing(changed, lively!.id, 'ease-in')))).toEqual(pieceToJson(named));
  });

  test('is renamed and taken away without touching what goes by it; two of one name get two names', () => {
    const before = piece();
    let now = after(before, addEasing(before, 'Lively', 'ease-in', makeId));
    now = after(now, addEasing(now, 'Lively', 'ease-out', makeId));
    expect(easingsOf(now.head).map(({ name }) => name)).toEqual(['Lively', 'Lively 2']);
    const [first, second] = easingsOf(now.head);
    now = after(now, renameEasing(now, first!.id, ' Calm '));
    now = after(now, removeEasing(now, second!.id));
    expect(easingsOf(now.head).map(({ name, easing }) => [name, easing])).toEqual([['Calm', 'ease-in']]);
    expect(easingUses(now)).toEqual(easingUses(before));
    expect(changeEasing(now, first!.id, 'ease-in')).toEqual([]);
    expect(changeEasing(now, 'nobody', 'linear')).toEqual([]);
  });
});
