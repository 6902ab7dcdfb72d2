import { describe, expect, test } from 'vitest';
import { Incidence, type Set32 } from './incidence.ts';

/** Numbers that look random, the same each time. */
function numbers(seed: number): (below: number) => number {
  let at = seed;
  return (below) => (at = (Math.imul(at, 1103515245) + 12345) >>> 0) % below;
}

describe('pairs of numbers as bits', () => {
  test('what of a set does not stand with a number is found, from both sides', () => {
    const next = numbers(7);
    const incidence = new Incidence();
    const pairs = new Set<string>();
    for (let i = 0; i < 3000; i++) {
      const [a, b] = [next(40), next(300)];
      incidence.put(a, b);
      pairs.add(`${a} ${b}`);
    }
    const [seconds, firsts]: [Set32[], Set32[]] = [[], []];
    const [some, few] = [new Set<number>(), new Set<number>()];
    for (let i = 0; i < 60; i++) {
      const [a, b] = [next(60), next(400)];
      incidence.add(seconds, 5, b);
      incidence.add(firsts, 0, a);
      some.add(b);
      few.add(a);
    }
    for (let a = 0; a < 60; a++) {
      const found: number[] = [];
      incidence.eachOther(seconds[5], a, (b) => found.push(b));
      expect(found).toEqual([...some].filter((b) => !pairs.has(`${a} ${b}`)).sort((one, other) => one - other));
    }
    for (let b = 0; b < 400; b++) {
      const found: number[] = [];
      incidence.eachOtherWith(firsts[0], b, (a) => found.push(a));
      expect(found).toEqual([...few].filter((a) => !pairs.has(`${a} ${b}`)).sort((one, other) => one - other));
    }
  });

  test('pairs may be put while what is missing is gone over', () => {
    const incidence = new Incidence();
    const sets: Set32[] = [];
    for (let b = 0; b < 200; b += 3) incidence.add(sets, 0, b);
    const found: number[] = [];
    incidence.eachOther(sets[0], 4, (b) => {
      found.push(b);
      incidence.put(4, b);
    });
    expect(found).toHaveLength(67);
    incidence.eachOther(sets[0], 4, (b) => found.push(b));
    expect(found).toHaveLength(67);
  });

  test('nothing is kept any longer where there would be too many', () => {
    const incidence = new Incidence(1000);
    for (let a = 0; a < 100 && incidence.isWhole; a++) for (let b = 0; b < 1000; b += 7) incidence.put(a, b);
    expect(incidence.isWhole).toBe(false);
    const sets: Set32[] = [];
    incidence.add(sets, 0, 3);
    expect(sets).toEqual([]);
  });
});
