import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import type { Program } from '../program/program.ts';
import { resolveScreen } from '../run/resolve.ts';
import { advance, start } from '../run/run.ts';
import type { RunEvent } from '../run/state.ts';
import { compose, layerId as id, type ComposeSpec } from '../compose/compose.ts';
import { generator } from '../testing/large.ts';
import { labOf, mixColors } from './color.ts';
import { parseEasing } from './easing.ts';
import { isAlike, mainOutline, mixPaths, outlinesOf } from './path.ts';
import { atRest, pictureAt, present, type Picture, type Presentation } from './presenter.ts';
import { valueAt } from './track.ts';
import { NUMBERS } from './mix.ts';
import { valuesOf, type Values } from './values.ts';

const transitions = [
  'cut',
  'dissolve 300 ms linear',
  'push left 300 ms ease',
  'cover up 200 ms linear',
  'uncover right 250 ms linear',
  'wipe down 300 ms linear',
  'tween 400 ms spring(0.4) stagger 30 ms by order',
  'tween 300 ms linear after 100 ms',
];

/** Two frames with layers in common, a state that moves things, looks, and a layer that is tweened. */
const spec: ComposeSpec = {
  size: [300, 400],
  frames: {
    a: {
      background: '#ffffff',
      states: { One: {}, Two: { box: { pose: { x: 150, rotation: 90 }, style: { fill: '#0000ff' } }, extra: { hidden: false } } },
      layers: {
        box: {
          at: [10, 10, 60, 60],
          style: { fill: '#ff0000' },
          looks: { hover: { style: { fill: '#00ff00' } } },
          lines: ['click → toggle this with Two · tween 300 ms linear'],
        },
        extra: { at: [10, 300, 50, 50], hidden: true },
        title: { at: [10, 100, 100, 20], type: 'text', text: 'Here' },
        slide: { at: [10, 200, 50, 50], lines: ['click → move slide by 40, 0 · 300 ms linear; with tween opacity of slide to 0.5 · 200 ms ease'] },
        ...Object.fromEntries(
          transitions.map((how, i) => [`go${i}`, { at: [200, 10 + i * 45, 60, 40] as const, lines: [`click → go to b · ${how}`] }])
        ),
      },
    },
    b: {
      background: '#eeeeff',
      layers: {
        box: { at: [120, 200, 100, 80], style: { fill: '#00ffff' } },
        title: { at: [50, 10, 100, 20], type: 'text', text: 'There' },
        only: { at: [10, 300, 50, 50] },
        ...Object.fromEntries(
          transitions.map((how, i) => [`back${i}`, { at: [230, 10 + i * 45, 60, 40] as const, lines: [`click → go to a · ${how}`] }])
        ),
      },
    },
  },
};

const program = compile(compose(spec));
const begun = start(program)!;

interface Play {
  run: typeof begun;
  presentation: Presentation;
}

function send(program: Program, play: Play, event: RunEvent, now: number): Play {
  const next = advance(program, play.run, event);
  const effects = next.reports.flatMap((report) => report.effects);
  return { run: next.run, presentation: present(play.presentation, resolveScreen(program, next.run), effects, now) };
}

/** Everything that can be seen of a layer that is there: its values, and those of the scene it is in. */
/** `leaving`: also what is on its way out. */
function visible(picture: Picture, leaving: boolean): Map<string, Values & { sceneX: number; sceneY: number; sceneOpacity: number }> {
  const found = new Map<string, Values & { sceneX: number; sceneY: number; sceneOpacity: number }>();
  for (const scene of picture.scenes.filter((one) => leaving || !one.isLeaving))
    for (const shown of scene.surface.all) {
      const values = picture.values.get(shown.node.key) ?? valuesOf(shown);
      found.set(shown.node.key, { ...values, sceneX: scene.x, sceneY: scene.y, sceneOpacity: scene.opacity });
    }
  return found;
}

const randomEvent = (random: () => number, frame: string): RunEvent => {
  const kind = random();
  if (kind < 0.2) return { type: 'hover', layer: id(frame, 'box') };
  if (kind < 0.3) return { type: 'leave' };
  if (frame === 'a' && kind < 0.5) return { type: 'click', layer: id('a', 'box') };
  if (frame === 'a' && kind < 0.65) return { type: 'click', layer: id('a', 'slide') };
  return { type: 'click', layer: id(frame, `${frame === 'a' ? 'go' : 'back'}${Math.floor(random() * transitions.length)}`) };
};

