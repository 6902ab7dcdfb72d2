import { expect, test } from 'vitest';
import type { ResultStep, ResultTrail, ReviewResults } from '$lib/shared/types';
import { framesOfGo, missedOn, partingOf, pressesByFrame, sheetOf, taskResult, timesFired, waysWalked } from './results';

const step = (on: string, to = on, met = true, at: [number, number] = [10, 20]): ResultStep => ({
  on,
  to,
  met,
  under: met ? null : 'book',
  whyNot: met ? null : 'Terms is no.',
  threads: on === to ? [] : [`${on}-${to}`],
  at,
});
let n = 0;
const go = (holder: string, steps: ResultStep[] | null, more: Partial<ResultTrail> = {}): ResultTrail => ({
  id: `go${n++}`,
  holder,
  task: 'book',
  begun: `2026-11-29T00:00:${String(n).padStart(2, '0')}Z`,
  givenUp: false,
  isFull: false,
  from: 'plan',
  steps,
  reached: null,
  ms: 5000,
  ...more,
});
const reached = (steps: number, ms = 4000) => ({ reached: { steps, ms } });
const task = { id: 'book', sentence: 'Book two seats', start: null, goal: { frame: 'paid' } };
const way = { frames: ['plan', 'summary', 'paid'], steps: 3 };

const results = (trails: ResultTrail[]): ReviewResults => ({
  holders: [...new Set(trails.map(({ holder }) => holder))].map((id) => ({ id, name: id.toUpperCase(), came: '2026-11-29T00:00:00Z' })),
  trails,
  leftOut: 0,
});

test('of somebody who tried twice the go that reached it counts; each person counts once', () => {
  const found = taskResult(
    task,
    results([
      go('a', [step('plan', 'help')], { givenUp: true }),
      go('a', [step('plan', 'summary'), step('summary', 'paid')], reached(2)),
      go('b', [step('plan', 'help'), step('help', 'help', false)], { givenUp: true }),
      go('c', [step('plan')]),
      go('d', [step('plan', 'summary'), step('summary', 'paid')], reached(4, 9000)),
      go('e', null),
      go('f', [step('plan')], { task: null }),
    ]),
    { book: way }
  );
  expect(found).toMatchObject({ reached: 2, givenUp: 1, left: 1, steps: 3, ms: 6500, shortest: 3, nothing: 1 });
  expect(found.goes.map(({ holder }) => holder)).toEqual(['a', 'b', 'c', 'd']);
  expect(found.partings).toEqual([
    { at: 'plan', to: 'help', count: 2 },
    { at: 'plan', to: null, count: 1 },
  ]);
});

test('without a shortest way goes are counted, and held against nothing', () => {
  const found = taskResult(task, results([go('a', [step('plan', 'help')], { givenUp: true })]), null);
  expect(found).toMatchObject({ givenUp: 1, shortest: null, partings: [] });
});

test('where a way parts from the shortest', () => {
  const of = (steps: ResultStep[], more = {}) => partingOf(go('a', steps, more), way.frames);
  expect(of([step('plan', 'summary'), step('summary', 'paid')], reached(2))).toBeNull();
  expect(of([step('plan', 'summary'), step('summary', 'terms'), step('terms', 'summary'), step('summary', 'paid')], reached(4))).toEqual({
    at: 'summary',
    to: 'terms',
  });
  expect(of([step('plan'), step('plan', 'summary')])).toEqual({ at: 'summary', to: null });
  expect(of([])).toEqual({ at: 'plan', to: null });
  // One that began elsewhere is held against nothing.
  expect(of([step('home', 'plan')], { from: 'home' })).toBeNull();
});

test('presses by frame, the worst first; ways by how often they were gone', () => {
  const trails = [
    go('a', [step('plan', 'plan', false, [1, 2]), step('plan', 'summary'), step('summary', 'plan')]),
    go('b', [step('plan', 'summary')]),
    go('c', null),
  ];
  expect(pressesByFrame(trails).map(({ frame, nothing, presses }) => [frame, nothing, presses.length])).toEqual([
    ['plan', 1, 3],
    ['summary', 0, 1],
  ]);
  expect([...timesFired(trails)]).toEqual([
    ['plan-summary', 2],
    ['summary-plan', 1],
  ]);
  expect(missedOn(trails, 'plan')).toEqual([{ under: 'book', whyNot: 'Terms is no.', count: 1 }]);
  expect(missedOn(trails, 'summary')).toEqual([]);
  expect(waysWalked(trails)).toEqual([
    { from: 'plan', to: 'summary', count: 2 },
    { from: 'summary', to: 'plan', count: 1 },
  ]);
});

test('a sheet has a line for each go, and says what was cut', () => {
  const lines = sheetOf(
    results([go('a', [step('plan', 'paid')], { ...reached(1), isFull: true }), go('b', null), go('c', [], { task: 'gone' })]),
    { book: way },
    [task],
    (frame) => frame.toUpperCase()
  );
  expect(lines[0]).toMatchObject({
    person: 'A',
    task: 'Book two seats',
    outcome: 'reached',
    steps: 1,
    'shortest way': 3,
    seconds: 4,
    frames: 'PLAN > PAID',
  });
  expect(lines[0]!['cut']).toBe('more was done than was kept');
  expect(lines[1]).toMatchObject({ outcome: 'cannot be run again', frames: '' });
  expect(lines[2]).toMatchObject({ task: 'a task that is gone', outcome: 'left', 'shortest way': '' });
  expect(sheetOf(results([go('a', [])]), null, [task], String)[0]).toMatchObject({ 'shortest way': 'not known' });
});

test('frames of a go are said once for each stay', () => {
  expect(framesOfGo('a', [step('a'), step('a', 'b'), step('b'), step('b', 'a')])).toEqual(['a', 'b', 'a']);
});
