import { describe, expect, test } from 'vitest';
import { compose, type PlacedSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { branchKey } from '../run/runner.ts';
import { generator } from '../testing/large.ts';
import { timesOver } from '../testing/runs.ts';
import { judge } from './audit.ts';
import { explore } from './explore.ts';

/** Numbers that count on without end, beside each other, by any steps, in sums, totals and rounds: all that can come of them is told. */

const number = (initial = 0) => ({ type: 'number' as const, initial });
const button = (y: number, line: string): PlacedSpec => ({ at: [0, y, 200, 40], text: 'Go', lines: [line] });

/** A piece of one frame whose buttons count, and two that one more leads to. */
function found(variables: readonly string[], lines: readonly string[], more: readonly string[] = [], maxStates = 3000) {
  const back = { layers: { back: button(0, 'click → go to home') } };
  const layers = Object.fromEntries(lines.map((line, i) => [`b${i}`, button(i * 60, `click → ${line}`)]));
  const spec = {
    variables: Object.fromEntries(variables.map((name) => [name, number()])),
    frames: { home: { layers, lines: more }, win: back, lose: back },
  };
  const program = compile(compose(spec));
  const exploration = explore(program, { maxStates });
  const { findings } = judge(program, exploration);
  const told = findings.filter(({ rule }) => ['never-fires', 'unreachable-frame', 'dead-end', 'no-effect'].includes(rule));
  return { cut: exploration.cut, told: told.map(({ rule, sentence }) => `${rule}: ${sentence}`), program, exploration };
}

const isWon = (condition: string) => `if ${condition} → go to win; otherwise → go to lose`;
const never = (condition: string) => expect.stringContaining(`“${condition}” never holds`);

describe('numbers without end', () => {
  const plus = ['set a to a + 1', 'if a > 0 → set a to a - 1', 'set b to b + 1', 'if b > 0 → set b to b - 1'];

  test.each([
    ['a counter, by what is left of it', ['a'], ['set a to a + 1', isWon('modulo(a, 3) = 2')]],
    ['up and down, by what is left of it', ['a'], ['set a to a + 1', 'set a to a - 1', isWon('modulo(a, 4) = 3')]],
    ['rounded down', ['a'], ['set a to a + 1', isWon('floor(a / 2) >= 3')]],
    ['prices that differ', ['a'], ['set a to a + 4', 'set a to a + 7', 'if a >= 4 → set a to a - 4', isWon('a > 20')]],
    ['two beside each other', ['a', 'b'], ['set a to a + 1', 'set b to b + 1', isWon('a > b')]],
    ['the best so far', ['a', 'b'], ['set a to a + 1', 'set a to 0', 'if a > b → set b to a; then go to win; otherwise → go to lose']],
    ['what it was before', ['a', 'b'], ['set b to a; then set a to a + 1', isWon('a = b')]],
    ['the sum of two', ['a', 'b'], [...plus, isWon('a + b > 4')]],
    ['the best so far, as the greater of two', ['a', 'b'], ['set a to a + 1', 'set b to max(b, a); then set a to 0', isWon('b > 5')]],
    ['a total', ['a', 'b', 'c'], [...plus.map((line) => `${line}; then set c to a * 12 + b * 8`), isWon('c > 40')]],
    ['a total of a total', ['a', 'b', 'c'], ['set a to a + 1; then set b to a * 10; then set c to b + 4', isWon('c > 40')]],
  ])('are walked whole: %s', (_, variables, lines) => {
    expect(found(variables, lines)).toMatchObject({ cut: null, told: [] });
  });

  test.each([
    ['modulo(a, 4) = 3', ['a'], ['set a to a + 2']],
    ['floor(a / 4) = 1', ['a'], ['set a to a + 10']],
    ['a = 5', ['a'], ['set a to a + 4', 'set a to a + 6', 'set a to a - 4']],
    ['a < b', ['a', 'b'], ['set a to a + 1', 'if b < a → set b to b + 1']],
    ['a + b < 0', ['a', 'b'], plus],
    ['c = 30', ['a', 'b', 'c'], plus.map((line) => `${line}; then set c to a * 12 + b * 8`)],
  ])('what never comes about is said: %s', (condition, variables, lines) => {
    const { cut, told } = found(variables, [...lines, isWon(condition)]);
    expect([cut, told]).toEqual([null, expect.arrayContaining([never(condition)])]);
  });

  test('what is not told is not claimed: a sum that falls below what it was taken never to, two that stand in proportion, four beside each other', () => {
    expect(found(['a', 'b'], ['set a to a + 1', 'set a to a - 1', 'set b to b + 1', isWon('a + b < -9')])).toMatchObject({
      cut: 'not tried: how far a can count',
      told: [],
    });
    const counted = ['set a to a + 1', 'set b to b + 1', 'set c to c + 1', 'set d to d + 1'];
    expect(found(['a', 'b'], [...counted.slice(0, 2), isWon('a > b * 2')]).cut).toMatch(/^stopped at/);
    expect(found(['a', 'b', 'c', 'd'], [...counted, isWon('a > b and b > c and c > d')]).cut).toMatch(/^stopped at/);
  });

  test('three beside each other, as votes are, are walked whole', () => {
    const votes = ['set a to a + 1', 'set b to b + 1', 'set c to c + 1'];
    const asked = 'if a > b and b > c → go to win; otherwise if a > b and b > c and c > a → go to lose';
    const { cut, told, exploration } = found(['a', 'b', 'c'], [...votes, asked], [], 25_000);
    expect([cut, exploration.reached.has('win'), told]).toEqual([null, true, expect.arrayContaining([never('a > b and b > c and c > a')])]);
  });

  test('a total that something waits for is followed as it is', () => {
    const { cut } = found(['a', 'b'], ['set a to a + 1; then set b to a * 2', isWon('b > 4')], ['variable b → if b = 6 → go to win']);
    expect(cut).toMatch(/^stopped at/);
  });

  test('words say of a number by what is left of it which it is', () => {
    const { told } = found(['a'], ['set a to a + 1; then go to lose', 'if modulo(a, 2) = 0 and a > 4 → go to win']);
    expect(told).toEqual([]);
    const { told: stuck } = found(['a'], ['if modulo(a, 3) != 2 → set a to a + 1']);
    expect(stuck).toContain('dead-end: Nothing leads on from home while a is 2.');
  });
});

type Values = readonly number[];
interface Line {
  readonly words: string;
  /** The branches in order: when each is taken, and what the values are then. */
  readonly branches: readonly { readonly when: (values: Values) => boolean; readonly then: (values: Values) => Values }[];
}

const NAMES = ['a', 'b', 'c'] as const;

/** Buttons that count in any of the ways that are followed, with what they do written a second time, to be followed by hand. */
function anyLines(seed: number): Line[] {
  const random = generator(seed);
  const below = (most: number) => Math.floor(random() * most);
  const which = () => below(3);
  const asked = (): { words: string; is: Line['branches'][number]['when'] } => {
    const [i, j, n] = [which(), which(), below(7) - 2];
    const kinds = [
      { words: `${NAMES[i]} > ${n}`, is: (v: Values) => v[i]! > n },
      { words: `${NAMES[i]} = ${n}`, is: (v: Values) => v[i] === n },
      { words: `${NAMES[i]} < ${n}`, is: (v: Values) => v[i]! < n },
      { words: `modulo(${NAMES[i]}, 3) = 1`, is: (v: Values) => ((v[i]! % 3) + 3) % 3 === 1 },
      { words: `floor(${NAMES[i]} / 2) = ${n}`, is: (v: Values) => Math.floor(v[i]! / 2) === n },
      { words: `${NAMES[i]} > ${NAMES[j]}`, is: (v: Values) => v[i]! > v[j]! },
      { words: `${NAMES[i]} - ${NAMES[j]} = ${n}`, is: (v: Values) => v[i]! - v[j]! === n },
      { words: `${NAMES[i]} + ${NAMES[j]} * 2 > ${n + 2}`, is: (v: Values) => v[i]! + v[j]! * 2 > n + 2 },
    ];
    return kinds[below(seed % 3 === 0 ? 8 : 5)]!;
  };
  const set = (values: Values, at: number, value: number): Values => values.map((old, i) => (i === at ? value : old));
  const done = (): { words: string; then: (values: Values) => Values } => {
    const [i, j, n] = [which(), which(), below(4) - (below(3) ? 0 : 3)];
    const kinds = [
      { words: `set ${NAMES[i]} to ${NAMES[i]} + ${n}`, then: (v: Values) => set(v, i, v[i]! + n) },
      { words: `set ${NAMES[i]} to ${NAMES[i]} - 1`, then: (v: Values) => set(v, i, v[i]! - 1) },
      { words: `set ${NAMES[i]} to ${NAMES[i]} + 1`, then: (v: Values) => set(v, i, v[i]! + 1) },
      { words: `set ${NAMES[i]} to 0`, then: (v: Values) => set(v, i, 0) },
      { words: `set ${NAMES[i]} to ${NAMES[j]}`, then: (v: Values) => set(v, i, v[j]!) },
      { words: `set c to a * 3 + b`, then: (v: Values) => set(v, 2, v[0]! * 3 + v[1]!) },
    ];
    return kinds[below(seed % 2 ? 4 : 6)]!;
  };
  return Array.from({ length: 3 + below(3) }, () => {
    const [one, other, does, more] = [asked(), asked(), done(), done()];
    if (below(3) === 0) return { words: does.words, branches: [{ when: () => true, then: does.then }] };
    return {
      words: `if ${one.words} → ${does.words}; otherwise if ${other.words} → ${more.words}`,
      branches: [
        { when: one.is, then: does.then },
        { when: other.is, then: more.then },
      ],
    };
  });
}

/** The branches that are ever taken, as `button branch`, as long as no value goes beyond a bound. */
function takenByHand(lines: readonly Line[], bound: number, most: number): Set<string> {
  const taken = new Set<string>();
  const known = new Set(['0,0,0']);
  const queue: Values[] = [[0, 0, 0]];
  for (const values of queue) {
    if (queue.length > most) break;
    for (const [i, { branches }] of lines.entries()) {
      const at = branches.findIndex(({ when }) => when(values));
      if (at < 0) continue;
      taken.add(`${i} ${at}`);
      const next = branches[at]!.then(values);
      if (known.has(next.join()) || next.some((value) => Math.abs(value) > bound)) continue;
      known.add(next.join());
      queue.push(next);
    }
  }
  return taken;
}

test('what is said of numbers without end is so however far they are counted', () => {
  let whole = 0;
  for (let seed = 0; seed < timesOver(12); seed++) {
    const lines = anyLines(seed);
    const { cut, program, exploration } = found(
      NAMES,
      lines.map(({ words }) => words)
    );
    const threads = lines.map((_, i) => [...program.piece.threads.values()].find(({ owner }) => program.piece.layers.get(owner)?.name === `b${i}`)!);
    const said = lines.flatMap(({ branches }, i) =>
      branches.flatMap((_, at) => (exploration.branches.has(branchKey(threads[i]!.id, at)) ? `${i} ${at}` : []))
    );
    const taken = [...takenByHand(lines, 40, 60_000)];
    const words = lines.map((line) => line.words);
    // What is met is really met, and where all is said to be, nothing else is.
    expect([words, said.filter((one) => !taken.includes(one))]).toEqual([words, []]);
    if (cut !== null) continue;
    whole++;
    expect([words, taken.filter((one) => !said.includes(one))]).toEqual([words, []]);
  }
  expect(whole).toBeGreaterThan(7);
}, 60_000);
