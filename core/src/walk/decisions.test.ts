import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Decisions } from './decisions.ts';
import { Rows } from './rows.ts';
import type { Looked } from './slots.ts';

/** What is looked at in a row for an event, by a made-up rule: which column comes next follows from what stood in the one before. */
function lookedAt(event: number, row: readonly number[]): Looked[] {
  const looked: Looked[] = [];
  for (let column = event % row.length; looked.length < 1 + (event % 3); column = (column + 1 + row[column]!) % row.length)
    looked.push([column, row[column]!]);
  return looked;
}

const wordsOf = (event: number, looked: readonly Looked[]) => `${event}: ${looked.join(' ')}`;

describe('decisions', () => {
  test('what was kept by what was looked at is found wherever the same stands there, and nothing else is', () => {
    const rowOf = fc.array(fc.oneof(fc.nat(3), fc.nat(40)), { minLength: 6, maxLength: 6 });
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(300), rowOf), { maxLength: 200 }), (asked) => {
        const [rows, decisions, kept] = [new Rows(), new Decisions<string>().asOf(1), new Set<string>()];
        for (const [event, row] of asked) {
          const at = rows.with(
            -1,
            row.map((_, column) => column),
            row
          );
          const looked = lookedAt(event, row);
          const words = wordsOf(event, looked);
          const found = decisions.find(event, rows, at);
          expect(found < 0 ? null : decisions.answers[found]).toEqual(kept.has(words) ? words : null);
          decisions.keep(event, looked, words);
          kept.add(words);
        }
      })
    );
  });

  test('nothing is found any more as of something else', () => {
    const [rows, decisions] = [new Rows(), new Decisions<string>().asOf(1)];
    const row = rows.with(-1, [0], [2]);
    decisions.keep(0, [[0, 2]], 'on');
    expect(decisions.asOf(1).find(0, rows, row)).toBe(0);
    expect(decisions.asOf(2).find(0, rows, row)).toBe(-1);
    decisions.keep(0, [], 'always');
    expect(decisions.find(0, rows, row)).toBe(0);
    expect(decisions.answers.length).toBe(1);
  });

  test('what is found by looking at much is not kept', () => {
    const [rows, decisions] = [new Rows(), new Decisions<string>().asOf(1)];
    const row = rows.with(-1, [], []);
    decisions.keep(
      0,
      Array.from({ length: 7 }, (_, column) => [column, 0] as const),
      'wide'
    );
    decisions.keep(1, [[0, 1e6]], 'far');
    expect([0, 1].map((event) => decisions.find(event, rows, row))).toEqual([-1, -1]);
  });
});
