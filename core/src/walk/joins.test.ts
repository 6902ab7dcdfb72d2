import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { startFrames, type Program } from '../program/program.ts';
import { advance, begin, replay } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import type { Exploration } from './exploration.ts';
import { explore } from './explore.ts';
import { judge } from './audit.ts';
import { isHurry } from './hurry.ts';

const places = [0, 50, 100, 150, 200, 250];
const pieceOf = (lines: readonly (string | readonly string[])[], more: readonly string[] = []): Program =>
  compile(
    compose({
      variables: {
        Count: { type: 'number', initial: 0, min: 0, max: 3 },
        Last: { type: 'number', initial: 0, min: 0, max: 9 },
      },
      frames: {
        deck: {
          layers: Object.fromEntries(lines.map((line, i) => [`b${i}`, { at: [places[i]!, 0, 44, 44], lines: [line].flat() }])),
          lines: [...more],
        },
        pier: { layers: { home: { at: [0, 0, 44, 44], lines: ['click → go to deck'] } } },
      },
    } satisfies ComposeSpec)
  );

/** Pieces in which several things wait at once. */
const pieces: Readonly<Record<string, Program>> = {
  'two that count': pieceOf(['click → wait 200 ms; set Count to Count + 1', 'click → wait 200 ms; set Count to Count + 1']),
  'whose order matters': pieceOf(['click → wait 200 ms; set Last to Last * 2', 'click → wait 200 ms; set Last to Last + 1']),
  'that take longer than each other': pieceOf(['click → wait 100 ms; set Last to 1', 'click → wait 300 ms; set Last to 2']),
  'that go on waiting': pieceOf(['click → wait 100 ms; set Last to 1; wait 200 ms; set Last to 2', 'click → wait 200 ms; set Last to 3']),
  'two of which one press begins': pieceOf([
    ['click → wait 200 ms; set Last to 1', 'click → wait 200 ms; set Last to 2'],
    'click → wait 200 ms; set Last to 3',
  ]),
  'that end with the frame': pieceOf(['click → wait 200 ms; set Last to 1', 'click → wait 100 ms; set Last to 2', 'click → go to pier']),
  'of which one can only come after the other': pieceOf([
    'click → if Last != 1 → wait 200 ms; set Count to Count + 1',
    'click → if Last = 1 → set Last to 2; wait 200 ms; set Last to 3',
    'click → if Last = 0 → set Last to 1; go to pier',
  ]),
  'that are begun together, now this way and now that way': pieceOf(
    ['click → send one', 'click → send two', 'click → send two; send one', 'click → send one; send two'],
    ['signal one → wait 200 ms; set Last to 1', 'signal two → wait 200 ms; set Last to 2']
  ),
  'and a timer': pieceOf(['click → wait 200 ms; set Last to 1', 'click → wait 200 ms; set Last to 2'], ['after 300 ms → set Count to Count + 1']),
};

/** And one of which not every moment is tried: there are too many. */
const more: Readonly<Record<string, Program>> = {
  'three of which each takes longer': pieceOf([1, 2, 3].map((i) => `click → wait ${100 + i * 100} ms; set Last to ${i}`)),
};

/** A run but for how long what waits does so still. */
const wordsOf = ({ frame, variables, roots, activities }: RunState): string =>
  JSON.stringify([
    frame,
    variables.Count ?? 0,
    variables.Last ?? 0,
    roots[frame]?.timers.map(({ thread }) => thread),
    activities.map(({ thread, next }) => `${thread} ${next}`).sort(),
  ]);

/** What can be come to by pressing at moments so many ms apart, each thing twice at most before what it began has ended: tried one by one. */
function triedOut(program: Program, every: number): Set<string> {
  const met = new Set<string>();
  const words = new Set<string>();
  let edge: RunState[] = [begin(program, startFrames(program)[0]!)!.run];
  const clicks = [...program.piece.layers.keys()].map((layer): RunEvent => ({ type: 'click', layer }));
  while (edge.length) {
    const next: RunState[] = [];
    for (const run of edge) {
      const key = JSON.stringify([
        wordsOf(run),
        run.activities.map(({ thread, next: step, due }) => `${thread} ${step} ${Math.round(due - run.clock)}`),
        run.roots[run.frame]!.timers.map(({ due }) => Math.round(due - run.clock)),
      ]);
      if (met.has(key)) continue;
      met.add(key);
      words.add(wordsOf(run));
      for (const event of [...clicks, { type: 'wait', ms: every } as const]) {
        if (event.type === 'click' && program.piece.layers.get(event.layer!)!.scene !== run.frame) continue;
        const then = advance(program, run, event).run;
        if (!isHurry(then)) next.push(then);
      }
    }
    edge = next;
  }
  return words;
}

const wordsMet = ({ count, runOf }: Exploration): Set<string> => new Set(Array.from({ length: count }, (_, state) => wordsOf(runOf(state))));
const sorted = (words: ReadonlySet<string>): string[] => [...words].sort();
const whole = { maxStates: 20_000, slicedFrom: Infinity };

describe('states that are one whatever order things were set off in', () => {
  test.each(Object.entries(pieces))('%s: the same is come to as by pressing at every moment', (_, program) => {
    const exploration = explore(program, whole);
    expect(exploration.left).toBe(0);
    expect(sorted(wordsMet(exploration))).toEqual(sorted(triedOut(program, 50)));
  });

  test.each(Object.entries({ ...pieces, ...more }))(
    '%s: each route leads to its state, and there each thing can be done that is said to',
    (_, program) => {
      const exploration = explore(program, whole);
      const { edges, routeTo, states, count } = exploration;
      for (let state = 0; state < count; state += Math.ceil(count / 60)) {
        const begun = begin(program, states[state]!.start)!.run;
        expect(wordsOf(replay(program, begun, routeTo(state)).run)).toBe(wordsOf(exploration.runOf(state)));
        expect(edges.of(state)).not.toEqual([]);
        for (const { step, threads, to } of edges.of(state)) {
          const events = routeTo(state, [], [step]);
          const { run } = replay(program, begun, events.slice(0, -1));
          const last = advance(program, run, events.at(-1)!);
          expect(last.reports.flatMap(({ fired }) => fired.map(({ thread }) => thread))).toEqual(threads);
          expect(wordsOf(last.run)).toBe(wordsOf(exploration.runOf(to)));
        }
      }
    }
  );

  test('there are as many as ways of waiting, not as many as orders of pressing', () => {
    const counting = (count: number) => explore(pieceOf(places.slice(0, count).map(() => 'click → wait 300 ms; set Count to Count + 1')), whole);
    // Of each none, one or two wait; Count is 0 to 3. On the way some are met that turn out to be parts of others.
    const four = counting(4);
    expect(four.left).toBe(0);
    expect(new Set(wordsMet(four)).size).toBe(3 ** 4 * 4);
    expect(four.count).toBeLessThan(3 ** 4 * 4 * 3);
  });

  test('what is set off at one moment is still said to come at one moment, where the same can be set off at two', () => {
    const program = pieceOf(
      ['click → send one', 'click → send two', 'click → set Count to Count + 1', 'click → if Count = 3 → set Count to 0; send one; send two'],
      ['signal one → wait 200 ms; go to deck', 'signal two → wait 200 ms; go to pier']
    );
    const exploration = explore(program, whole);
    expect(judge(program, exploration).findings.map(({ rule }) => rule)).toContain('timer-race');
  });
});
