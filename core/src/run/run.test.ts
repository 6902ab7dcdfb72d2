import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import { randomPiece } from '../testing/arbitrary.ts';
import { build, click, go, on, open } from '../testing/build.ts';
import { generator } from '../testing/large.ts';
import { advance, nextDeadline, replay, start } from './run.ts';
import type { Advanced, RunEvent } from './state.ts';

/** Runs events on a piece from its start. */
const play = (piece: ReturnType<typeof build>, events: RunEvent[]): Advanced => {
  const program = compile(piece);
  return replay(program, start(program)!, events);
};

const clickOn = (layer: string): RunEvent => ({ type: 'click', layer });
const why = (result: Advanced) => result.reports.at(-1)!.whyNot[0];

describe('clicks', () => {
  const piece = build({
    home: { layers: { buy: { at: [10, 10, 100, 50], threads: [click(go('pay'))] }, note: { at: [10, 10, 100, 50], type: 'text', text: 'Buy' } } },
    pay: { layers: { back: { threads: [click(go('back'))] } } },
  });

  test('a press and release on one layer fire its thread; what does not react lets the press through', () => {
    const { run, reports } = play(piece, [
      { type: 'press', x: 20, y: 20 },
      { type: 'release', x: 90, y: 40 },
    ]);
    expect(run.frame).toBe('pay');
    expect(reports.at(-1)!.effects).toEqual([{ type: 'go', from: 'home', to: 'pay', transition: { type: 'cut' }, thread: 'buy-t0' }]);
  });

  test('let go elsewhere is no click, and says so', () => {
    const result = play(piece, [
      { type: 'press', x: 20, y: 20 },
      { type: 'release', x: 300, y: 300 },
    ]);
    expect(result.run.frame).toBe('home');
    expect(why(result)!.code).toBe('let-go-elsewhere');
  });

  test('back goes through the frames that were seen', () => {
    expect(play(piece, [clickOn('buy'), clickOn('back')]).run).toMatchObject({ frame: 'home', back: [] });
  });

  test('the event goes outward until a thread takes it', () => {
    const nested = build({
      home: {
        layers: { g: { type: 'group', threads: [click(go('pay'))] }, inner: { parent: 'g', looks: { hover: {} } } },
        threads: [click(go('home'))],
      },
      pay: {},
    });
    expect(play(nested, [clickOn('inner')]).run.frame).toBe('pay');
  });

  test('the frame and then the piece take what no layer takes', () => {
    const bare = build({ home: {}, pay: {} }, [click(go('next'))]);
    const { run } = play(bare, [
      { type: 'press', x: 5, y: 5 },
      { type: 'release', x: 5, y: 5 },
    ]);
    expect(run.frame).toBe('pay');
  });

  test('all threads of the receiver run, top to bottom, and leave one step to go back', () => {
    const many = build({ home: { layers: { a: { threads: [click(go('b')), click(go('c'))] } } }, b: {}, c: {} });
    expect(play(many, [clickOn('a')]).run).toMatchObject({ frame: 'c', back: ['home'] });
  });

  test('the topmost layer that catches gets it', () => {
    const stacked = build({ home: { layers: { low: { threads: [click(go('a'))] }, high: { threads: [click(go('b'))] } } }, a: {}, b: {} });
    const { run, reports } = play(stacked, [
      { type: 'press', x: 5, y: 5 },
      { type: 'release', x: 5, y: 5 },
    ]);
    expect(run.frame).toBe('b');
    expect(reports).toHaveLength(1);
  });
});

describe('why not', () => {
  const cases = build({
    home: {
      layers: {
        plain: { at: [0, 0, 50, 50] },
        off: { at: [0, 100, 50, 50], threads: [{ ...click(go('pay')), enabled: false }] },
        lost: { at: [0, 200, 50, 50], threads: [click(go('gone'))] },
        unset: { at: [0, 300, 50, 50], threads: [click(go(null))] },
        link: { at: [0, 400, 50, 50], threads: [click(open('javascript:alert(1)'))] },
        first: { at: [0, 500, 50, 50], threads: [click(go('previous'))] },
        returns: { at: [0, 600, 50, 50], threads: [click(go('back'))] },
        under: { at: [0, 700, 50, 50], threads: [click(go('pay'))] },
        over: { at: [0, 700, 50, 50], looks: { hover: {} } },
        empty: { at: [100, 0, 50, 50], threads: [click()] },
      },
    },
    pay: {},
  });

  test.each([
    [25, 25, 'not-wired'],
    [25, 125, 'switched-off'],
    [25, 225, 'missing-target'],
    [25, 325, 'missing-target'],
    [25, 425, 'bad-address'],
    [25, 525, 'nowhere'],
    [25, 625, 'nowhere'],
    [25, 725, 'covered'],
    [125, 25, 'no-steps'],
    [380, 10, 'nothing-there'],
  ])('a click at %i, %i: %s', (x, y, code) => {
    const result = play(cases, [
      { type: 'press', x, y },
      { type: 'release', x, y },
    ]);
    expect(result.run.frame).toBe('home');
    expect(why(result)!.code).toBe(code);
    expect(result.reports.at(-1)!.effects).toEqual([]);
  });

  test('a click on a named layer is refused where no person could make it', () => {
    expect(why(play(cases, [clickOn('under')]))!.code).toBe('covered');
    expect(why(play(cases, [clickOn('elsewhere')]))!.code).toBe('not-here');
    expect(why(play(cases, [{ type: 'key', key: 'x' }]))!.code).toBe('no-thread');
  });
});

