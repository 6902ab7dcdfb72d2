import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import type { Program } from '../program/program.ts';
import { outwardNodes } from '../program/node.ts';
import { catchAt } from '../run/pointer.ts';
import { boundsOf, standingScreen } from '../run/resolve.ts';
import { advance, begin } from '../run/run.ts';
import { branchKey } from '../run/runner.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { generator } from '../testing/large.ts';
import { richPiece } from '../testing/rich.ts';
import { timesOver } from '../testing/runs.ts';
import { explore } from './explore.ts';

/** What a hand does, whatever the walk would try: it comes, presses, moves on, waits, lets go, and types, at points of the screen. */
function byHand(program: Program, run: RunState, random: () => number, down: 'still' | 'moved' | null): RunEvent {
  const screen = standingScreen(program, run);
  const all = screen.surfaces.flatMap((surface) => surface.all.map((one) => boundsOf(one)));
  const box = all.length > 0 && random() < 0.9 ? all[Math.floor(random() * all.length)]! : { x: 0, y: 0, width: screen.width, height: screen.height };
  const within = (from: number, size: number, most: number) => Math.min(most - 1, Math.max(0, from + random() * size));
  const point = { x: within(box.x, box.width, screen.width), y: within(box.y, box.height, screen.height) };
  const kind = random();
  if (kind < 0.2) return { type: 'wait', ms: Math.floor(random() * 1500) };
  // Nobody comes back to where he pressed, to find there what has run away from under him.
  const there = down === 'still' && kind < 0.8 && run.pressed?.from;
  if (down) return kind < 0.5 ? { type: 'move', ...point } : { type: 'release', ...(there || point) };
  if (kind < 0.32) return { type: 'move', ...point };
  if (kind < 0.4) return { type: 'key', key: ['Enter', 'k', 'Escape', 'ArrowRight'][Math.floor(random() * 4)]! };
  // Fields take presses as the controls that they are.
  const field = outwardNodes(catchAt({ program, run }, point).shown?.node ?? null).find(({ layer }) => layer.field);
  return field ? { type: 'click', layer: field.key } : { type: 'press', ...point };
}

test('nothing is done by hand that was not found before, of pieces that are explored whole', () => {
  let fired = 0;
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e9 }), (seed) => {
      const program = compile(richPiece(seed));
      const found = explore(program, { maxStates: 1500 });
      const begun = begin(program);
      if (found.cut !== null || !begun) return;
      const random = generator(seed);
      for (let round = 0; round < 6; round++) {
        let { run } = begun;
        let down: 'still' | 'moved' | null = null;
        const done: RunEvent[] = [];
        for (let i = 0; i < 40; i++) {
          const event = byHand(program, run, random, down);
          if (event.type === 'press' || event.type === 'release') down = event.type === 'press' ? 'still' : null;
          else if (event.type === 'move' && down) down = 'moved';
          const next = advance(program, run, event);
          run = next.run;
          done.push(event);
          const met = next.reports.flatMap((report) => report.fired.map(({ thread, branch }) => branchKey(thread, branch)));
          fired += met.length;
          expect(
            [...met.filter((one) => !found.branches.has(one)), ...[run.frame].filter((one) => !found.reached.has(one))],
            JSON.stringify(done)
          ).toEqual([]);
        }
      }
    }),
    { numRuns: timesOver(60) }
  );
  expect(fired).toBeGreaterThan(100);
}, 120_000);
