import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compose, layerId as id, type ComposeSpec, type TimelineSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { expand } from '../program/expand.ts';
import { frameAt } from './playhead.ts';
import { clipFrames, mediaFrames } from './played.ts';
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
