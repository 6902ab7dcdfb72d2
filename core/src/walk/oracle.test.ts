import fc from 'fast-check';
import { expect, test } from 'vitest';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import { scopeOf } from '../lines/scope.ts';
import { framesOf, type Piece } from '../piece/piece.ts';
import { compile } from '../program/compile.ts';
import { startFrames, update, type Program } from '../program/program.ts';
import { replay, start } from '../run/run.ts';
import { PlainStore } from '../run/store.ts';
import { exploreNaively, moveOf, textOf } from '../testing/naive.ts';
import { randomOperations } from '../testing/arbitrary.ts';
import { timesOver } from '../testing/runs.ts';
import { generator } from '../testing/large.ts';
import { richPiece, threadOn } from '../testing/rich.ts';
import { Ambient } from './ambient.ts';
import { judge } from './audit.ts';
import type { Exploration, Exploring } from './exploration.ts';
import { explore, exploring, startOf } from './explore.ts';
import { settle } from './settle.ts';
import { Slots } from './slots.ts';
import { tellingOf } from './telling.ts';

const seeds = fc.integer({ min: 0, max: 1e9 });

/** So many states of a piece are explored by trying all there is. */
const MOST = 400;

test('exploring says what running every event in every state says, of pieces with everything in them', () => {
  let whole = 0;
  fc.assert(
    fc.property(seeds, (seed) => {
      const program = compile(richPiece(seed));
      const theirs = exploreNaively(program, MOST, 5);
      const exploration = explore(program, { maxStates: MOST * 3, slicedFrom: MOST * 3 });
      const telling = tellingOf(program);
      const slots = new Slots(program, telling, () => undefined);
      const textAt = exploration.states.map((_, at) => textOf(program, new Ambient(program), slots, exploration.runOf(at), telling));
      const moves = new Set(
        exploration.edges.states.flatMap((at) => exploration.edges.of(at).map(({ to, event }) => moveOf(textAt[at]!, event, textAt[to]!)))
      );
      const mine = { states: new Set(textAt), fired: exploration.fired };
      // A timeline is looked at where it was last and where it comes to, not at every moment between.
      if (!theirs.isPlayed && (exploration.unfollowed.size === 0 || theirs.isWhole)) {
        expect([...theirs.states].filter((one) => !mine.states.has(one))).toEqual([]);
        expect([...theirs.fired].filter((one) => !mine.fired.has(one))).toEqual([]);
        // A move that stays is no edge.
        const isMove = (one: string) => !moves.has(one) && !stays(one);
        expect([...theirs.single].filter(isMove).slice(0, 1)).toEqual([]);
      }
      if (!theirs.isWhole || theirs.isPlayed) return;
      whole++;
      expect([...mine.states].filter((one) => !theirs.states.has(one))).toEqual([]);
      expect([...mine.fired].filter((one) => !theirs.fired.has(one))).toEqual([]);
      expect([...moves].filter((one) => !theirs.moves.has(one) && !stays(one)).slice(0, 1)).toEqual([]);
    }),
    { numRuns: timesOver(20) }
  );
  expect(whole).toBeGreaterThan(4);
});

function stays(move: string): boolean {
  const [from, , to] = move.split('\n');
  return from === to;
}

test('every route leads where it says when the engine replays it, of pieces with everything in them', () => {
  fc.assert(
    fc.property(seeds, (seed) => {
      const program = compile(richPiece(seed));
      const exploration = explore(program, { maxStates: 150 });
      const telling = tellingOf(program);
      const slots = new Slots(program, telling, () => undefined);
      const ambient = new Ambient(program);
      exploration.states.forEach(({ frame }, at) => {
        const { run } = replay(program, start(program, startOf(exploration, at))!, exploration.routeTo(at));
        const store = new PlainStore(run);
        settle(program, store, telling, ambient);
        expect(run.frame).toBe(frame);
        // Where a playhead was on its way when it was read, a route comes a moment later than what is explored.
        const [there, here] = [store.run, exploration.runOf(at)].map((one) => textOf(program, new Ambient(program), slots, one, telling));
        expect(there!.replace(NUMBER, '…')).toBe(here!.replace(NUMBER, '…'));
        const [ours = [], theirs = []] = [there, here].map((text) => Array.from(text!.matchAll(NUMBER), ([one]) => Number(one)));
        for (const [i, one] of ours.entries()) expect(Math.abs(one - theirs[i]!), `${i} of ${there}`).toBeLessThanOrEqual(1);
      });
      expect(exploration.reached.size).toBeGreaterThanOrEqual(startFrames(program).length);
    }),
    { numRuns: timesOver(12) }
  );
});

