import { describe, expect, test } from 'vitest';
import type { Effect } from './effects.ts';
import { Ints, MostlyZero } from './ints.ts';
import { Pairs } from './pairs.ts';
import { Returns } from './returns.ts';
import { EMPTY, Stacks } from './stacks.ts';

/**
 * Frames with switches, each with ways on and a way back, without a piece around them: what is met has to be the same however it is kept.
 * A row is a frame and what the switches say; a way on leads to a row from each.
 */
function metWith(switches: number, ways: (row: number) => readonly number[], mostKept?: number): ReadonlySet<string> {
  const says = 2 ** switches;
  const [rowOf, stackOf, stacks, byBoth] = [new Ints(), new MostlyZero(), new Stacks(), new Pairs()];
  let told: (row: number, stack: number) => void = () => undefined;
  const met = {
    get length() {
      return rowOf.length;
    },
    standing: (row: number, stack: number) => byBoth.get(row, stack),
    tell: (hear: typeof told) => (told = hear),
  };
  const come = (row: number, stack: number): void => {
    if (met.standing(row, stack) >= 0) return;
    byBoth.set(row, stack, rowOf.length);
    rowOf.push(row);
    stackOf.push(stack);
    told(row, stack);
  };
  // The first time that any leads to another state is told by all of them together.
  const effect = { hasMoved: false } as Effect;
  const returns = new Returns(
    { rowOf, stackOf, stacks },
    met,
    ({ row }, below) => {
      come(row, below);
      effect.hasMoved = true;
    },
    mostKept
  );
  come(0, EMPTY);
  for (let state = 0; state < rowOf.length; state++) {
    const [row, stack] = [rowOf.at(state), stackOf.at(state)];
    const [frame, said] = [Math.floor(row / says), row % says];
    for (let i = 0; i < switches; i++) come(frame * says + (said ^ (1 << i)), stack);
    for (const to of ways(row)) {
      const top = stacks.place(to * says + said, 0, `frame ${frame}`, frame + 1);
      come(to * says + said, top);
      stacks.lay(top, stack);
    }
    const back = stacks.topOf(stack);
    if (back !== '') returns.add({ state, row: Number(back.slice(6)) * says + said, isAsked: true, deed: 0, effect });
  }
  const keys = Array.from({ length: rowOf.length }, (_, state) => `${rowOf.at(state)} ${stackOf.at(state)}`);
  expect(keys).toHaveLength(new Set(keys).size);
  // What was found of each way back is told as where it leads.
  for (let state = 0; state < rowOf.length; state++) {
    const ends: number[] = [];
    returns.each(state, (to) => ends.push(to));
    expect(ends.every((to) => to >= 0 && to < rowOf.length)).toBe(true);
    const [row, stack] = [rowOf.at(state), stackOf.at(state)];
    const back = stacks.topOf(stack);
    if (back === '') continue;
    const target = Number(back.slice(6)) * says + (row % says);
    const all = stacks.belowOf(stack).map((below) => met.standing(target, below));
    expect(ends).toEqual(all.filter((to) => to !== state));
  }
  return new Set(Array.from({ length: rowOf.length }, (_, state) => `${rowOf.at(state)} ${stackOf.at(state)}`));
}

describe('ways back', () => {
  test('in a ring of frames each is come to over all that can lie below it', () => {
    const ring = (row: number) => [(Math.floor(row / 8) + 1) % 4];
    expect(metWith(3, ring).size).toBe(8 * (4 * 8 + 1));
  });

  test.each([
    ['a ring', (row: number) => [(Math.floor(row / 4) + 1) % 5]],
    ['ways that depend on what was set', (row: number) => (row % 2 ? [(Math.floor(row / 4) + 2) % 5] : [(Math.floor(row / 4) * 3 + 1) % 5])],
    ['ways to everywhere', () => [0, 1, 2, 3, 4]],
    ['a way into a frame that only leads back', (row: number) => (Math.floor(row / 4) === 0 ? [1, 2] : [])],
  ])('the same is met whether it is kept as bits, or there is no room for that: %s', (_, ways) => {
    const kept = metWith(2, ways);
    for (const most of [0, 20, 60]) expect([...metWith(2, ways, most)].sort()).toEqual([...kept].sort());
  });
});