describe('presenting', () => {
  test('nothing jumps when a change is interrupted: a layer that is still there goes on from where it was', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = generator(seed);
        let now = 0;
        let play: Play = { run: begun, presentation: atRest(resolveScreen(program, begun)) };
        for (let i = 0; i < 8; i++) {
          now += Math.floor(random() * 400);
          const before = visible(pictureAt(play.presentation, now), false);
          const settledBefore = play.presentation.screen.frame;
          const next = send(program, play, randomEvent(random, play.run.frame), now);
          const after = visible(pictureAt(next.presentation, now), true);
          const isCut = next.presentation.screen.frame !== settledBefore && next.presentation.until <= now;
          if (!isCut)
            for (const [key, values] of after) {
              const old = before.get(key);
              if (!old || key.startsWith('#')) continue;
              const cutLayer =
                play.presentation.screen !== next.presentation.screen &&
                next.presentation.tracks.get(key) === undefined &&
                settledBefore === next.presentation.screen.frame;
              if (cutLayer) continue;
              for (const name of ['x', 'y', 'rotation', 'sceneX', 'sceneY'] as const)
                expect(values[name], `${key}.${name}`).toBeCloseTo(old[name], 6);
            }
          play = next;
        }
      }),
      { numRuns: 120 }
    );
  });

  test('at its end a picture is the settled screen, exactly', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = generator(seed);
        let now = 0;
        let play: Play = { run: begun, presentation: atRest(resolveScreen(program, begun)) };
        for (let i = 0; i < 6; i++) {
          now += Math.floor(random() * 300);
          play = send(program, play, randomEvent(random, play.run.frame), now);
        }
        const end = Math.max(now, play.presentation.until);
        const picture = pictureAt(play.presentation, end);
        expect(picture.values.size).toBe(0);
        expect(picture.scenes.map(({ surface, x, y, opacity, ghosts }) => [surface.scene, x, y, opacity, ghosts.size])).toEqual(
          play.presentation.screen.surfaces.map((surface) => [surface.scene, surface.x, surface.y, 1, 0])
        );
      }),
      { numRuns: 120 }
    );
  });

  test('a tween between frames pairs copies and names, fades the rest, and staggers', () => {
    const play = send(program, { run: begun, presentation: atRest(resolveScreen(program, begun)) }, { type: 'click', layer: id('a', 'go7') }, 1000);
    const at = (ms: number) => pictureAt(play.presentation, 1000 + ms);
    expect(at(0).scenes).toHaveLength(1);
    const box = (ms: number) => at(ms).values.get(id('b', 'box'))!;
    expect(box(0)).toMatchObject({ x: 10, y: 10, fill: '#ff0000' });
    expect(box(100)).toMatchObject({ x: 10, y: 10 });
    expect(box(250).x).toBeCloseTo(65, 6);
    expect(at(250).values.get(id('b', 'only'))!.opacity).toBeCloseTo(0.5, 6);
    expect(
      at(250)
        .scenes[0]!.ghosts.get('')!
        .map((ghost) => ghost.shown.node.layer.name)
    ).toContain('slide');
    expect(at(250).scenes[0]!.background).not.toBe('#eeeeff');
    expect(at(400).scenes[0]!.background).toBe('#eeeeff');
    const staggered = send(program, { run: begun, presentation: atRest(resolveScreen(program, begun)) }, { type: 'click', layer: id('a', 'go6') }, 0);
    const starts = [...staggered.presentation.tracks.values()].map((tracks) => tracks[0]!.start);
    expect(new Set(starts).size).toBeGreaterThan(3);
  });

  test('looks ease in by themselves, numbers of a step by its own time', () => {
    const hovered = send(program, { run: begun, presentation: atRest(resolveScreen(program, begun)) }, { type: 'hover', layer: id('a', 'box') }, 0);
    expect(hovered.presentation.until).toBe(120);
    expect(pictureAt(hovered.presentation, 60).values.get(id('a', 'box'))!.fill).not.toMatch(/#ff0000|#00ff00/);
    const moved = send(program, { run: begun, presentation: atRest(resolveScreen(program, begun)) }, { type: 'click', layer: id('a', 'slide') }, 0);
    expect(pictureAt(moved.presentation, 150).values.get(id('a', 'slide'))!.x).toBeCloseTo(30, 6);
  });

  describe('in the middle of things', () => {
    const shownAt = (presentation: Presentation, now: number) => {
      const { scenes, values } = pictureAt(presentation, now);
      const all = scenes.flatMap(({ surface, ghosts }) => [
        ...surface.all.map((shown) => [shown.node.layer.name, values.get(shown.node.key) ?? valuesOf(shown)] as const),
        ...[...ghosts.values()].flat().map((ghost) => [`${ghost.shown.node.layer.name} ${ghost.shown.text ?? 'gone'}`, ghost.values] as const),
      ]);
      return { scenes, of: (name: string) => all.filter(([one]) => one === name).map(([, values]) => values) };
    };
    const begin = (spec: ComposeSpec) => {
      const program = compile(compose(spec));
      const run = start(program)!;
      return { program, play: { run, presentation: atRest(resolveScreen(program, run)) } };
    };

    test('a tween that is turned back has what fades come back from where it is, and its ground too', () => {
      const frame = (to: string, ground: string, own: string) => ({
        background: ground,
        layers: {
          box: { at: [0, 0, 50, 50] as const, lines: [`click → go to ${to} · tween 400 ms linear`] },
          [own]: { at: [0, 100, 50, 50] as const },
        },
      });
      const { program, play } = begin({ frames: { a: frame('b', '#000000', 'mine'), b: frame('a', '#ffffff', 'yours') } });
      const there = send(program, play, { type: 'click', layer: id('a', 'box') }, 0);
      const before = shownAt(there.presentation, 100);
      expect(before.of('mine gone')[0]!.opacity).toBeCloseTo(0.75);
      const back = send(program, there, { type: 'click', layer: id('b', 'box') }, 100);
      const after = shownAt(back.presentation, 100);
      expect(after.of('mine')[0]!.opacity).toBeCloseTo(0.75);
      expect(after.of('yours gone')[0]!.opacity).toBeCloseTo(0.25);
      expect(after.scenes[0]!.background).toBe(before.scenes[0]!.background);
    });

    test('a tween in the middle of a push dissolves, and nothing jumps', () => {
      const frame = (line: string) => ({ layers: { box: { at: [0, 0, 50, 50] as const, lines: [line] } } });
      const { program, play } = begin({
        frames: {
          a: frame('click → go to b · push left 400 ms linear'),
          b: frame('click → go to c · tween 400 ms linear'),
          c: frame('click → go to a'),
        },
      });
      const there = send(program, play, { type: 'click', layer: id('a', 'box') }, 0);
      const on = send(program, there, { type: 'click', layer: id('b', 'box') }, 100);
      const places = (presentation: Presentation) =>
        shownAt(presentation, 100)
          .scenes.filter(({ opacity }) => opacity > 0)
          .map(({ surface, x }) => [surface.scene, x]);
      expect(places(on.presentation)).toEqual(places(there.presentation));
    });

    test('a look comes and goes in its own time, also under a change of state', () => {
      const { program, play } = begin({
        frames: {
          a: {
            states: { One: {}, Two: { box: { pose: { x: 100 } } } },
            layers: {
              box: {
                at: [0, 0, 50, 50],
                looks: { hover: { style: { opacity: 0.2 }, ms: 100, easing: 'linear' } },
                lines: ['click → put this in Two · tween 400 ms linear'],
              },
            },
          },
        },
      });
      const over = send(program, play, { type: 'hover', layer: id('a', 'box') }, 0);
      const moved = send(program, over, { type: 'click', layer: id('a', 'box') }, 200);
      const [at] = shownAt(moved.presentation, 300).of('box');
      expect([at!.x, at!.opacity]).toEqual([25, 0.2]);
      // The pointer is not over it any more where it has gone to.
      const left = send(program, moved, { type: 'leave' }, 300);
      expect(shownAt(left.presentation, 350).of('box')[0]!.opacity).toBeCloseTo(0.6);
      expect(shownAt(left.presentation, 350).of('box')[0]!.x).toBeCloseTo(37.5);
    });

    test('what a look shows fades in and out in the time of the look', () => {
      const { program, play } = begin({
        frames: {
          a: {
            layers: {
              card: { type: 'group', at: [0, 0, 100, 100], looks: { hover: { inside: { tip: { hidden: false } }, ms: 100, easing: 'linear' } } },
              ground: { at: [0, 0, 100, 100], in: 'card' },
              tip: { at: [0, 0, 50, 20], in: 'card', hidden: true },
            },
          },
        },
      });
      expect(shownAt(play.presentation, 0).of('tip')).toEqual([]);
      const over = send(program, play, { type: 'move', x: 80, y: 80 }, 0);
      expect([25, 200].map((time) => shownAt(over.presentation, time).of('tip')[0]!.opacity)).toEqual([0.25, 1]);
      const left = send(program, over, { type: 'leave' }, 200);
      expect(shownAt(left.presentation, 225).of('tip gone')[0]!.opacity).toBeCloseTo(0.75);
      expect(shownAt(left.presentation, 301).of('tip gone')).toEqual([]);
    });

    test('words that are swapped fade over each other while their box moves; a dissolve moves nothing', () => {
      const frames = (how: string): ComposeSpec => ({
        frames: {
          a: {
            states: { One: {}, Two: { word: { text: 'Flood', pose: { x: 100 } } } },
            layers: { word: { type: 'text', text: 'Ebb', at: [0, 0, 50, 20], lines: [`click → put this in Two · ${how} 400 ms linear`] } },
          },
        },
      });
      const half = (how: string) => {
        const { program, play } = begin(frames(how));
        return shownAt(send(program, play, { type: 'click', layer: id('a', 'word') }, 0).presentation, 200);
      };
      const tween = half('tween');
      expect(tween.of('word Ebb')[0]).toMatchObject({ x: 50, opacity: 0.5 });
      expect(tween.of('word')[0]).toMatchObject({ x: 50, opacity: 1 });
      expect(tween.of('word')[0]!.ink).toMatch(/80$/);
      const dissolve = half('dissolve');
      expect(dissolve.of('word Ebb')[0]).toMatchObject({ x: 0, opacity: 0.5 });
      expect(dissolve.of('word')[0]).toMatchObject({ x: 100, opacity: 0.5 });
    });

    test('keyframes are between timeline frames as well, never beyond their section', () => {
      const along = (labels: Record<string, [number, 'hold']>) =>
        begin({
          fps: 10,
          frames: {
            a: {
              timeline: {
                length: 11,
                labels,
                tracks: [
                  [
                    'box',
                    'x',
                    [
                      [0, 0],
                      [10, 100],
                    ],
                  ],
                ],
              },
              layers: { box: { at: [0, 0, 50, 50] } },
            },
          },
        });
      const { program, play } = along({ End: [10, 'hold'] });
      const x = (clock: number) => resolveScreen(program, { ...play.run, clock }).surfaces[0]!.all[0]!.x;
      expect([0, 50, 100, 333, 899].map(x)).toEqual([0, 5, 10, expect.closeTo(33.3), expect.closeTo(89.9)]);
      expect(x(980)).toBeCloseTo(98);
      const held = along({ In: [0, 'hold'], Out: [10, 'hold'] });
      expect(resolveScreen(held.program, { ...held.play.run, clock: 980 }).surfaces[0]!.all[0]!.x).toBe(90);
    });
  });

  test('with movement turned off nothing moves, and what went over fades', () => {
    const next = advance(program, begun, { type: 'click', layer: id('a', 'go2') });
    const effects = next.reports.flatMap((report) => report.effects);
    const calm = present(atRest(resolveScreen(program, begun)), resolveScreen(program, next.run), effects, 0, { still: true });
    const picture = pictureAt(calm, 150);
    expect(picture.scenes.every((scene) => scene.x === 0 && scene.y === 0)).toBe(true);
    expect(picture.scenes.some((scene) => scene.opacity > 0 && scene.opacity < 1)).toBe(true);
  });
});

