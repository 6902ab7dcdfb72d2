import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import { startFrames, update, type Program } from '../program/program.ts';
import { advance, replay, start } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { apply } from '../edit/apply.ts';
import { moveFrames } from '../edit/commands/frames.ts';
import { unwrap } from '../result.ts';
import { randomPiece } from '../testing/arbitrary.ts';
import { compose, layerId } from '../compose/compose.ts';
import { build, click, go, on, open } from '../testing/build.ts';
import { audit, routeEnd } from './audit.ts';
import { explore, routeTo, startOf } from './explore.ts';
import { leavesPiece } from './leaving.ts';
import { findTraps } from './traps.ts';

/** The rules that are looked at here; the others have tests of their own. */
const HERE = new Set(
  'dead-end no-way-home covered small-hit unreachable-frame looks-clickable repeated-target bad-link missing-target expression-error type-clash'.split(
    ' '
  )
);
const found = (piece: ReturnType<typeof build>) => audit(compile(piece)).findings.filter(({ rule }) => HERE.has(rule));
const ids = (piece: ReturnType<typeof build>) =>
  found(piece)
    .map((finding) => finding.id)
    .sort();
const size = { at: [0, 0, 100, 60] } as const;
const second = { at: [150, 0, 100, 60] } as const;
const third = { at: [0, 200, 100, 60] } as const;

