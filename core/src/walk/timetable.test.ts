import { describe, expect, test } from 'vitest';
import type { RunEvent } from '../run/state.ts';
import type { Move, Timed } from './moves.ts';
import { eventsAt, timesOf } from './timetable.ts';

const click: RunEvent = { type: 'click', layer: 'one' };

const move = (
  more: Partial<Move> & { readonly starts?: readonly (readonly [wait: number, span: number])[]; readonly ends?: readonly number[] }
): Move => ({
  due: null,
  later: [],
  exact: [],
  isAtRest: true,
  time: {
    starts: (more.starts ?? []).map(([wait, span]) => ({ wait, span })),
    asked: new Set(),
    isNothing: false,
    isEnded: (wait) => more.ends?.includes(wait) ?? false,
  },
  ...more,
});
const done = (more: Parameters<typeof move>[0] = {}): Timed => ({ event: click, moves: [move(more)] });
const due = (at: number, more: Parameters<typeof move>[0] = {}): Timed => ({ event: { type: 'wait', ms: 0 }, moves: [move({ due: at, ...more })] });
const first = (...spans: number[]) => spans.map((span, wait) => ({ wait, span, left: span }));

describe('timetables', () => {
  test('what is due is due when its time is up, whatever is done meanwhile', () => {
    expect(timesOf([done(), due(0)], first(100), 1)).toEqual([0, 0, 100]);
    expect(timesOf([done({ starts: [[1, 30]] }), due(1), due(0)], first(100), 1)).toEqual([0, 0, 30, 100]);
  });

  test('something is begun later where it has to be due after something else', () => {
    expect(timesOf([done({ starts: [[1, 30]] }), due(0), due(1)], first(100), 1)).toEqual([0, 71, 100, 101]);
  });

  test('it is said where there is no such time', () => {
    // What takes longer cannot be over before what was begun no later.
    expect(timesOf([done({ starts: [[1, 300]] }), due(1)], first(100), 1)).toBeNull();
    // Nor can anything be done once it is due.
    expect(timesOf([due(1)], first(100, 200), 1)).toBeNull();
  });

  test('what ended does not have to be waited for', () => {
    expect(timesOf([done({ ends: [0], starts: [[1, 300]] }), due(1)], first(100), 1)).toEqual([0, 0, 300]);
  });

  test('what was asked about a moment of a timeline is done at that moment', () => {
    expect(timesOf([done({ exact: [{ wait: 0, passed: 40, slack: 0 }] }), due(0)], first(100), 1)).toEqual([0, 40, 100]);
    const late = done({ exact: [{ wait: 0, passed: 40, slack: 20 }] });
    expect(timesOf([done({ starts: [[1, 50]] }), late, due(1)], first(100), 1)).toEqual([0, 0, 40, 50]);
  });

  test('what is due together comes together', () => {
    const both: Timed = { event: { type: 'wait', ms: 0 }, moves: [move({ due: 0, isAtRest: false }), move({ due: 1 })] };
    expect(timesOf([both], first(100, 100), 1)).toEqual([0, 100]);
    expect(timesOf([due(0)], first(100, 100), 1)).toBeNull();
  });

  test('waiting stands between what is done, where it takes any', () => {
    expect(eventsAt([done(), done(), due(0)], [0, 0, 24, 48], 24)).toEqual([click, { type: 'wait', ms: 1 }, click, { type: 'wait', ms: 1 }]);
    expect(eventsAt([due(0)], [0, 0], 24)).toEqual([{ type: 'wait', ms: 0 }]);
  });
});
