import { describe, expect, it } from 'vitest';
import { layersUnder, scenesOf, statesOf, type Piece } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import { resolveScreen } from '../../program/resolve.ts';
import { unwrap } from '../../result.ts';
import { advance, start } from '../../run/run.ts';
import { compose } from '../../compose/compose.ts';
import { apply } from '../apply.ts';
import { makeSlides, slideRoles, type SlideOptions } from './slides.ts';

const counter = () => {
  let n = 0;
  return () => `new${n++}`;
};

const piece = compose({
  frames: {
    home: {
      layers: {
        one: { at: [20, 50, 300, 200], style: { fill: '#ff0000' } },
        two: { at: [20, 50, 300, 200], style: { fill: '#00ff00' } },
        three: { at: [40, 60, 290, 190], style: { fill: '#0000ff' } },
        back: { at: [0, 120, 48, 48] },
        on: { at: [330, 120, 48, 48] },
        'dot 1': { at: [120, 270, 24, 24] },
        'dot 2': { at: [150, 270, 24, 24] },
        'dot 3': { at: [180, 270, 24, 24] },
      },
    },
  },
});
const options: SlideOptions = { name: 'Views', timing: { ms: 650, easing: 'ease' }, around: false };
const layers = layersUnder(piece, 'home', null);
const roles = slideRoles(layers)!;

const make = (more: Partial<SlideOptions> = {}): { made: Piece; inside: (name: string) => string } => {
  const slides = makeSlides(compile(piece), 'home', roles, { ...options, ...more }, counter())!;
  const made = unwrap(apply(piece, slides.operations)).piece;
  const part = scenesOf(made, 'part')[0]!;
  return {
    made,
    inside: (name) => `${slides.placement}/${[...made.layers.values()].find((layer) => layer.scene === part.id && layer.name === name)!.id}`,
  };
};

/** What is in the window, and which arrows and dots are on, after presses. */
const after = ({ made, inside }: ReturnType<typeof make>, presses: readonly string[]) => {
  const program = compile(made);
  let run = start(program)!;
  for (const name of presses) run = advance(program, run, { type: 'click', layer: inside(name) }).run;
  const shown = resolveScreen(program, run).surfaces[0]!.all;
  const of = (name: string) => shown.find((one) => one.node.key === inside(name))!;
  return {
    at: ['one', 'two', 'three'].map((name) => of(name).matrix.e),
    enabled: ['back', 'on'].map((name) => of(name).enabled),
    dots: ['dot 1', 'dot 2', 'dot 3'].map((name) => of(name).selected),
  };
};

describe('slides', () => {
  it('are told from arrows and dots by size and place', () => {
    const names = (ids: readonly string[]) => ids.map((id) => piece.layers.get(id)!.name);
    expect(names(roles.slides)).toEqual(['three', 'two', 'one']);
    expect(names(roles.arrows!)).toEqual(['back', 'on']);
    expect(names(roles.dots)).toEqual(['dot 1', 'dot 2', 'dot 3']);
    expect(slideRoles(layers.slice(0, 3))).toMatchObject({ arrows: null, dots: [] });
    expect(slideRoles(layers.slice(0, 5))).toMatchObject({ dots: [] });
    expect(slideRoles(layers.slice(0, 1))).toBeNull();
  });

  it('stand as they are seen: in one pile the front one first, else as one reads', () => {
    const row = compose({
      frames: { home: { layers: Object.fromEntries(['c', 'a', 'b'].map((name, i) => [name, { at: [700 - i * 350, i * 3, 300, 200] as const }])) } },
    });
    const roles = slideRoles(layersUnder(row, 'home', null))!;
    expect(roles.slides.map((id) => row.layers.get(id)!.name)).toEqual(['b', 'a', 'c']);
  });

  it('lie behind their arrows and dots, also where they were drawn over them', () => {
    const over = unwrap(
      apply(
        piece,
        roles.slides.map((id, i) => ({ op: 'set' as const, table: 'layers' as const, id, path: ['order'], value: `z${i}` }))
      )
    ).piece;
    const slides = makeSlides(compile(over), 'home', roles, options, counter())!;
    const made = unwrap(apply(over, slides.operations)).piece;
    expect(layersUnder(made, scenesOf(made, 'part')[0]!.id, null)[0]!.name).toBe('Window');
    expect(layersUnder(made, scenesOf(made, 'part')[0]!.id, null)).toHaveLength(6);
  });

  it('become a part with a state for each', () => {
    const { made } = make();
    const [part] = scenesOf(made, 'part');
    expect(statesOf(part!).map((state) => state.name)).toEqual(['Slide 1', 'Slide 2', 'Slide 3']);
    expect(layersUnder(made, 'home', null).map((layer) => layer.type)).toEqual(['placement']);
  });

  it('move by arrows that stop at the ends and look it, and by dots that follow', () => {
    const slides = make();
    const first = after(slides, []);
    expect(first).toMatchObject({ enabled: [false, true], dots: [true, false, false] });
    const second = after(slides, ['on']);
    expect(second).toMatchObject({ enabled: [true, true], dots: [false, true, false] });
    expect(second.at.map((x, i) => x! - first.at[i]!)).toEqual([-300, -300, -300]);
    expect(after(slides, ['dot 3'])).toMatchObject({ enabled: [true, false], dots: [false, false, true] });
    expect(after(slides, ['on', 'on', 'back']).at).toEqual(second.at);
    expect(layer(slides, 'back').looks!.disabled).toBeDefined();
  });

  it('go round and round where that is wanted', () => {
    const slides = make({ around: true });
    expect(after(slides, ['back'])).toMatchObject({ enabled: [true, true], dots: [false, false, true] });
    expect(after(slides, ['on', 'on', 'on'])).toMatchObject({ dots: [true, false, false] });
  });
});

const layer = ({ made, inside }: ReturnType<typeof make>, name: string) => made.layers.get(inside(name).split('/')[1]!)!;
