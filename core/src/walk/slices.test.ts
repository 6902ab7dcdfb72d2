import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec, type PlacedSpec } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import { keysBetween } from '../edit/order.ts';
import { framesOf, layersUnder, type Piece } from '../piece/piece.ts';
import { compile } from '../program/compile.ts';
import { seat } from '../testing/seats.ts';
import { unwrap } from '../result.ts';
import { richPiece } from '../testing/rich.ts';
import { timesOver } from '../testing/runs.ts';
import { audit, judge } from './audit.ts';
import { explore } from './explore.ts';
import { coreWords, type Outcome } from './outcome.ts';

const row = (count: number, made: (i: number) => PlacedSpec): Record<string, PlacedSpec> =>
  Object.fromEntries(Array.from({ length: count }, (_, i) => [`l${i}`, { at: [(i % 8) * 48, Math.floor(i / 8) * 48, 46, 46], ...made(i) }]));

/** Seats that are taken or free; with so many of them pay leads on. */
const seats = (count: number, pay: string): ComposeSpec => ({
  parts: {
    Seat: seat(46, 46),
  },
  frames: {
    plan: { layers: { ...row(count, () => ({ type: 'placement', part: 'Seat' })), pay: { at: [0, 700, 200, 60], lines: [pay] } } },
    paid: { layers: { home: { at: [0, 0, 90, 60], lines: ['click → go to plan'] } } },
    lost: {},
  },
});

/** Marks that are each set once, with a menu whose shade, so tall, lies over them while it is open. */
const underMenu = (tall: number): ComposeSpec => ({
  variables: {
    open: { type: 'yes/no', initial: false },
    ...Object.fromEntries(Array.from({ length: 9 }, (_, i) => [`v${i}`, { type: 'yes/no', initial: false }])),
  },
  sheets: {
    bar: {
      size: [390, 844],
      layers: {
        shade: { at: [0, 60, 390, tall], when: { shown: 'open' }, lines: ['click → set open to false'] },
        icon: { at: [0, 0, 390, 60], lines: ['click → set open to true'] },
      },
    },
  },
  frames: {
    plan: {
      over: ['bar'],
      lines: ['swipe left → go to plan'],
      layers: row(9, (i) => ({ at: [i * 30, 100, 20, 20], when: { enabled: `v${i} = false` }, lines: [`click → set v${i} to true`] })),
    },
  },
});

/** A piece with three more variables, each changed by a layer of its own and read by nothing else. */
function withToggles(piece: Piece): Piece {
  const [home] = framesOf(piece);
  const keys = keysBetween(layersUnder(piece, home!.id, null).at(-1)?.order ?? null, null, 3);
  const operations = [0, 1, 2].flatMap((i): Operation[] => [
    {
      op: 'put',
      table: 'variables',
      value: { id: `own${i}`, scene: null, order: keys[i]!, name: `own${i}`, type: 'yes/no', initial: false } as { id: string },
    },
    {
      op: 'put',
      table: 'layers',
      value: {
        id: `on${i}`,
        scene: home!.id,
        parent: null,
        order: keys[i]!,
        name: `on${i}`,
        type: 'box',
        pose: { x: 210 + 30 * i, y: 0, width: 28, height: 28 },
        style: {},
        bindings: { opacity: `if ‹own${i}› then 0.8 else 1` },
      } as { id: string },
    },
    {
      op: 'put',
      table: 'threads',
      value: {
        id: `turn${i}`,
        on: 'layer',
        owner: `on${i}`,
        order: 'a0',
        cue: { type: 'click' },
        branches: [{ steps: [{ do: 'set', variable: `own${i}`, value: `‹own${i}› = false` }] }],
        enabled: true,
      } as { id: string },
    },
  ]);
  return unwrap(apply(piece, operations)).piece;
}

