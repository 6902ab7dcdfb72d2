import { expect, test } from 'vitest';
import { framesOf, type Piece } from '../piece/piece.ts';
import { compile } from '../program/compile.ts';
import type { RunEvent } from '../run/state.ts';
import { compose } from '../testing/index.ts';
import { stepsOf, walkKept } from '../walk/kept.ts';
import { filmOfWalk, STANDS, type FilmMoment } from './film.ts';

const piece = compose({
  frames: {
    Home: {
      size: [200, 100],
      layers: {
        Go: { at: [20, 20, 80, 40], lines: ['click → go to Trip · push left 500 ms linear'] },
        Boat: { at: [0, 60, 10, 10], lines: ['click → wait 1 s; go to Trip'] },
      },
    },
    Trip: {
      size: [200, 100],
      layers: { Back: { at: [0, 0, 50, 50], lines: ['click → go to Home'] }, Sun: { at: [0, 60, 10, 10] } },
      timeline: {
        length: 25,
        tracks: [
          [
            'Sun',
            'x',
            [
              [0, 0, 'linear'],
              [24, 96],
            ],
          ],
        ],
      },
    },
  },
});
const program = compile(piece);
const [home, trip] = framesOf(piece) as [ReturnType<typeof framesOf>[number], ReturnType<typeof framesOf>[number]];
const idOf = (name: string, of: Piece = piece) => [...of.layers.values()].find((layer) => layer.name === name)!.id;

const film = (events: readonly RunEvent[], perSecond = 20): FilmMoment[] => [
  ...filmOfWalk(program, { from: home.id, steps: stepsOf(program, home.id, events as never)! }, perSecond),
];
const frames = ({ picture }: FilmMoment) => picture.scenes.map(({ surface, x }) => [program.scenes.get(surface.scene)!.scene.name, Math.round(x)]);
const framesIn = (ms: number, perSecond = 20) => (ms * perSecond) / 1000;

test('what is pressed is marked before it is, the change is seen to its end, and the last picture is where the walk ends', () => {
  const moments = film([{ type: 'click', layer: idOf('Go') }]);
  expect(moments).toHaveLength(framesIn(STANDS.first + STANDS.before + 500 + STANDS.after + STANDS.last) + 1);
  const pressed = moments.flatMap(({ press }, i) => (press ? [[i, press.x, press.y]] : []));
  expect(pressed).toEqual(Array.from({ length: framesIn(STANDS.before) }, (_, i) => [framesIn(STANDS.first) + 1 + i, 60, 40]));
  // The first moment after the press, and each of the 500 ms after it.
  const moved = moments.slice(framesIn(STANDS.first + STANDS.before), framesIn(STANDS.first + STANDS.before) + 11).map(frames);
  expect(moved[0]).toEqual([['Home', 0]]);
  expect(moved[5]).toEqual([
    ['Home', -100],
    ['Trip', 100],
  ]);
  expect(moved.at(-1)).toEqual([['Trip', 0]]);
  expect(frames(moments.at(-1)!)).toEqual([['Trip', 0]]);
});

test('time passes in the piece where the walk waits, and stands still in all else', () => {
  const walk = [
    { type: 'click', layer: idOf('Go') },
    { type: 'wait', ms: 500 },
    { type: 'click', layer: idOf('Back') },
  ] as const;
  const moments = film(walk);
  const sun = moments.map(({ picture }) => {
    const scene = picture.scenes.find(({ surface }) => surface.scene === trip.id);
    return scene ? Math.round(scene.surface.all.find(({ node }) => node.layer.name === 'Sun')!.x) : null;
  });
  const begins = framesIn(STANDS.first + STANDS.before);
  // 24 timeline frames a second, and 4 px each: after half a second it is at 48, and stays there while Back is about to be pressed.
  expect(sun[begins + 5]).toBe(24);
  expect(sun[begins + 10]).toBe(48);
  expect(sun.slice(begins + 10, begins + 10 + framesIn(STANDS.before))).toEqual(Array(framesIn(STANDS.before)).fill(48));
  expect(frames(moments.at(-1)!)).toEqual([['Home', 0]]);
  const kept = { from: home.id, steps: stepsOf(program, home.id, walk as never)! };
  expect(walkKept(program, { name: 'w', order: 'a0', ...kept })).toEqual({ held: 3, broken: null });
});

test('so many pictures a second are so many, whatever the walk is', () => {
  for (const perSecond of [7, 24, 30, 60]) {
    const moments = film(
      [
        { type: 'click', layer: idOf('Boat') },
        { type: 'wait', ms: 1337 },
      ],
      perSecond
    );
    const ms = STANDS.first + STANDS.before + 1337 + STANDS.last;
    expect(Math.abs(moments.length - 1 - (ms * perSecond) / 1000)).toBeLessThanOrEqual(1);
    expect(frames(moments.at(-1)!)).toEqual([['Trip', 0]]);
  }
});

test('a walk that begins on a frame that is gone begins on the first', () => {
  const [first] = filmOfWalk(program, { from: 'gone', steps: [] }, 10);
  expect(frames(first!)).toEqual([['Home', 0]]);
});
