import { describe, expect, it } from 'vitest';
import { layersUnder, scenesOf, statesOf, type Piece } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import { resolveScreen } from '../../run/resolve.ts';
import { unwrap } from '../../result.ts';
import { advance, start } from '../../run/run.ts';
import { compose } from '../../compose/compose.ts';
import { apply } from '../apply.ts';
import { makeSlides, makeTimedSlides, slideRoles, type SlideOptions } from './slides.ts';

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

describe('slides in time', () => {
  const timed = (around: boolean) => {
    const operations = makeTimedSlides(piece, 'home', roles, { frames: 48, timing: { ms: 500, easing: 'ease' }, around }, counter());
    return unwrap(apply(piece, operations)).piece;
  };
  const idOf = (name: string) => [...piece.layers.values()].find((layer) => layer.name === name)!.id;
  /** Which slides are seen, and which arrows and dots are on, after presses and the time that a slide takes to come. */
  const seen = (made: Piece, presses: readonly string[], ms = 600) => {
    const program = compile(made);
    let run = start(program)!;
    for (const name of presses) run = advance(program, run, { type: 'click', layer: idOf(name) }).run;
    run = advance(program, run, { type: 'wait', ms }).run;
    const shown = resolveScreen(program, run).surfaces[0]!.all;
    const of = (name: string) => shown.find((one) => one.node.key === idOf(name));
    return {
      slides: ['one', 'two', 'three'].map((name) => of(name)?.opacity ?? 0),
      places: ['one', 'two', 'three'].flatMap((name) => of(name)?.x ?? []),
      enabled: ['back', 'on'].map((name) => of(name)!.enabled),
      dots: ['dot 1', 'dot 2', 'dot 3'].map((name) => of(name)!.selected),
    };
  };

  it('shows one at a time, in one place; arrows turn, dots go to theirs and follow', () => {
    const made = timed(false);
    const order = roles.slides.map((id) => piece.layers.get(id)!.name);
    const only = (name: string) => ['one', 'two', 'three'].map((one) => (one === name ? 1 : 0));
    expect(seen(made, [])).toMatchObject({ slides: only(order[0]!), enabled: [false, true], dots: [true, false, false] });
    expect(seen(made, ['on'])).toMatchObject({ slides: only(order[1]!), enabled: [true, true], dots: [false, true, false] });
    expect(seen(made, ['dot 3'])).toMatchObject({ slides: only(order[2]!), enabled: [true, false], dots: [false, false, true] });
    expect(seen(made, ['dot 3', 'on'])).toMatchObject({ slides: only(order[2]!) });
    expect(seen(made, ['dot 3', 'back'])).toMatchObject({ slides: only(order[1]!) });
    expect(new Set(['', 'on', 'dot 3'].flatMap((press) => seen(made, press ? [press] : []).places)).size).toBe(1);
    // It comes by and by, and stays.
    expect(seen(made, ['on'], 250).slides.find((opacity) => opacity > 0)).toBeLessThan(1);
    expect(seen(made, ['on'], 60_000)).toMatchObject({ slides: only(order[1]!) });
  });

  it('comes round where it may', () => {
    const order = roles.slides.map((id) => piece.layers.get(id)!.name);
    const made = timed(true);
    expect(seen(made, ['back']).slides).toEqual(['one', 'two', 'three'].map((one) => (one === order[2] ? 1 : 0)));
    expect(seen(made, ['on', 'on', 'on']).dots).toEqual([true, false, false]);
  });
});