const NUMBER = /\d+(\.\d+)?/g;

test('what was learned before an edit is true after it: explored on from there is explored anew', () => {
  fc.assert(
    fc.property(seeds, (seed) => {
      let program = compile(richPiece(seed));
      // To the end, where it can be kept as a whole, or only so far.
      const most = seed % 2 ? 120 : 900;
      let going = exploringOf(program, null, most);
      for (let round = 0; round < 5; round++) {
        const applied = apply(program.piece, editsOf(program.piece, seed + round));
        if (!applied.ok) continue;
        program = update(program, applied.value.piece, applied.value.touched);
        going = exploringOf(program, going, most);
        const made = compile(applied.value.piece);
        const anew = exploringOf(made, null, most);
        const [kept, fresh] = [going.result(), anew.result()];
        expect(wordsOf(program, kept)).toEqual(wordsOf(program, fresh));
        expect(judge(program, kept).findings).toEqual(judge(made, fresh).findings);
      }
    }),
    // The example is one of which it turns out late that it counts how far its playheads have come.
    { numRuns: timesOver(9), examples: [[999_999_976]] }
  );
});

function exploringOf(program: Program, earlier: Exploring | null, most: number): Exploring {
  const begun = exploring(program, earlier);
  begun.on(most);
  return begun;
}

/** Edits of layers and scenes, of where the piece starts, or of one thread. */
function editsOf(piece: Piece, seed: number): Operation[] {
  const random = generator(seed);
  const one = <T>(list: Iterable<T>): T | undefined => {
    const all = [...list];
    return all[Math.floor(random() * all.length)];
  };
  const layer = one(piece.layers.values());
  if (random() < 0.5) {
    const scene = one(piece.scenes.values())!;
    const frame = one(framesOf(piece));
    const state = one(Object.keys(scene.states ?? {}));
    const set = (path: string[], value: unknown): Operation => ({ op: 'set', table: 'scenes', id: scene.id, path, value });
    const hidden: Operation | undefined = layer && { op: 'set', table: 'layers', id: layer.id, path: ['hidden'], value: random() < 0.5 };
    const edits: (Operation | undefined)[] = [
      frame && { op: 'set', table: 'piece', id: piece.head.id, path: ['start'], value: [frame.id] },
      set(['name'], `Named ${seed}`),
      set(['ending'], random() < 0.5),
      set(['height'], 100 + Math.floor(random() * 900)),
      state === undefined ? undefined : set(['states', state, 'name'], `State ${seed}`),
      state === undefined ? undefined : set(['initial'], state),
      hidden,
      hidden,
      layer && { op: 'set', table: 'layers', id: layer.id, path: ['name'], value: one(['Box 7', 'Harbour', 'button'])! },
      layer?.text === undefined ? undefined : { op: 'set', table: 'layers', id: layer.id, path: ['text'], value: one(['Ebb', 'Flood', ' '])! },
    ];
    const edit = one(edits);
    if (edit) return [edit];
  }
  if (random() < 0.5 || !layer) return randomOperations(piece, seed);
  const thread = one(piece.threads.keys());
  if (random() < 0.3 && thread !== undefined) return [{ op: 'set', table: 'threads', id: thread, path: ['enabled'], value: random() < 0.5 }];
  return [threadOn(random, `n${seed}`, 'layer', layer.id, scopeOf(piece, layer.scene, layer.id))];
}

/** Everything that was found, with states as texts. */
function wordsOf(program: Program, exploration: Exploration) {
  const telling = tellingOf(program);
  const slots = new Slots(program, telling, () => undefined);
  const texts = exploration.states.map((_, at) => textOf(program, new Ambient(program), slots, exploration.runOf(at), telling));
  const edges = exploration.edges.states.map((at) => exploration.edges.of(at).map(({ to, event, threads }) => [texts[to], event, threads]));
  const { moves, cut, fired, reached, gaps } = exploration;
  return { texts, edges, moves, cut, fired: [...fired].sort(), reached: [...reached], gaps };
}