const NOTHING: Outcome = {
  cleared: [],
  columns: [],
  values: [],
  isTaken: false,
  pushed: [],
  threads: [],
  branches: [],
  acted: [],
  clearing: [],
  entered: [],
  endless: [],
  failed: [],
  leaves: false,
  starts: [],
  ended: [],
  endedHeads: [],
  isHurry: false,
  isDeep: false,
};

describe('slices', () => {
  test('what has to be scrolled to is judged as in the whole, whatever else comes and goes on the way there', () => {
    const spec = seats(14, 'click → go to paid');
    const go = (x: number, y: number, line: string): PlacedSpec => ({ at: [x, y, 120, 48], text: 'Go', lines: [line] });
    const layers = {
      ...spec.frames['plan']!.layers,
      stray: go(20, 400, 'click → if stray.x < 100 → move stray to 200, 400; otherwise → move stray to 20, 400'),
      low: go(20, 1500, 'click → go to paid'),
      lid: { ...go(10, 1490, 'click → go to lost'), at: [10, 1490, 160, 70] as const },
      one: go(20, 1700, 'click → go to paid'),
      two: go(20, 1750, 'click → go to lost'),
    };
    const program = compile(compose({ ...spec, frames: { ...spec.frames, plan: { contentHeight: 2200, layers } } }));
    const told = (slicedFrom: number) => {
      const exploration = explore(program, { slicedFrom, maxStates: 60_000 });
      expect([exploration.cut, exploration.slices.length > 0]).toEqual([null, slicedFrom < 60_000]);
      return judge(program, exploration)
        .findings.filter(({ rule }) => rule === 'covered' || rule === 'crowded-hit')
        .map(({ sentence }) => sentence);
    };
    expect(told(100)).toEqual(['All of low lies behind lid, which takes the press.', 'one and two are 2 px apart.']);
    expect(told(60_000)).toEqual(told(100));
  }, 60_000);

  test('sixty seats that nothing depends on are explored to the end, each by itself', () => {
    const exploration = explore(compile(compose(seats(60, 'click → go to paid'))));
    expect(exploration.cut).toBeNull();
    expect(exploration.count).toBe(2 + 60 * 3);
    expect(exploration.fired.size).toBe(3);
    expect([...exploration.reached.keys()]).toEqual(['plan', 'paid']);
  });

  test('what lies under a shade that takes all presses is not asked for a swipe on its ground', () => {
    // Two of the menu, and for each mark so many more.
    expect(explore(compile(compose(underMenu(784))), { slicedFrom: 100 }).count).toBe(2 + 9 * 4);
  });

  test('what much depends on that is no part of the core is taken into it, where the rest falls apart then', () => {
    const exploration = explore(compile(compose(underMenu(300))), { slicedFrom: 100 });
    expect(exploration.count).toBe(2 + 9 * 4);
    const whole = explore(compile(compose(underMenu(300))), { slicedFrom: Infinity });
    expect(whole.count).toBe(2 ** 10);
    expect([...exploration.branches].sort()).toEqual([...whole.branches].sort());
  });

  test('what stands aside of what covers a way on is part of the core, though what covers it never moves', () => {
    const button = (x: number, y: number, line: string) => ({ at: [x, y, 36, 36] as const, lines: [`click → ${line}`] });
    const program = compile(
      compose({
        variables: Object.fromEntries(['aside', 'lit', 'open', 'mark', 'knocked', 'never'].map((name) => [name, { type: 'yes/no', initial: false }])),
        sheets: {
          bar: {
            size: [390, 844],
            layers: {
              shade: { at: [0, 60, 390, 250], when: { shown: 'open' }, lines: ['click → set open to false'] },
              icon: { at: [0, 0, 390, 60], lines: ['click → set open to true'] },
            },
          },
        },
        frames: {
          hall: {
            layers: {
              door: { ...button(140, 200, 'if lit → go to cellar; otherwise → set lit to true'), when: { x: 'if aside then 20 else 200' } },
              lid: { ...button(200, 200, 'if never = false → set knocked to true'), when: { x: 'if never then 20 else 200' } },
              latch: button(300, 400, 'if open → go to loft; otherwise → set aside to true'),
            },
          },
          loft: {},
          cellar: { over: ['bar'], layers: { mark: button(60, 100, 'set mark to true') } },
        },
      })
    );
    expect([...explore(program, { slicedFrom: 10 }).reached.keys()]).toEqual(['hall', 'cellar']);
  });

  test('a seat that a way depends on is part of the core, and what it leads to is reached', () => {
    const exploration = explore(compile(compose(seats(30, 'click → if l7.state = "Taken" → go to lost; otherwise → go to paid'))));
    expect(exploration.cut).toBeNull();
    expect([...exploration.reached.keys()].sort()).toEqual(['lost', 'paid', 'plan']);
    expect(exploration.count).toBe(3 + 1 + 29 * (3 + 1 + 2 + 0));
  });

  /** Boxes that each show a mark; `over` says where the marks stand, `leads` what the button does. */
  const marked = (count: number, over: (i: number) => readonly [number, number, number, number], leads = 'click → go to paid'): ComposeSpec => ({
    frames: {
      plan: {
        layers: {
          pay: { at: [0, 700, 200, 60], lines: [leads] },
          ...row(count, (i) => ({ lines: [`click → show mark${i}`] })),
          ...Object.fromEntries(
            Array.from({ length: count }, (_, i) => [
              `mark${i}`,
              { at: over(i), hidden: true, ...(over(i)[2] > 100 && { lines: ['click → send mark'] }) },
            ])
          ),
        },
      },
      paid: { layers: { home: { at: [0, 0, 90, 60], lines: ['click → go to plan'] } } },
      lost: {},
    },
  });

  test('marks that come where nothing is pressed are explored each by itself', () => {
    const exploration = explore(compile(compose(marked(30, (i) => [300, i * 20, 10, 10]))));
    expect(exploration.cut).toBeNull();
    expect(exploration.count).toBe(2 + 30 * 3);
    expect(exploration.fired.size).toBe(32);
  });

  test('a mark that comes over a button is not: where it is shown the button leads nowhere', () => {
    const program = compile(compose(marked(14, (i) => (i === 3 ? [0, 690, 300, 80] : [300, i * 20, 10, 10]))));
    const { exploration, findings } = audit(program, { slicedFrom: 100 });
    expect(exploration.cut).toBeNull();
    // The core: with and without that mark, and paid, which begins plan anew.
    expect(exploration.states.length).toBe(3);
    expect(exploration.count).toBe(3 + 13 * (3 + 2));
    expect(findings.filter(({ rule }) => rule === 'dead-end').length + findings.filter(({ rule }) => rule === 'no-way-home').length).toBeGreaterThan(
      0
    );
  });

  test('what depends on two of them is found where both are explored together', () => {
    const program = compile(
      compose(marked(14, (i) => [300, i * 20, 10, 10], 'click → if mark2.shown and mark9.shown → go to lost; otherwise → go to paid'))
    );
    const exploration = explore(program, { slicedFrom: 100 });
    expect(exploration.cut).toBeNull();
    expect([...exploration.reached.keys()].sort()).toEqual(['lost', 'paid', 'plan']);
    expect(exploration.states.length).toBe(4 + 2);
    // Where too little is known at first, it is tried again.
    expect(explore(program, { slicedFrom: 10 }).count).toBe(exploration.count);
  });

  test('in which order something is done to others tells no slices apart', () => {
    const words = (columns: number[], cleared: string[]) =>
      coreWords(
        { ...NOTHING, cleared, columns, values: columns.map((column) => column % 2) },
        (column) => column < 9,
        () => []
      );
    expect(words([4, 7], ['a', 'b'])).toBe(words([7, 4, 9], ['b', 'a']));
    expect(words([4, 7], ['a', 'b'])).not.toBe(words([4], ['a', 'b']));
    expect(words([9], [])).toBe('');
  });

  test('one frame of toggles alone is no dead end', () => {
    const { parts, frames } = seats(20, 'click → go to plan');
    const { findings, exploration } = audit(compile(compose({ parts: parts!, frames: { plan: frames['plan']! } })), { slicedFrom: 10 });
    expect(exploration.cut).toBeNull();
    expect(findings.filter(({ rule }) => rule === 'dead-end')).toEqual([]);
  });

  test('what something does that is there only by what is done elsewhere is found, though nothing else has to do with both', () => {
    const own = (i: number) => ({
      at: [210 + 30 * i, 0, 28, 28] as const,
      lines: [`click → set own${i} to own${i} = false`],
      when: { opacity: `if own${i} then 0.8 else 1` },
    });
    const program = compile(
      compose({
        variables: Object.fromEntries([0, 1, 2].map((i) => [`own${i}`, { type: 'yes/no', initial: false } as const])),
        frames: {
          home: {
            states: { Day: {}, Night: {} },
            layers: {
              lamp: { at: [0, 100, 60, 60], hidden: true, lines: ['key q → next state around'] },
              shade: { at: [100, 100, 60, 60], lines: ['click → show lamp'] },
              on0: own(0),
              on1: own(1),
              on2: own(2),
            },
          },
        },
      })
    );
    const cut = explore(program, { maxStates: 2000, slicedFrom: 4 });
    expect([cut.cut, cut.count < 33, [...cut.fired].sort()]).toEqual([
      null,
      true,
      ['home_lamp-0', 'home_on0-0', 'home_on1-0', 'home_on2-0', 'home_shade-0'],
    ]);
    expect(judge(program, cut).findings.filter(({ rule }) => rule === 'never-fires' || rule === 'unreachable-state')).toEqual([]);
  });

  test('what is found in slices is what is found in the whole, of pieces with everything in them', () => {
    let sliced = 0;
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e9 }), (seed) => {
        const program = compile(withToggles(richPiece(seed)));
        const whole = explore(program, { maxStates: 900, slicedFrom: 900 });
        // How far something counts may be told in a slice where it is not in the whole.
        fc.pre(whole.unfollowed.size === 0 || /^not tried(?!.*how far)/.test(whole.cut ?? ''));
        const cut = explore(program, { maxStates: 2000, slicedFrom: 4 });
        if (cut.count !== cut.states.length) sliced++;
        expect([...cut.reached.keys()].sort()).toEqual([...whole.reached.keys()].sort());
        expect([...cut.fired].sort()).toEqual([...whole.fired].sort());
        expect([...cut.leavesFrom].sort()).toEqual([...whole.leavesFrom].sort());
        const found = (exploration: typeof whole) =>
          judge(program, exploration)
            // Which of the frames that lead only to each other is told first follows from the order in which they are met.
            .findings.map(({ rule, place, title, sentence }) =>
              JSON.stringify(rule === 'no-way-home' ? [rule, sentence.split(/\W+/).sort()] : [rule, place, title])
            )
            .sort();
        // Where one goes to no other frame, an end of all that can be done on it is met in the whole alone.
        const isOne = (line: string) => new Set(whole.states.map(({ frame }) => frame)).size > 1 || !line.startsWith('["dead-end"');
        // While steps wait, sizes are not judged: of slices some may be still where the whole never is.
        const isStill = (line: string) => found(whole).includes(line) || !/^\["(crowded-hit|small-hit|off-frame|unseen-hit)"/.test(line);
        // What is left out in the whole may lead back from there; of slices another one may be that which leaves it out.
        const isFollowed = (line: string) => found(whole).includes(line) || whole.unfollowed.size === 0 || !/^\["(one-way|dead-end)"/.test(line);
        expect(found(cut).filter((line) => isStill(line) && isFollowed(line))).toEqual(
          found(whole).filter((line) => isOne(line) || found(cut).includes(line))
        );
      }),
      // On the last only after scrolling more can be done while something lies over its one frame.
      { numRuns: timesOver(9), examples: [[147428561]] }
    );
    expect(sliced).toBeGreaterThan(0);
  });
});
