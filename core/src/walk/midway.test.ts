import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec, type SceneSpec, type TimelineSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { replay, start } from '../run/run.ts';
import { audit } from './audit.ts';
import { routeWords } from './event-words.ts';
import { midwayOf, withMidway } from './midway.ts';

const box = (x: number, line: string) => ({ at: [x, 10, 80, 60] as const, text: 'Go', lines: [line] });
const far: SceneSpec = { layers: { back: box(10, 'click → go to home') } };

const program = (home: SceneSpec, more: Partial<ComposeSpec> = {}) => {
  const { frames = {}, ...rest } = more;
  return compile(compose({ fps: 24, size: [390, 844], ...rest, frames: { home, far, ...frames } }));
};

/** How what a piece keeps out of reach at rest is come to, and what is claimed to be out of reach. */
function walked(home: SceneSpec, more?: Partial<ComposeSpec>) {
  const made = program(home, more);
  const { exploration, findings } = audit(made);
  const at = exploration.reached.get('far');
  const route = at === undefined ? null : exploration.routeTo(at);
  if (route) expect(replay(made, start(made)!, route).run.frame).toBe('far');
  return {
    cut: exploration.cut,
    way: route && routeWords(made, 'home', route),
    claims: findings.flatMap(({ rule }) => (['covered', 'off-frame', 'never-fires', 'unreachable-frame'].includes(rule) ? rule : [])).sort(),
  };
}

const once = (tracks: TimelineSpec['tracks'], more: Partial<TimelineSpec> = {}): TimelineSpec => ({
  length: 48,
  labels: { all: [0, 'hold'] },
  tracks: tracks!,
  ...more,
});

describe('what keyframes move is pressed on its way', () => {
  const out = [
    [
      'go',
      'x',
      [
        [0, 10],
        [24, 200],
        [47, 10],
      ],
    ],
  ] as const satisfies TimelineSpec['tracks'];
  const card = { at: [0, 0, 110, 100] as const, lines: ['click → send card'] };

  test('where it comes out from behind something and goes back', () => {
    const { cut, way, claims } = walked({ timeline: once(out), layers: { go: box(10, 'click → go to far'), card } });
    expect({ cut, claims }).toEqual({ cut: null, claims: [] });
    expect(way).toMatch(/^home: wait [\d.]+ ms, click go$/);
  });

  test('where it stays behind, it is not', () => {
    const short = [
      [
        'go',
        'x',
        [
          [0, 10],
          [24, 20],
          [47, 10],
        ],
      ],
    ] as const satisfies TimelineSpec['tracks'];
    const { claims } = walked({ timeline: once(short), layers: { go: box(10, 'click → go to far'), card } });
    expect(claims).toEqual(['covered', 'unreachable-frame']);
  });

  test('where it flies across the screen, round and round', () => {
    const across = [
      [
        'go',
        'x',
        [
          [0, -100],
          [47, 400],
        ],
      ],
    ] as const satisfies TimelineSpec['tracks'];
    const labels = { all: [0, 'loop'] } as const;
    expect(walked({ timeline: once(across, { labels }), layers: { go: box(10, 'click → go to far') } })).toMatchObject({ cut: null, claims: [] });
  });

  test('where what lies over it goes away for a time', () => {
    const away = [
      [
        'card',
        'x',
        [
          [0, 0],
          [20, 200],
          [28, 200],
          [47, 0],
        ],
      ],
    ] as const satisfies TimelineSpec['tracks'];
    expect(walked({ timeline: once(away), layers: { go: box(10, 'click → go to far'), card } })).toMatchObject({ cut: null, claims: [] });
  });

  test('in a part, on a sheet, in a state, and where it is shown later', () => {
    const Gull: SceneSpec = { size: [390, 100], timeline: once(out), layers: { go: box(10, 'click → send caught') } };
    const gull = { part: 'Gull', at: [0, 0, 390, 100] as const };
    const lines = ['signal caught → go to far'];
    expect(walked({ layers: { gull, card }, lines }, { parts: { Gull } }).claims).toEqual([]);
    expect(walked({ over: ['sky'], lines }, { parts: { Gull }, sheets: { sky: { layers: { gull, card } } } }).claims).toEqual([]);
    const states = { Off: {}, On: { card: { pose: { x: 0 } } } };
    const stated: SceneSpec = {
      states,
      timeline: once(out, { autoplay: false }),
      layers: {
        go: { ...box(10, 'click → go to far') },
        card: { ...card, at: [500, 0, 110, 100] },
        on: box(300, 'click → put home in On; play from all'),
      },
    };
    // In the first state it can be pressed all the time; in the other one only on its way.
    expect(walked(stated).claims).toEqual([]);
    const later: SceneSpec = {
      timeline: once(out, { autoplay: false }),
      layers: { go: { ...box(10, 'click → go to far'), hidden: true }, card, on: box(300, 'click → show go; play from all') },
    };
    expect(walked(later)).toMatchObject({ way: expect.stringMatching(/^home: click on, wait [\d.]+ ms, click go$/), claims: [] });
  });

  test('a run in between is known to be where exploring stopped', () => {
    const made = program({ timeline: once(out), layers: { go: box(10, 'click → go to far'), card } });
    const { exploration } = audit(made);
    const route = exploration.routeTo(exploration.reached.get('far')!);
    const then = replay(made, start(made)!, route.slice(0, -1)).run;
    const state = exploration.stateOf(then);
    expect(state).not.toBeNull();
    expect(exploration.stateOf(start(made)!)).not.toBe(state);
  });
});

test('where there is too much to be looked at, that is named, and nothing is said that it could refute', () => {
  // A grating over many things: no single bar lies over all of one of them.
  const bars = Object.fromEntries(
    Array.from({ length: 60 }, (_, i) => [`bar${i}`, { at: [i * 8, 0, 8.2, 800] as const, lines: ['click → send bar'] }])
  );
  const things = Object.fromEntries(
    Array.from({ length: 60 }, (_, i) => [
      `thing${i}`,
      { ...box((i % 8) * 45, 'click → go to far'), at: [(i % 8) * 45, Math.floor(i / 8) * 80, 40, 40] as const },
    ])
  );
  const timeline = {
    ...once([
      [
        'bar0',
        'x',
        [
          [0, 0],
          [47, 1],
        ],
      ],
    ]),
    length: 48,
  };
  const { cut, claims } = walked({ timeline, layers: { ...things, ...bars } });
  expect(cut).toBe('not tried: all that may be pressed on its way');
  expect(claims.filter((claim) => claim === 'never-fires' || claim === 'unreachable-frame')).toEqual([]);
});

test('nothing is looked at in between where all can be pressed at rest, or nothing that is pressed moves', () => {
  const moving = (layer: string, to: number) =>
    once([
      [
        layer,
        'x',
        [
          [0, 10],
          [47, to],
        ],
      ],
    ]);
  expect(midwayOf(withMidway(program({ timeline: moving('go', 200), layers: { go: box(10, 'click → go to far') } })))).toBeUndefined();
  const gull = { at: [0, 300, 20, 20] as const };
  expect(midwayOf(withMidway(program({ timeline: moving('gull', 400), layers: { gull, go: box(10, 'click → go to far') } })))).toBeUndefined();
});