describe('values on their way', () => {
  const colors = fc
    .tuple(fc.integer({ min: 0, max: 0xffffff }), fc.integer({ min: 0, max: 255 }))
    .map(([rgb, alpha]) => `#${rgb.toString(16).padStart(6, '0')}${alpha === 255 ? '' : alpha.toString(16).padStart(2, '0')}`);

  test('colours go through OKLab, exact at both ends', () => {
    fc.assert(
      fc.property(colors, colors, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, t) => {
        expect(mixColors(a, b, 0)).toBe(a);
        expect(mixColors(a, b, 1)).toBe(b);
        expect(mixColors(a, b, t)).toMatch(/^#[0-9a-f]{6}([0-9a-f]{2})?$/);
      })
    );
    const { L, a, b } = labOf('#ff0000');
    expect([L, a, b].map((n) => n.toFixed(3))).toEqual(['0.628', '0.225', '0.126']);
    expect(mixColors('#000000', '#ffffff', 0.5)).toBe('#636363');
  });

  test('paths with the same commands mix, others change at the middle', () => {
    expect(mixPaths('M0 0L10 10', 'M10 0 L 20,30', 0.5)).toBe('M 5 0L 15 20');
    expect(isAlike('M0 0L1 1', 'M0 0C1 1 2 2 3 3')).toBe(false);
    // What cannot become the other is faded into it; what is on the way already goes on from what is seen of each.
    const [one, other, third] = ['M0 0L1 1', 'M0 0H5', 'M0 0V7'];
    const halfway = mixPaths(one, other, 0.6);
    expect(outlinesOf(halfway)).toEqual([
      { outline: one, share: 0.4 },
      { outline: other, share: 0.6 },
    ]);
    expect(mainOutline(halfway)).toBe(other);
    expect(outlinesOf(mixPaths(halfway, third, 0.5)).map(({ share }) => share)).toEqual([0.2, 0.3, 0.5]);
    expect(outlinesOf(mixPaths(halfway, one, 0.5))).toEqual([
      { outline: one, share: 0.7 },
      { outline: other, share: 0.3 },
    ]);
    expect([mixPaths(halfway, one, 1), mixPaths(halfway, one, 0), mixPaths(one, other, 1.2)]).toEqual([one, halfway, other]);
    expect(outlinesOf(one)).toEqual([{ outline: one, share: 1 }]);
  });

  test('tracks are exact at keyframes, forward and backward', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 50 }), fc.integer({ min: -9, max: 9 })), {
          minLength: 1,
          maxLength: 8,
          selector: ([time]) => time,
        }),
        (pairs) => {
          const keys = [...pairs].sort(([a], [b]) => a - b).map(([time, value]) => ({ time, value, easing: 'ease-in-out' }));
          for (const key of [...keys].reverse()) expect(valueAt(keys, key.time, 'x')).toBe(key.value);
          for (let frame = 0; frame <= 50; frame++) expect(valueAt(keys, frame, 'x')).toBe(valueAt(keys, frame, 'x'));
        }
      )
    );
  });

  test.each(['spring(0)', 'spring(0.3)', 'spring(1)', 'overshoot(0.1)', 'overshoot(0.5)'])(
    '%s begins and ends exactly, and moves smoothly',
    (text) => {
      const ease = parseEasing(text)!;
      expect([ease(0), ease(1)]).toEqual([0, 1]);
      let most = 0;
      for (let i = 1; i <= 1000; i++) most = Math.max(most, Math.abs(ease(i / 1000) - ease((i - 1) / 1000)));
      expect(most).toBeLessThan(0.15);
    }
  );

  test('an overshoot passes its end by what it says', () => {
    const ease = parseEasing('overshoot(0.25)')!;
    expect(Math.max(...Array.from({ length: 2001 }, (_, i) => ease(i / 2000)))).toBeCloseTo(1.25, 3);
  });

  test('every number has a place in the values', () => {
    const shown = resolveScreen(program, begun).surfaces[0]!.all[0]!;
    for (const name of NUMBERS) expect(typeof valuesOf(shown)[name]).toBe('number');
  });
});