describe('rules', () => {
  test('a piece without loose ends has none', () => {
    expect(
      ids(build({ home: { layers: { a: { ...size, threads: [click(go('b'))] } } }, b: { layers: { c: { ...size, threads: [click(go('back'))] } } } }))
    ).toEqual([]);
  });

  test('missing-target: gone, not chosen, no step', () => {
    const piece = build({
      home: {
        layers: { a: { ...size, threads: [click(go('gone'))] }, b: { ...second, threads: [click(go(null))] }, c: { ...third, threads: [click()] } },
        ending: true,
      },
    });
    expect(ids(piece)).toEqual(['missing-target:home:a:a-t0', 'missing-target:home:b:b-t0', 'missing-target:home:c:c-t0']);
  });

  test('dead-end with its route, unless it is marked as an ending', () => {
    const frames = {
      home: { layers: { a: { ...size, threads: [click(go('b'))] } } },
      b: { layers: { c: { ...size, threads: [click(go('end'))] } } },
    };
    const [finding, ...more] = found(build({ ...frames, end: {} }));
    expect(more).toEqual([]);
    expect(finding).toMatchObject({ id: 'dead-end:end', severity: 'must' });
    expect(finding!.route!.events).toEqual([
      { type: 'click', layer: 'a' },
      { type: 'click', layer: 'c' },
    ]);
    expect(ids(build({ ...frames, end: { ending: true } }))).toEqual([]);
  });

  test('no-way-home: frames that lead only to each other, also by back', () => {
    const piece = build({
      home: { layers: { a: { ...size, threads: [click(go('b'))] } } },
      b: { layers: { c: { ...size, threads: [click(go('d'))] } } },
      d: { layers: { e: { ...size, threads: [click(go('back'))] } } },
    });
    const [finding, ...more] = found(piece);
    expect(more).toEqual([]);
    expect(finding).toMatchObject({ id: 'no-way-home:b', sentence: 'From b and d no start frame can be reached any more.' });
  });

  test('unreachable-frame counts what lies wholly behind another layer as out of reach', () => {
    const piece = build({
      home: { layers: { a: { ...size, threads: [click(go('b'))] }, lid: { at: [0, 0, 200, 200], threads: [click(go('home'))] } }, ending: true },
      b: { layers: { c: { ...size, threads: [click(go('home'))] } } },
    });
    expect(ids(piece)).toEqual(['covered:home:a', 'unreachable-frame:b']);
  });

  test('covered by half or more; less is fine; text that does not react hides nothing', () => {
    const cover = (width: number, looks = {}) =>
      ids(
        build({
          home: {
            layers: { a: { at: [0, 0, 100, 60], threads: [click(go('home'))] }, lid: { at: [0, 0, width, 60], type: 'text', text: 'x', looks } },
            ending: true,
          },
        })
      );
    expect(cover(60, { press: {} })).toEqual(['covered:home:a', 'looks-clickable:home:lid']);
    expect(cover(40, { press: {} })).toEqual(['looks-clickable:home:lid']);
    expect(cover(100)).toEqual([]);
  });

  test('small-hit in two steps, with a fix that mends it and stays in the frame', () => {
    const piece = build({
      home: {
        layers: {
          tiny: { type: 'hit', at: [380, 5, 10, 60], threads: [click(go('home'))] },
          small: { type: 'hit', at: [100, 100, 43.5, 60], threads: [click(go('home'))] },
        },
        ending: true,
      },
    });
    expect(found(piece).map(({ id, severity }) => [id, severity])).toEqual([
      ['small-hit:home:tiny', 'must'],
      ['small-hit:home:small', 'look'],
    ]);
    const mended = found(piece).reduce((at, { fix }) => unwrap(apply(at, fix!.operations)).piece, piece);
    expect(ids(mended)).toEqual([]);
    expect(mended.layers.get('tiny')!.pose).toEqual({ x: 346, y: 5, width: 44, height: 60 });
  });

  test('sheets are judged where frames carry them, with a route to one of those', () => {
    const carrying = (over: readonly string[]) =>
      compose({
        sheets: {
          bar: {
            layers: {
              dot: { type: 'hit', at: [10, 10, 20, 20], lines: ['click → go to pay'] },
              lid: { type: 'hit', at: [100, 10, 60, 60] },
            },
          },
        },
        frames: {
          home: { layers: { on: { at: [0, 300, 100, 100], lines: ['click → go to pay'] } } },
          pay: { over, ending: true },
        },
      });
    expect(ids(carrying([]))).toEqual([]);
    const seen = found(carrying(['bar']));
    expect(seen.map(({ id }) => id)).toEqual([`small-hit:bar:${layerId('bar', 'dot')}`, `looks-clickable:bar:${layerId('bar', 'lid')}`]);
    for (const one of seen) {
      expect(one.route).toMatchObject({ from: 'home' });
      expect(routeEnd(compile(carrying(['bar'])), one)).toBe('pay');
    }
  });

  test('looks-clickable: hit areas, looks, copies, and what is made like its neighbours', () => {
    const style = { fill: '#f0b13c' };
    const piece = build({
      home: {
        layers: {
          wired: { ...size, style, text: 'One', threads: [click(go('home'))] },
          alike: { ...second, style, text: 'Two' },
          other: { at: [0, 400, 100, 61], style, text: 'Three' },
          area: { ...third, type: 'hit' },
          lit: { at: [150, 200, 100, 60], looks: { hover: {} } },
          copy: { at: [0, 500, 100, 60], copyOf: 'wired' },
          off: { at: [0, 600, 100, 60], type: 'hit', threads: [{ ...click(go('home')), enabled: false }] },
        },
        ending: true,
      },
    });
    expect(ids(piece)).toEqual(['looks-clickable:home:alike', 'looks-clickable:home:area', 'looks-clickable:home:copy', 'looks-clickable:home:lit']);
  });

  test('looks-clickable: what something can be dropped on has its use', () => {
    const shelf = { at: [0, 0, 100, 100], looks: { hover: {} } } as const;
    const card = (lines: string[]) => ({ at: [0, 200, 80, 80] as const, drag: { axis: 'both' as const }, lines });
    const of = (lines: string[]) => ids(compose({ frames: { home: { ending: true, layers: { shelf, card: card(lines) } } } }));
    expect(of(['drop on shelf → send kept'])).toEqual([]);
    expect(of(['drop → send kept'])).toEqual(['looks-clickable:home:home_shelf']);
  });

  test('repeated-target: the copy that kept its address, not a row that is meant to lead to one place', () => {
    const row = (targets: string[]) =>
      ids(
        build({
          home: {
            ending: true,
            layers: Object.fromEntries(
              targets.map((to, i) => [
                `b${i}`,
                {
                  at: [0, i * 70, 100, 60],
                  text: `Text ${i}`,
                  ...(i > 0 && { copyOf: 'b0' }),
                  threads: [click(to.includes(':') ? open(to) : go(to))],
                },
              ])
            ),
          },
          x: { ending: true },
          y: { ending: true },
        })
      ).filter((id) => id.startsWith('repeated'));
    expect(row(['https://a.example/', 'https://b.example/', 'https://a.example/'])).toEqual(['repeated-target:home:b2:b2-t0']);
    expect(row(['x', 'y', 'y'])).toEqual(['repeated-target:home:b2:b2-t0']);
    expect(row(['x', 'x', 'x'])).toEqual([]);
    expect(row(['https://a.example/', 'https://a.example/'])).toEqual(['repeated-target:home:b1:b1-t0']);
  });

  test.each([
    ['https://kittiwake.example/times?day=fri', true],
    ['mailto:pier@kittiwake.example', true],
    ['tel:+44 20', false],
    ['tel:+4420', true],
    ['kittiwake.example', false],
    ['https://', false],
    ['https://kittiwake', false],
    ['javascript:alert(1)', false],
    ['data:text/html,x', false],
    ['https://kitti wake.example', false],
    ['', false],
  ])('bad-link: %s', (address, good) => {
    expect(ids(build({ home: { layers: { a: { ...size, threads: [click(open(address))] } }, ending: true } }))).toEqual(
      good ? [] : ['bad-link:home:a:a-t0']
    );
  });

  test('bad-link puts https:// in front where that is all that lacks', () => {
    const piece = build({ home: { layers: { a: { ...size, threads: [click(open('www.kittiwake.example'))] } }, ending: true } });
    expect(ids(unwrap(apply(piece, found(piece)[0]!.fix!.operations)).piece)).toEqual([]);
  });

  test('findings keep their ids when other things change, and the answer is the same as from scratch', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e9 }), (seed) => {
        const piece = randomPiece(seed);
        const program = compile(piece);
        audit(program);
        const moved = unwrap(
          apply(piece, [
            {
              op: 'put',
              table: 'scenes',
              value: { id: 'extra', use: 'frame', name: 'Extra', order: 'a9', width: 9, height: 9, background: '#ffffff' } as { id: string },
            },
          ])
        );
        expect(audit(compile(moved.piece)).findings).toEqual(audit(compile(structuredCloneOf(moved.piece))).findings);
      }),
      { numRuns: 60 }
    );
  });
});

