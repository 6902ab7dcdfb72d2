import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compose, layerId as id, type ComposeSpec, type TimelineSpec } from '../compose/compose.ts';
import type { Timeline } from '../piece/schema.ts';
import { compile } from '../program/compile.ts';
import { expand } from '../program/expand.ts';
import { frameAt, sectionsOf } from './playhead.ts';
import { afterSection, clipFrames, mediaFrames, playedOn } from './played.ts';
import { advance, start } from './run.ts';

/** Where clips are by reckoning, against where a run brings them. */

const FPS = 20;

function both(spec: ComposeSpec, frame: number) {
  const program = compile(compose({ fps: FPS, ...spec }));
  const begun = start(program)!;
  const { run } = advance(program, begun, { type: 'wait', ms: (frame * 1000) / FPS });
  const root = run.roots['home']!;
  const { instances } = expand(program, program.scenes.get('home')!);
  const reckoned = clipFrames(instances.values(), frame);
  const ran = new Map(
    [...instances.values()].flatMap((instance) => {
      const head = root.heads[instance.key];
      return instance.key !== '' && head && root.present[instance.key] ? [[instance.key, frameAt(program, head, run.clock)] as const] : [];
    })
  );
  return { reckoned, ran };
}

const timeline = (most: number) =>
  fc
    .record({
      length: fc.integer({ min: 2, max: most }),
      loop: fc.boolean(),
      autoplay: fc.boolean(),
      cut: fc.nat(most),
      ending: fc.constantFrom('hold', 'loop', 'go on'),
    })
    .map(({ length, loop, autoplay, cut, ending }): TimelineSpec => ({
      length,
      loop,
      autoplay,
      labels: cut > 0 && cut < length ? { A: [0, 'go on'], B: [cut, ending as 'hold'] } : {},
    }));

describe('clips that have been left to play', () => {
  test('are where a run brings them: spans, endings, clips in clips', () => {
    fc.assert(
      fc.property(
        timeline(30),
        timeline(20),
        fc.nat(39),
        fc.nat(39),
        fc.nat(39),
        fc.option(fc.tuple(fc.nat(12), fc.nat(29))),
        (clip, inner, a, b, frame, deep) => {
          const [from, to] = [Math.min(a, b), Math.max(a, b)];
          const spec: ComposeSpec = {
            parts: {
              Inner: { timeline: inner, layers: { Dot: { at: [0, 0, 5, 5] } } },
              Clip: {
                timeline: {
                  ...clip,
                  ...(deep && deep[0] < clip.length && { spans: [['Deep', deep[0], Math.min(clip.length - 1, Math.max(...deep))] as const] }),
                },
                layers: { Deep: { type: 'placement', part: 'Inner', at: [0, 0, 9, 9] } },
              },
            },
            frames: {
              home: {
                timeline: { length: 40, spans: [['Late', from, to]] },
                layers: {
                  Always: { type: 'placement', part: 'Clip', at: [0, 0, 9, 9] },
                  Late: { type: 'group', at: [0, 0, 9, 9] },
                  In: { type: 'placement', part: 'Clip', at: [0, 0, 9, 9], in: 'Late' },
                },
              },
            },
          };
          const { reckoned, ran } = both(spec, frame);
          expect(Object.fromEntries(reckoned)).toEqual(Object.fromEntries(ran));
        }
      ),
      { numRuns: 400 }
    );
  });

  test('cues on the timeline stop them, let them go on and begin them anew', () => {
    const spec = (cues: TimelineSpec['cues'], autoplay = true): ComposeSpec => ({
      parts: { Clip: { timeline: { length: 30, autoplay }, layers: { Dot: { at: [0, 0, 5, 5] } } } },
      frames: { home: { timeline: { length: 40, cues }, layers: { Clip: { type: 'placement', part: 'Clip', at: [0, 0, 9, 9] } } } },
    });
    const key = id('home', 'Clip');
    for (const [cues, autoplay] of [
      [[[5, 'Clip', 'pause']], true],
      [
        [
          [5, 'Clip', 'pause'],
          [12, 'Clip', 'play'],
        ],
        true,
      ],
      [[[5, 'Clip', 'start over']], true],
      [[[9, 'Clip', 'play']], false],
      [
        [
          [3, 'Clip', 'pause'],
          [9, 'Clip', 'start over'],
          [15, 'Clip', 'pause'],
        ],
        true,
      ],
    ] as [TimelineSpec['cues'], boolean][])
      for (const frame of [0, 4, 5, 8, 9, 14, 20, 39]) {
        const { reckoned, ran } = both(spec(cues, autoplay), frame);
        expect([frame, reckoned.get(key)], JSON.stringify(cues)).toEqual([frame, ran.get(key)]);
      }
  });
});

