import { describe, expect, test } from 'vitest';
import { compose, layerId as id, type ComposeSpec, type PlacedSpec, type TimelineSpec } from '../compose/compose.ts';
import type { Timeline } from '../piece/schema.ts';
import { compile } from '../program/compile.ts';
import { isThereAt, nextStop, sectionAt, sectionsOf, spansOf, trackedIn, tracksOn } from './playhead.ts';
import { resolveScreen } from './resolve.ts';
import { replay, start } from './run.ts';
import type { Playhead, RunEvent } from './state.ts';

/** What a timeline is at its frames: sections, spans, keyframes, and when something next happens. */

const timelineOf = (spec: TimelineSpec, layers: Record<string, PlacedSpec> = { ship: {} }): Timeline =>
  compose({ frames: { home: { timeline: spec, layers } } }).scenes.get('home')!.timeline!;

const labelled = (labels: Timeline['labels'], more: Partial<Timeline> = {}): Timeline => ({ length: 30, labels: labels!, ...more });

describe('sections', () => {
  const names = (timeline: Timeline) => sectionsOf(timeline).map(({ label, from, to, ending }) => [label, from, to, ending.do]);

  test('lie one behind the other in the order of time, whatever the order of labels; before the first label one goes on', () => {
    const timeline = labelled({
      c: { name: 'C', time: 20, ending: { do: 'hold' } },
      a: { name: 'A', time: 5, ending: { do: 'go on' } },
      b: { name: 'B', time: 12, ending: { do: 'loop' } },
    });
    expect(names(timeline)).toEqual([
      [null, 0, 4, 'go on'],
      ['a', 5, 11, 'go on'],
      ['b', 12, 19, 'loop'],
      ['c', 20, 29, 'hold'],
    ]);
    expect([0, 4, 5, 11, 12, 29].map((frame) => sectionAt(timeline, frame)!.label)).toEqual([null, null, 'a', 'a', 'b', 'c']);
    expect([-1, 30].map((frame) => sectionAt(timeline, frame))).toEqual([null, null]);
  });

  test('without a label there is one, which loops or holds as the whole does', () => {
    expect(names({ length: 30 })).toEqual([[null, 0, 29, 'hold']]);
    expect(names({ length: 30, loop: true })).toEqual([[null, 0, 29, 'loop']]);
  });

  test('labels beyond the end have none; of two at one time the last by id has it', () => {
    expect(names(labelled({ a: { name: 'A', time: 0, ending: { do: 'hold' } }, z: { name: 'Z', time: 30, ending: { do: 'hold' } } }))).toEqual([
      ['a', 0, 29, 'hold'],
    ]);
    const both = { name: 'A', time: 10, ending: { do: 'hold' as const } };
    const wanted = [
      [null, 0, 9, 'go on'],
      ['b', 10, 29, 'hold'],
    ];
    expect(names(labelled({ b: both, a: both }))).toEqual(wanted);
    expect(names(labelled({ a: both, b: both }))).toEqual(wanted);
  });
});

test('a layer is there in any of its spans, their first and last frames included; one without a span always', () => {
  const timeline = timelineOf(
    {
      length: 30,
      spans: [
        ['ship', 3, 5],
        ['ship', 20, 22],
      ],
    },
    { ship: {}, pier: {} }
  );
  const [ship, pier] = [id('home', 'ship'), id('home', 'pier')];
  expect(spansOf(timeline).get(ship)).toEqual([
    { from: 3, to: 5 },
    { from: 20, to: 22 },
  ]);
  expect([2, 3, 5, 6, 19, 20, 22, 23].map((frame) => isThereAt(timeline, ship, frame))).toEqual([false, true, true, false, false, true, true, false]);
  expect(isThereAt(timeline, pier, 0)).toBe(true);
});

