import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compose } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { seat } from '../testing/seats.ts';
import { richPiece } from '../testing/rich.ts';
import { timesOver } from '../testing/runs.ts';
import { explore } from '../walk/explore.ts';
import { RecordingStore } from './recording.ts';
import { resolveScreen, standingScreen, type Screen, type Stood } from './resolve.ts';
import { start } from './run.ts';
import type { RunState } from './state.ts';

const placesOf = (screen: Screen<Stood>) =>
  screen.surfaces.map(({ scene, kind, x, y, scroll, all }) => ({
    scene,
    kind,
    x,
    y,
    scroll,
    all: all.map((one) => ({
      key: one.node.key,
      parent: one.parent?.node.key,
      inside: one.children.map(({ node }) => node.key),
      box: [one.x, one.y, one.width, one.height, one.rotation, one.scale],
      matrix: one.matrix,
      scroll: one.scroll,
    })),
  }));

test('where things stand is the same whether their looks are looked at or not, in every state of pieces with everything in them', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e9 }), (seed) => {
      const program = compile(richPiece(seed));
      const exploration = explore(program, { maxStates: 30 });
      const runs = exploration.states.map((_, at) => exploration.runOf(at));
      const hovered = runs.map((run): RunState => ({
        ...run,
        over: Object.keys(run.roots).flatMap((id) => [...program.scenes.get(id)!.byId.keys()]),
      }));
      for (const run of [
        ...runs,
        ...hovered.map((run) => ({
          ...run,
          pressed: { node: run.over[0] ?? '', scene: run.frame, from: { x: 0, y: 0 }, at: 0, drag: null, spent: false },
        })),
      ])
        expect(placesOf(standingScreen(program, run))).toEqual(placesOf(resolveScreen(program, run)));
    }),
    { numRuns: timesOver(20) }
  );
});

const seats = compose({
  parts: {
    Seat: seat(20, 20),
  },
  frames: {
    home: {
      layers: {
        one: { type: 'placement', part: 'Seat', at: [0, 0, 20, 20] },
        two: { type: 'placement', part: 'Seat', at: [30, 0, 20, 20] },
      },
    },
  },
});

test('asked where things stand, nothing is read of a run that only changes how they look', () => {
  const program = compile(seats);
  const store = RecordingStore.on(start(program)!);
  standingScreen(program, store.run);
  expect(store.reads.filter((name) => typeof name === 'string' && name.includes('|states|'))).toEqual([]);
  resolveScreen(program, store.run);
  expect(store.reads.filter((name) => typeof name === 'string' && name.includes('|states|'))).toEqual([
    'home|states|home_one',
    'home|states|home_two',
  ]);
});