const structuredCloneOf = (piece: ReturnType<typeof build>) =>
  unwrap(apply(piece, [{ op: 'set', table: 'piece', id: 'piece', path: ['name'], value: 'Test piece' }])).piece;

/** A frame, and how many of its timers have fired. */
const stageOf = (program: Program, run: RunState): string => `${run.frame}/${timers(program, run).length - run.roots[run.frame]!.timers.length}`;

/** Explores with the engine itself and whole back stacks, keyed by text, up to a depth. */
function naive(program: Program, depth: number) {
  const states = new Map<string, { run: RunState; home: boolean; next: string[] }>();
  const firedOf = (run: RunState) => timers(program, run).length - run.roots[run.frame]!.timers.length;
  const keyOf = (run: RunState) => `${stageOf(program, run)}/${run.back.join(',')}/${run.focus ?? ''}`;
  const queue: RunState[] = [];
  const see = (run: RunState) => {
    const settled: RunState = { ...run, pointer: null, over: [], pressed: null, clicked: null };
    const key = keyOf(settled);
    if (!states.has(key) && settled.back.length <= depth) {
      states.set(key, { run: settled, home: false, next: [] });
      queue.push(settled);
    }
    return key;
  };
  for (const frame of startFrames(program)) see(start(program, frame)!);
  for (let run = queue.shift(); run; run = queue.shift()) {
    const scene = program.scenes.get(run.frame)!;
    const events: RunEvent[] = scene.items.flatMap((item): RunEvent[] => [
      { type: 'click', layer: item.layer.id },
      { type: 'hover', layer: item.layer.id },
    ]);
    for (const item of scene.items)
      if (item.shown && item.threads.some(({ cue, enabled }) => enabled && cue.type === 'key')) events.push({ type: 'focus', layer: item.layer.id });
    events.push({ type: 'focus', layer: null });
    for (const key of ['a', 'Enter', 'ArrowLeft', 'ArrowRight']) events.push({ type: 'key', key });
    const entry = states.get(keyOf(run))!;
    const fired = firedOf(run);
    const passed = fired === 0 ? 0 : timers(program, run)[fired - 1]!;
    const due = timers(program, run)[fired];
    if (due !== undefined) events.push({ type: 'wait', ms: due - passed });
    for (const event of events) {
      const { run: after, reports } = advance(program, run, event);
      // A wait may let several timers of one moment fire; the settled state in between is met by the explorer too.
      if (event.type === 'wait' && reports.length > 1) continue;
      if (leavesPiece(reports)) {
        entry.home = true;
        continue;
      }
      entry.next.push(see(after));
    }
  }
  return states;
}

