import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compose, layerId } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { branchKey } from '../run/runner.ts';
import { advance, begin, replay, start } from '../run/run.ts';
import { richPiece } from '../testing/rich.ts';
import { timesOver } from '../testing/runs.ts';
import { explore } from './explore.ts';
import { guide, planRoutes } from './plan.ts';

const button = (y: number, ...lines: string[]) => ({ at: [0, y, 100, 60] as const, lines });

const piece = compose({
  variables: { seats: { type: 'number', initial: 1, min: 0, max: 1 } },
  frames: {
    home: { layers: { on: button(0, 'click → go to shop'), never: button(100, 'drop → go to shop') } },
    shop: {
      layers: {
        buy: button(0, 'click → if seats > 0 → set seats to 0; then go to done; otherwise → go to full'),
        back: button(100, 'click → go to back'),
      },
    },
    done: { layers: { again: button(0, 'click → go to shop') }, lines: ['after 2 s → go to home'] },
    full: { layers: { home: button(0, 'click → go to home') } },
  },
});

const firedBy = (program: ReturnType<typeof compile>, from: string, events: Parameters<typeof replay>[2]): Set<string> => {
  const begun = begin(program, from)!;
  const reports = [...begun.reports, ...replay(program, begun.run, events).reports];
  return new Set(reports.flatMap(({ fired }) => fired.map((one) => branchKey(one.thread, one.branch))));
};

test('one route fires every branch of a small piece that can fire, and is not shorter than can be', () => {
  const program = compile(piece);
  const plan = planRoutes(program, explore(program));
  expect(plan.missed).toEqual([]);
  expect(plan.routes.flatMap(({ fires }) => fires)).toHaveLength(7);
  expect(plan.routes).toHaveLength(1);
  expect(plan.least).toBe(7);
  expect(plan.length).toBeGreaterThanOrEqual(plan.least);
  expect(plan.length).toBeLessThan(14);
});

test('routes fire what they say, in pieces with everything in them, and what is missed is said', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e9 }), (seed) => {
      const program = compile(richPiece(seed));
      const exploration = explore(program, { maxStates: 60 });
      const plan = planRoutes(program, exploration);
      for (const { from, events, fires } of plan.routes) expect([...firedBy(program, from, events)]).toEqual(expect.arrayContaining([...fires]));
      const all = [...plan.routes.flatMap(({ fires }) => fires), ...plan.missed];
      expect(all.toSorted()).toEqual([...exploration.branches].sort());
      expect(plan.length).toBeGreaterThanOrEqual(plan.least);
    }),
    // In the first one a thread is fired by the event that leads to its frame, in the other as the piece begins.
    { numRuns: timesOver(12), examples: [[120839716], [518308587]] }
  );
});

test('the guide leads from where one is to the nearest branch that was not walked, until there is none', () => {
  const program = compile(piece);
  const exploration = explore(program);
  let run = start(program)!;
  const walked = new Set<string>();
  let steps = 0;
  for (let next = guide(program, exploration, run, walked); next; next = guide(program, exploration, run, walked)) {
    for (const event of next.events) {
      const done = advance(program, run, event);
      run = done.run;
      steps++;
      for (const report of done.reports) for (const fired of report.fired) walked.add(branchKey(fired.thread, fired.branch));
    }
    expect(walked).toContain(next.branch);
    expect(steps).toBeLessThan(40);
  }
  expect(walked.size).toBe(7);
  // Off the path, it goes on from there.
  const off = replay(program, start(program)!, [{ type: 'click', layer: layerId('home', 'on') }]).run;
  expect(guide(program, exploration, off, new Set())!.events).toHaveLength(1);
});