describe('time', () => {
  const piece = build({
    home: { threads: [on({ type: 'after', ms: 1000 }, go('a')), on({ type: 'after', ms: 500 }, open('https://kittiwake.example/'))] },
    a: { layers: { l: { threads: [on({ type: 'after', ms: 250 }, go('home'))] } } },
  });

  test('timers fire at their deadlines, one report each, and end with their frame', () => {
    const { run, reports } = play(piece, [{ type: 'wait', ms: 1300 }]);
    expect(reports.map((report) => report.clock)).toEqual([500, 1000, 1250]);
    expect(run).toMatchObject({ frame: 'home', clock: 1300 });
    expect(run.roots['home']).toMatchObject({ entered: 1250, timers: [{ due: 2250 }, { due: 1750 }] });
  });

  test('the settled state does not depend on how time is cut', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 400 }), { minLength: 1, maxLength: 12 }), (parts) => {
        const total = parts.reduce((sum, ms) => sum + ms, 0);
        const cut = play(
          piece,
          parts.map((ms) => ({ type: 'wait', ms }))
        );
        expect(cut.run).toEqual(play(piece, [{ type: 'wait', ms: total }]).run);
      })
    );
  });

  test('a frame that leads to itself at once does not hang', () => {
    const loop = build({ home: { threads: [on({ type: 'after', ms: 1 }, go('home'))] } });
    expect(play(loop, [{ type: 'wait', ms: 50_000 }]).run.clock).toBe(50_000);
  });

  test('the next timer is known', () => {
    const program = compile(piece);
    expect(nextDeadline(program, start(program)!)).toBe(500);
  });
});

describe('hover and keys', () => {
  const piece = build(
    {
      home: {
        layers: {
          a: { at: [0, 0, 50, 50], threads: [on({ type: 'hover' }, go('b'))] },
          k: { at: [60, 0, 50, 50], threads: [on({ type: 'key', key: 'Enter' }, go('b'))] },
        },
      },
      b: { layers: { c: { at: [0, 0, 50, 50], threads: [on({ type: 'hover' }, go('home'))] } } },
    },
    [on({ type: 'key', key: 'ArrowRight' }, go('next')), on({ type: 'key', key: 'Space' }, go('last'))]
  );

  test('hover fires on coming in, once, and not because the frame changed under a still pointer', () => {
    const first = play(piece, [
      { type: 'move', x: 70, y: 10 },
      { type: 'move', x: 10, y: 10 },
    ]);
    expect(first.run).toMatchObject({ frame: 'b', over: [] });
  });

  test('keys go to a layer, then the frame, then the piece; case and the space do not matter', () => {
    expect(play(piece, [{ type: 'key', key: 'enter' }]).run.frame).toBe('b');
    expect(play(piece, [{ type: 'key', key: 'ArrowRight' }]).run.frame).toBe('b');
    expect(play(piece, [{ type: 'key', key: ' ' }]).run.frame).toBe('b');
  });
});

test('same program, same events, same trace; the program is left as it was', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e9 }), fc.integer({ min: 0, max: 1e9 }), (seed, events) => {
      const program = compile(randomPiece(seed));
      const random = generator(events);
      const list = Array.from({ length: 20 }, () => randomEvent(random));
      const begin = start(program)!;
      const first = replay(program, begin, list);
      expect(replay(compile(program.piece), start(program)!, list)).toEqual(first);
      expect(advance(program, begin, list[0]!)).toEqual(advance(program, begin, list[0]!));
      expect(program.scenes.has(first.run.frame)).toBe(true);
    }),
    { numRuns: 150 }
  );
});

function randomEvent(random: () => number): RunEvent {
  const point = { x: Math.floor(random() * 400), y: Math.floor(random() * 850) };
  const kinds: RunEvent[] = [
    { type: 'move', ...point },
    { type: 'press', ...point },
    { type: 'release', ...point },
    { type: 'key', key: 'Enter' },
    { type: 'wait', ms: Math.floor(random() * 900) },
    { type: 'leave' },
    { type: 'click', layer: `f${Math.floor(random() * 6)}l${Math.floor(random() * 4)}` },
  ];
  return kinds[Math.floor(random() * kinds.length)]!;
}