describe('the next stop', () => {
  const program = compile(compose({ fps: 10, frames: { home: {} } }));
  const timeline = timelineOf(
    {
      length: 30,
      labels: { Out: [20, 'hold'] },
      spans: [['ship', 8, 11]],
      cues: [
        [4, 'ship', 'play'],
        [4, 'pier', 'play'],
        [15, 'ship', 'pause'],
      ],
    },
    { ship: { type: 'video' }, pier: { type: 'video' } }
  );
  const stops = (head: Partial<Playhead>) => {
    const found = nextStop(program, { at: 0, since: 1000, playing: true, visits: 1, ...head }, timeline);
    return found && [found.frame, found.isEnd, found.due];
  };

  test('is the nearest mark ahead, else the end of the section, with the moment that it is due', () => {
    expect(stops({ at: 0 })).toEqual([4, false, 1400]);
    expect(stops({ at: 4 })).toEqual([8, false, 1400]);
    expect(stops({ at: 8 })).toEqual([12, false, 1400]);
    expect(stops({ at: 12 })).toEqual([15, false, 1300]);
    expect(stops({ at: 15 })).toEqual([20, true, 1500]);
    expect(stops({ at: 20 })).toEqual([30, true, 2000]);
    expect(stops({ at: 5, playing: false })).toBeNull();
  });
});