const timers = (program: Program, run: RunState): number[] => {
  const scene = program.scenes.get(run.frame)!;
  return [...scene.items.flatMap((item) => item.threads), ...scene.threads]
    .flatMap((thread) => (thread.enabled && thread.cue.type === 'after' ? [thread.cue.ms] : []))
    .sort((a, b) => a - b);
};

/** Pieces where no two timers of a frame fall together, so that single steps can be compared. */
const distinctTimers = (program: Program) =>
  program.frames.every((frame) => {
    const all = timers(program, { frame } as RunState);
    return new Set(all).size === all.length;
  });

describe('exploring', () => {
  const seeds = fc.integer({ min: 0, max: 1e9 });

  test('meets the same frames and stages as a naive explorer with whole back stacks', () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const program = compile(randomPiece(seed, 5));
        fc.pre(distinctTimers(program));
        const exploration = explore(program);
        fc.pre(exploration.cut === null);
        const mine = new Set(exploration.states.map((_, at) => stageOf(program, exploration.runOf(at))));
        const theirs = new Set([...naive(program, 5).keys()].map((key) => key.split('/').slice(0, 2).join('/')));
        expect([...theirs].filter((key) => !mine.has(key))).toEqual([]);
        expect([...mine].filter((key) => !theirs.has(key))).toEqual([]);
      }),
      { numRuns: 250 }
    );
  });

  test('finds a trap exactly when some state with its back stack cannot get home', () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const program = compile(randomPiece(seed, 3));
        fc.pre(distinctTimers(program));
        const exploration = explore(program);
        fc.pre(exploration.cut === null);
        const traps = findTraps(program, exploration);
        expect(traps.length > 0).toBe(naiveTrapped(program));
      }),
      { numRuns: 250 }
    );
  });

  test('every route really leads where it says when the engine replays it', () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const program = compile(randomPiece(seed));
        const exploration = explore(program);
        exploration.states.forEach((state, at) => {
          const begin = start(program, startOf(exploration, at))!;
          const { run } = replay(program, begin, routeTo(exploration, at));
          expect(run.frame).toBe(state.frame);
          expect(stageOf(program, run)).toBe(stageOf(program, exploration.runOf(at)));
        });
        for (const finding of audit(program).findings) if (finding.route) expect(routeEnd(program, finding)).toBe(finding.place.scene);
      }),
      // A “back” and another way on in answer to one click; two things due at one moment, of which one goes back.
      { numRuns: 150, examples: [[325178360], [45755983], [91591155]] }
    );
  });

  test('a web address in the same tab leads out of the piece; writing a mail does not', () => {
    const deadEnds = (address: string) => {
      const piece = build({
        a: { layers: { x: { ...size, threads: [click(go('b'))] } } },
        b: { layers: { y: { ...size, threads: [click(open(address, 'same'))] } } },
      });
      return audit(compile(piece)).findings.filter(({ rule }) => rule === 'dead-end').length;
    };
    expect(deadEnds('https://kittiwake.example/')).toBe(0);
    expect(deadEnds('mailto:pier@kittiwake.example')).toBe(1);
    expect(deadEnds('tel:+4712345')).toBe(1);
  });

  test('routes are shortest', () => {
    const piece = build({
      a: { layers: { x: { ...size, threads: [click(go('b'))] }, y: { ...second, threads: [click(go('c'))] } } },
      b: { layers: { z: { threads: [click(go('c'))] } } },
      c: {},
    });
    const exploration = explore(compile(piece));
    expect(routeTo(exploration, exploration.reached.get('c')!)).toEqual([{ type: 'click', layer: 'y' }]);
  });

  test('says what was cut, and then claims nothing that the cut could refute', () => {
    const piece = build({ a: { threads: [on({ type: 'key', key: 'x' }, go('b'))] }, b: {}, c: {} });
    expect(explore(compile(piece), { maxStates: 0 }).cut).toContain('0 states');
    const onward = (layer: string, ...steps: ReturnType<typeof go>[]) => ({ layers: { [layer]: { ...size, threads: [click(...steps)] } } });
    const twice = build({ a: onward('x', go('next')), b: onward('y', go('next')), c: onward('z', go('back'), go('back')), d: {} });
    const { exploration, findings } = audit(compile(twice));
    expect(exploration.cut).toBe('not tried: a “back” that follows another one in answer to one event');
    expect(findings.filter(({ rule }) => HERE.has(rule))).toEqual([]);
  });
});

