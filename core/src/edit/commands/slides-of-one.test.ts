import { expect, test } from 'vitest';
import { compose, type PlacedSpec } from '../../compose/compose.ts';
import { layersUnder } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import { goOn, oneSlide, slidesOfOne } from './slides-of-one.ts';
import { makeSlides } from './slides.ts';

const counter = () => {
  let n = 0;
  return () => `new${n++}`;
};

const slide: PlacedSpec = { at: [20, 50, 300, 200], text: 'Boats run', style: { fill: '#cfe1ea' } };
const dot: PlacedSpec = { at: [160, 270, 24, 24] };
const arrows: Record<string, PlacedSpec> = { on: { at: [330, 120, 48, 48] }, back: { at: [0, 120, 48, 48] } };

function given(layers: Record<string, PlacedSpec>) {
  const program = compile(compose({ frames: { home: { layers } } }));
  return { program, one: oneSlide(layersUnder(program.piece, 'home', null)) };
}

const named = (program: ReturnType<typeof compile>, ids: readonly string[]) => ids.map((id) => program.piece.layers.get(id)!);

test('the largest is the slide, two others are arrows, one more is a dot; two slides are no one', () => {
  expect(given({ slide }).one).toEqual({ slide: 'home_slide', arrows: null, dot: null });
  expect(given({ dot, slide }).one).toEqual({ slide: 'home_slide', arrows: null, dot: 'home_dot' });
  expect(given({ slide, ...arrows }).one).toEqual({ slide: 'home_slide', arrows: ['home_back', 'home_on'], dot: null });
  expect(given({ dot, ...arrows, slide }).one).toEqual({ slide: 'home_slide', arrows: ['home_back', 'home_on'], dot: 'home_dot' });
  expect(given({ slide, other: slide }).one).toBeNull();
  expect(given({}).one).toBeNull();
});

test('it is made once for each word, in its place, with a dot for each in a row about where the one was', () => {
  const { program, one } = given({ slide, dot });
  const makeId = counter();
  const { program: now, operations, roles } = slidesOfOne({ program, operations: [] }, 'home', one!, ['Wind', 'Tide', 'Fog'], makeId)!;
  const slides = named(now, roles.slides);
  expect(slides.map(({ text, pose }) => [text, pose.x, pose.width])).toEqual(['Wind', 'Tide', 'Fog'].map((word) => [word, 20, 300]));
  expect(named(now, roles.dots).map(({ pose }) => pose.x)).toEqual([128, 160, 192]);
  expect(goOn({ program, operations: [] }, operations).program.piece.layers.size).toBe(now.piece.layers.size);
  const made = makeSlides(now, 'home', roles, { name: 'Slides', timing: { ms: 300, easing: 'ease' }, around: false }, makeId)!;
  const { pose } = goOn({ program: now, operations: [] }, made.operations).program.piece.layers.get(made.placement)!;
  expect([pose.x, pose.y, pose.width, pose.height]).toEqual([20, 50, 300, 244]);
});

test('too few words make none, and what does not fit changes nothing', () => {
  const { program, one } = given({ slide });
  expect(slidesOfOne({ program, operations: [] }, 'home', one!, ['Wind'], counter())).toBeNull();
  const begun = { program, operations: [] };
  expect(goOn(begun, [{ op: 'set', table: 'layers', id: 'nowhere', path: ['name'], value: 'x' }])).toEqual(begun);
});