test('films and sounds have played since they came in, less what cues kept them still', () => {
  const film = { type: 'video' as const, at: [0, 0, 9, 9] as const };
  const program = compile(
    compose({
      fps: FPS,
      parts: { Clip: { timeline: { length: 30, spans: [['In', 5, 29]] }, layers: { In: { ...film, media: { autoplay: true } } } } },
      frames: {
        home: {
          timeline: {
            length: 60,
            spans: [
              ['Late', 10, 39],
              ['Clip', 20, 59],
            ],
            cues: [
              [8, 'Cued', 'play'],
              [18, 'Cued', 'pause'],
              [30, 'Cued', 'start over'],
            ],
          },
          layers: {
            Always: { ...film, media: { autoplay: true } },
            Late: { ...film, media: { autoplay: true } },
            Cued: film,
            Waits: film,
            Clip: { type: 'placement', part: 'Clip', at: [0, 0, 9, 9] },
          },
        },
      },
    })
  );
  const { timed } = expand(program, program.scenes.get('home')!);
  const at = (frame: number) => {
    const found = mediaFrames(timed, frame);
    return Object.fromEntries([...found].map(([key, { played, runs }]) => [key.replace(/^.*_/, ''), [played, runs]]));
  };
  expect(at(5)).toEqual({ Always: [5, true], Cued: [0, false], Waits: [0, false] });
  expect(at(15)).toEqual({ Always: [15, true], Late: [5, true], Cued: [7, true], Waits: [0, false] });
  expect(at(22)).toMatchObject({ Late: [12, true], Cued: [10, false] });
  expect(at(27)).toMatchObject({ In: [2, true], Cued: [10, false] });
  expect(at(45)).toEqual({ Always: [45, true], Cued: [15, true], Waits: [0, false], In: [20, true] });
});

const timelineOf = (spec: TimelineSpec): Timeline => compose({ frames: { home: { timeline: spec } } }).scenes.get('home')!.timeline!;

describe('a playhead that plays on', () => {
  /** The same, one frame after the other. */
  function stepped(timeline: Timeline, from: number, frames: number) {
    let at = from;
    let rounds = 0;
    for (let left = frames; left > 0; left--) {
      const section = sectionsOf(timeline).find(({ from: first, to }) => at >= first && at <= to)!;
      const { ending } = section;
      if (at < section.to) {
        at++;
        continue;
      }
      const next =
        ending.do === 'loop' && ++rounds === ending.times
          ? null
          : ending.do === 'loop'
            ? section.from
            : ending.do === 'go to'
              ? timeline.labels![ending.label!]!.time
              : ending.do === 'go on'
                ? section.to + 1 < timeline.length
                  ? section.to + 1
                  : timeline.loop
                    ? 0
                    : null
                : null;
      if (next === null) return { frame: at, stops: true };
      if (next !== section.from) rounds = 0;
      at = next;
    }
    return { frame: at, stops: false };
  }

  test('is where it comes to frame by frame, whatever endings lie on its way', () => {
    const ending = fc.oneof(
      fc.constantFrom('hold' as const, 'loop' as const, 'go on' as const),
      fc.record({ goTo: fc.constantFrom('A', 'B', 'C') }),
      fc.record({ rounds: fc.integer({ min: 2, max: 4 }) })
    );
    fc.assert(
      fc.property(
        fc.tuple(ending, ending, ending),
        fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 4 })),
        fc.boolean(),
        fc.nat(11),
        fc.nat(60),
        ([a, b, c], [one, two, three], loop, from, frames) => {
          const length = one + two + three;
          const made = timelineOf({ length, loop, labels: { A: [0, a], B: [one, b], C: [one + two, c] } });
          const begin = from % length;
          expect(playedOn(made, begin, frames)).toEqual(stepped(made, begin, frames));
        }
      ),
      { numRuns: 1000 }
    );
  });

  test('takes long rounds at once, and comes to an end of a great many sections', () => {
    const round = timelineOf({ length: 10, labels: { A: [0, 'go on'], B: [4, 'loop'] } });
    expect(playedOn(round, 0, 4 + 6 * 1_000_000_000 + 2)).toEqual({ frame: 6, stops: false });
    const two = timelineOf({ length: 2, labels: { A: [0, 'go on'], B: [1, { goTo: 'A' }] } });
    expect(playedOn(two, 0, 10_000_001).stops).toBe(false);
  });

  test('where it goes on after a section', () => {
    const made = timelineOf({ length: 10, labels: { A: [0, 'go on'], B: [4, 'go on'] } });
    const [a, b] = sectionsOf(made);
    const after = (ending: object, section = b!, timeline = made) => afterSection(timeline, { ...section, ending: ending as never });
    expect(after({ do: 'go on' }, a)).toBe(4);
    expect(after({ do: 'go on' })).toBeNull();
    expect(after({ do: 'go on' }, b, { ...made, loop: true })).toBe(0);
    expect(after({ do: 'hold' })).toBeNull();
    expect(after({ do: 'loop' })).toBe(4);
    expect(after({ do: 'go to', label: null })).toBeNull();
    expect(after({ do: 'go to', label: 'gone' })).toBeNull();
    const label = Object.keys(made.labels!).find((one) => made.labels![one]!.name === 'B')!;
    expect(after({ do: 'go to', label }, a)).toBe(4);
    expect(after({ do: 'go to', label }, a, { ...made, labels: { [label]: { ...made.labels![label]!, time: 99 } } })).toBe(9);
  });
});