/**
 * Whether some state with at most three frames to go back through reaches neither a start, an ending nor a way out. The
 * naive exploration goes four deeper, more than a shortest way home in three frames can need.
 */
function naiveTrapped(program: Program): boolean {
  const states = naive(program, 7);
  const starts = new Set(startFrames(program));
  const moves = (key: string) => states.get(key)!.next.filter((next) => next !== key && states.get(next)?.run.frame !== states.get(key)!.run.frame);
  const exits = new Set(program.frames.filter((frame) => program.scenes.get(frame)!.scene.ending));
  for (const { run, home } of states.values()) if (home) exits.add(run.frame);
  const isHome = (key: string) => {
    const { run, home } = states.get(key)!;
    const stuck = [...states].every(([other, state]) => state.run.frame !== run.frame || moves(other).length === 0);
    return home || exits.has(run.frame) || (starts.has(run.frame) && !stuck);
  };
  const safe = new Set([...states.keys()].filter(isHome));
  for (let grown = true; grown;) {
    grown = false;
    for (const [key, { next }] of states)
      if (!safe.has(key) && next.some((to) => safe.has(to))) {
        safe.add(key);
        grown = true;
      }
  }
  return [...states].some(([key, { run }]) => run.back.length <= 3 && !safe.has(key));
}

test('what a rule finds stands in the order of the frames, what is on sheets last, also once they are moved', () => {
  const small = { layers: { Dot: { at: [10, 10, 12, 12] as const, lines: ['click → go to Zebra'] } } };
  const spec = compose({ sheets: { Bar: small }, frames: { Zebra: { ...small, over: ['Bar'] }, Ape: small, Mole: small } });
  const placesIn = (of: ReturnType<typeof compile>) => audit(of).findings.flatMap(({ rule, place }) => (rule === 'small-hit' ? place.scene : []));
  const program = compile(spec);
  expect(placesIn(program)).toEqual(['Zebra', 'Ape', 'Mole', 'Bar']);
  const { piece, touched } = unwrap(apply(spec, moveFrames(spec, ['Zebra'], null)));
  expect(placesIn(update(program, piece, touched))).toEqual(['Ape', 'Mole', 'Zebra', 'Bar']);
});