describe('keyframes', () => {
  const piece = (tracks: TimelineSpec['tracks'], more: Partial<PlacedSpec> = {}, labels: TimelineSpec['labels'] = {}): ComposeSpec => ({
    fps: 10,
    frames: {
      home: {
        timeline: { length: 21, ...(Object.keys(labels!).length && { labels }), tracks },
        layers: { ship: { at: [0, 0, 10, 10], ...more } },
      },
    },
  });
  const at = (spec: ComposeSpec, ms: number, ...events: RunEvent[]) => {
    const program = compile(compose(spec));
    const { run } = replay(program, start(program)!, [...events, { type: 'wait', ms }]);
    return resolveScreen(program, run).surfaces[0]!.all[0]!;
  };
  const x: NonNullable<TimelineSpec['tracks']>[number] = [
    'ship',
    'x',
    [
      [0, 0],
      [10, 100],
      [20, 100],
    ],
  ];

  test('move between two frames too, and never over the end of a section that holds', () => {
    expect([0, 250, 500, 999].map((ms) => Math.round(at(piece([x]), ms).x))).toEqual([0, 25, 50, 100]);
    const held = piece(
      [
        [
          'ship',
          'x',
          [
            [0, 0],
            [20, 200],
          ],
        ],
      ],
      {},
      { In: [0, 'hold'], Out: [6, 'hold'] }
    );
    expect([450, 500, 590, 5000].map((ms) => Math.round(at(held, ms).x))).toEqual([45, 50, 50, 50]);
    const on = piece(
      [
        [
          'ship',
          'x',
          [
            [0, 0],
            [20, 200],
          ],
        ],
      ],
      {},
      { In: [0, 'go on'], Out: [6, 'hold'] }
    );
    expect([550, 590, 600, 660].map((ms) => Math.round(at(on, ms).x))).toEqual([55, 59, 60, 66]);
    const last = piece(
      [
        [
          'ship',
          'x',
          [
            [0, 0],
            [20, 200],
          ],
        ],
      ],
      {},
      { In: [0, 'go on'] }
    );
    expect(Math.round(at(last, 2050).x)).toBe(200);
  });

  test('one value of a line leaves the other, and outlines are put where they are', () => {
    const tracks: TimelineSpec['tracks'] = [
      [
        'ship',
        'lineWidth',
        [
          [0, 0],
          [10, 20],
        ],
      ],
      [
        'ship',
        'corner',
        [
          [0, 0],
          [10, 8],
        ],
      ],
    ];
    const shown = at(piece(tracks, { style: { line: { color: '#1f4e5f', width: 1 } } }), 500);
    expect(shown.style).toMatchObject({ line: { color: '#1f4e5f', width: 10 }, corner: 4 });
    const both = piece([...tracks, ['ship', 'lineColor', [[0, '#b23a26']]]], { style: { line: { color: '#1f4e5f', width: 1 } } });
    expect(at(both, 500).style.line).toEqual({ color: '#b23a26', width: 10 });
    const outline = at(piece([['ship', 'path', [[0, 'M0 0L10 0L10 10Z']]]], { type: 'path', path: 'M0 0L5 0L5 5Z' }), 100);
    expect(outline.path).toBe('M0 0L10 0L10 10Z');
  });

  test('what turns along its way looks where it goes; where it rests, where it last went, before it has moved, where it will go', () => {
    const way: TimelineSpec['tracks'] = [
      [
        'ship',
        'x',
        [
          [0, 0],
          [4, 0],
          [8, 80],
          [12, 80],
          [16, 80],
          [20, 80],
        ],
      ],
      [
        'ship',
        'y',
        [
          [0, 0],
          [4, 0],
          [8, 0],
          [12, 60],
          [16, 60],
          [20, 60],
        ],
      ],
    ];
    const turned = (ms: number, more: Partial<PlacedSpec> = {}) => Math.round(at(piece(way, { turnsAlong: true, ...more }), ms).rotation);
    expect([0, 200, 600, 1000, 1400, 2000].map((ms) => turned(ms))).toEqual([0, 0, 0, 90, 90, 90]);
    expect(turned(1000, { pose: { rotation: 30 } })).toBe(120);
    expect(turned(1000, { turnsAlong: false } as Partial<PlacedSpec>)).toBe(0);
    const keyed = piece([...way!, ['ship', 'rotation', [[0, 10]]]], { turnsAlong: true });
    expect(Math.round(at(keyed, 1000).rotation)).toBe(100);
    const still = piece(
      [
        [
          'ship',
          'x',
          [
            [0, 5],
            [10, 5],
          ],
        ],
        [
          'ship',
          'scale',
          [
            [0, 1],
            [10, 2],
          ],
        ],
      ],
      { turnsAlong: true, pose: { rotation: 30 } }
    );
    expect(at(still, 500).rotation).toBe(30);
    // What will go up looks up before it goes.
    const up = piece(
      [
        [
          'ship',
          'y',
          [
            [0, 0],
            [6, 0],
            [12, -50],
          ],
        ],
      ],
      { turnsAlong: true }
    );
    expect([0, 300, 900].map((ms) => Math.round(at(up, ms).rotation))).toEqual([-90, -90, -90]);
  });

  test('a part, and the scene that it is placed in, both put theirs', () => {
    const placed = compose({
      fps: 10,
      parts: {
        Boat: {
          timeline: {
            length: 20,
            tracks: [
              [
                'hull',
                'x',
                [
                  [0, 0],
                  [10, 10],
                ],
              ],
            ],
          },
          layers: { hull: { at: [0, 0, 5, 5] }, mast: { at: [0, 0, 1, 5] } },
        },
      },
      frames: {
        home: {
          timeline: {
            length: 20,
            tracks: [
              [
                'boat',
                'x',
                [
                  [0, 0],
                  [10, 100],
                ],
              ],
            ],
          },
          layers: { boat: { type: 'placement', part: 'Boat', at: [0, 0, 5, 5] } },
        },
      },
    });
    const program = compile(placed);
    const { run } = replay(program, start(program)!, [{ type: 'wait', ms: 500 }]);
    const { all } = resolveScreen(program, run).surfaces[0]!;
    const nodes = new Map(all.map((shown) => [shown.node.layer.name, shown]));
    expect([nodes.get('boat')!.x, nodes.get('hull')!.x]).toEqual([50, 5]);
    expect(['boat', 'hull', 'mast'].map((name) => tracksOn(nodes.get(name)!.node).map(({ property }) => property))).toEqual([['x'], ['x'], []]);
    const { timeline } = placed.scenes.get('home')!;
    const boat = [...placed.layers.values()].find(({ name }) => name === 'boat')!;
    expect(trackedIn(timeline!, boat.id, 5, boat)).toEqual({ pose: { x: 50 } });
    expect(trackedIn(timeline!, 'nobody', 5, boat)).toBeNull();
  });
});