test('what is in groups that come and go, and in parts without a time of their own, has been there as long as all around it', () => {
  const film = { type: 'video' as const, at: [0, 0, 9, 9] as const, media: { autoplay: true } };
  const program = compile(
    compose({
      fps: FPS,
      parts: {
        Still: { layers: { Inner: film } },
        Still2: { layers: { Deep: { type: 'placement', part: 'Still', at: [0, 0, 9, 9] } } },
      },
      frames: {
        home: {
          timeline: {
            length: 60,
            spans: [
              ['Outer', 5, 49],
              ['Group', 10, 19],
              ['Group', 25, 59],
              ['Nested', 12, 40],
            ],
            cues: [
              [30, 'Both', 'pause'],
              [11, 'Both', 'start over'],
              [2, 'Both', 'pause'],
            ],
          },
          layers: {
            Outer: { type: 'group', at: [0, 0, 9, 9] },
            Group: { type: 'group', at: [0, 0, 9, 9], in: 'Outer' },
            Nested: { ...film, in: 'Group' },
            Both: { ...film, in: 'Group' },
            Clip: { type: 'placement', part: 'Still2', at: [0, 0, 9, 9], in: 'Group' },
          },
        },
      },
    })
  );
  const { timed, instances } = expand(program, program.scenes.get('home')!);
  const at = (frame: number) =>
    Object.fromEntries([...mediaFrames(timed, frame)].map(([key, { played, runs }]) => [key.replace(/^.*_/, ''), [played, runs]]));
  expect(at(4)).toEqual({});
  expect(at(9)).toEqual({});
  expect(at(11)).toEqual({ Both: [0, true], Inner: [1, true] });
  expect(at(15)).toEqual({ Nested: [3, true], Both: [4, true], Inner: [5, true] });
  expect(at(22)).toEqual({});
  // It has come anew since: what was before does not count.
  expect(at(28)).toEqual({ Nested: [3, true], Both: [3, true], Inner: [3, true] });
  expect(at(35)).toEqual({ Nested: [10, true], Both: [5, false], Inner: [10, true] });
  expect(at(45)).toEqual({ Both: [5, false], Inner: [20, true] });
  expect(at(55)).toEqual({});
  expect(clipFrames(instances.values(), 15)).toEqual(new Map());
});

test('a scene without time has been there since it was begun', () => {
  const program = compile(
    compose({
      fps: FPS,
      frames: {
        home: { layers: { Film: { type: 'video', at: [0, 0, 9, 9], media: { autoplay: true } }, Waits: { type: 'video', at: [0, 0, 9, 9] } } },
      },
    })
  );
  const { timed } = expand(program, program.scenes.get('home')!);
  expect([...mediaFrames(timed, 12).values()].map(({ played, runs }) => [played, runs])).toEqual([
    [12, true],
    [0, false],
  ]);
});
