import { describe, expect, test } from 'vitest';
import { compose, layerId as id, type ComposeSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { expand } from '../program/expand.ts';
import { HEARD } from './heard.ts';
import { canPressBeside, groundOf, hiddenOf, reachOf } from './reach.ts';
import { standingScreen } from './resolve.ts';
import { advance, start } from './run.ts';
import type { RunEvent } from './state.ts';

type Layers = NonNullable<ComposeSpec['frames'][string]['layers']>;

/** A frame of 400 × 400 with layers, after some events. */
function on(layers: Layers, events: readonly RunEvent[] = [], more: Partial<ComposeSpec> & { home?: object } = {}) {
  const { home = {}, frames = {}, ...rest } = more;
  const program = compile(compose({ size: [400, 400], ...rest, frames: { home: { layers, ...home }, ...frames } }));
  const run = events.reduce((at, event) => advance(program, at, event).run, start(program)!);
  const node = (name: string, scene = 'home') => expand(program, program.scenes.get(scene)!).byKey.get(id(scene, name))!;
  const screen = standingScreen(program, run);
  const hidden = (name: string) => {
    const surface = screen.surfaces.find((one) => one.kind === 'frame')!;
    const found = hiddenOf(
      screen,
      run,
      surface,
      surface.all.find((one) => one.node === node(name))!
    );
    return found && { share: Number(found.share.toFixed(2)), by: found.by?.node.layer.name ?? null };
  };
  const reach = (name: string) => {
    const found = reachOf({ program, run }, node(name));
    return 'point' in found ? { at: [found.point.x, found.point.y], gets: found.node.layer.name } : found.sentence;
  };
  return { program, run, node, hidden, reach };
}

const pressed = (x: number, y: number, width: number, height: number) => ({ at: [x, y, width, height] as const, lines: ['click → send it'] });

describe('where a pointer gets at a layer', () => {
  test('in its middle, where nothing lies over it', () => {
    expect(on({ a: pressed(100, 100, 120, 60) }).reach('a')).toEqual({ at: [160, 130], gets: 'a' });
  });

  test('beside what lies over its middle: at the first point of a grid of twelve by twelve', () => {
    const { reach } = on({ a: pressed(0, 0, 120, 120), over: pressed(0, 0, 120, 75) });
    expect(reach('a')).toEqual({ at: [5, 75], gets: 'a' });
  });

  test('of which only a corner is to be seen: in that', () => {
    expect(on({ a: pressed(390, 398, 200, 300) }).reach('a')).toMatchObject({ gets: 'a' });
    expect(on({ a: pressed(390, 400, 200, 300) }).reach('a')).toBe('a lies outside of what can be seen.');
  });

  test('for something that is to be done there: beside what in it would take that instead, where there is such a place', () => {
    const card = (lines: string[], more: object = {}, at: readonly [number, number, number, number] = [40, 40, 20, 20]) => ({
      card: { type: 'group' as const, at: [50, 50, 100, 100] as const, lines: ['click → send card'] },
      ground: { in: 'card', at: [0, 0, 100, 100] as const },
      star: { in: 'card', at, lines, ...more },
    });
    const gets = (layers: Layers) => {
      const { program, run, node } = on(layers);
      return (['click', 'hover', 'drag'] as const).map((deed) => {
        const found = reachOf({ program, run }, node('card'), HEARD[deed]);
        return 'point' in found ? found.node.layer.name : found.sentence;
      });
    };
    expect(gets(card(['click → send star']))).toEqual(['card', 'star', 'star']);
    expect(gets(card(['press → send star', 'leave → send star']))).toEqual(['card', 'card', 'star']);
    expect(gets(card([], { drag: { axis: 'both' } }))).toEqual(['star', 'star', 'card']);
    expect(gets(card(['click → send star'], { disabled: true }))).toEqual(['card', 'card', 'card']);
    expect(gets(card(['click → send star'], {}, [0, 0, 100, 100]))).toEqual(['star', 'star', 'star']);
  });

  test('of a group: at what is in it', () => {
    const layers = {
      card: { type: 'group' as const, at: [50, 50, 100, 100] as const, lines: ['click → send it'] },
      face: { at: [0, 0, 100, 100] as const, in: 'card' },
    };
    expect(on(layers).reach('card')).toEqual({ at: [100, 100], gets: 'card' });
    const face = pressed(0, 0, 100, 100);
    expect(on({ ...layers, face: { ...face, in: 'card' } }).reach('card')).toEqual({ at: [100, 100], gets: 'face' });
  });

  test('of one that lets presses through: at what is around it', () => {
    const layers = {
      card: { type: 'group' as const, at: [50, 50, 100, 100] as const, lines: ['click → send it'] },
      word: { type: 'text' as const, text: 'Go', at: [10, 10, 40, 20] as const, in: 'card' },
    };
    const { reach, node } = on(layers);
    expect(node('word').catches).toBe(false);
    expect(reach('word')).toMatchObject({ at: [80, 70] });
    expect(on({ word: { type: 'text', text: 'Go', at: [10, 10, 40, 20] } }).reach('word')).toEqual({ at: [30, 20], gets: 'word' });
    expect(on({ word: { type: 'text', text: 'Go', at: [10, 10, 40, 20] }, lid: pressed(0, 0, 100, 100) }).reach('word')).toBe(
      'lid lies over all of word.'
    );
  });

  test('not where all of it is covered, outside of what can be seen, cut off, or hidden', () => {
    const { reach } = on({
      a: pressed(0, 0, 50, 50),
      lid: pressed(0, 0, 50, 50),
      left: pressed(-60, 0, 50, 50),
      right: pressed(400, 100, 50, 50),
      above: pressed(100, -50, 50, 50),
      below: pressed(100, 400, 50, 50),
      gone: { ...pressed(200, 200, 50, 50), hidden: true },
    });
    expect(reach('a')).toBe('lid lies over all of a.');
    for (const name of ['left', 'right', 'above', 'below']) expect(reach(name)).toBe(`${name} lies outside of what can be seen.`);
    expect(reach('gone')).toBe('gone is hidden.');
  });

  test('at the part of it that is in view', () => {
    const { reach } = on({
      left: pressed(-90, 0, 120, 12),
      above: pressed(100, -110, 12, 120),
      right: pressed(390, 100, 120, 12),
      below: pressed(200, 390, 12, 120),
    });
    expect(reach('left')).toEqual({ at: [15, 6], gets: 'left' });
    expect(reach('above')).toEqual({ at: [106, 5], gets: 'above' });
    expect(reach('right')).toEqual({ at: [395, 106], gets: 'right' });
    expect(reach('below')).toEqual({ at: [206, 395], gets: 'below' });
  });
});

describe('how much of a layer others take', () => {
  test('none of it, some, and all, and which layer takes most', () => {
    const { hidden } = on({
      free: pressed(200, 200, 100, 100),
      a: pressed(0, 0, 120, 120),
      little: pressed(0, 0, 120, 10),
      much: pressed(0, 60, 120, 60),
      lost: pressed(300, 0, 60, 60),
      lid: pressed(300, 0, 60, 60),
    });
    expect(hidden('free')).toEqual({ share: 0, by: null });
    // The middle and 144 points; seven of twelve rows are taken, and the middle.
    expect(hidden('a')).toEqual({ share: Number((85 / 145).toFixed(2)), by: 'much' });
    expect(hidden('lost')).toEqual({ share: 1, by: 'lid' });
  });

  test('nothing is said of what is nowhere in view; of what is half in view, only what is in view counts', () => {
    const { hidden } = on({ far: pressed(500, 0, 50, 50), half: pressed(-60, 0, 120, 120), lid: pressed(0, 0, 60, 120) });
    expect(hidden('far')).toBeNull();
    expect(hidden('half')).toEqual({ share: 1, by: 'lid' });
  });

  test('what is in it takes nothing of it', () => {
    const card = { type: 'group' as const, at: [0, 0, 100, 100] as const, lines: ['click → send it'] };
    expect(on({ card, face: { ...pressed(0, 0, 100, 100), in: 'card' } }).hidden('face')).toEqual({ share: 0, by: null });
  });
});

describe('the ground of a scene', () => {
  test('is pressed where no layer takes it: in the middle, or beside what does', () => {
    const ground = (layers: Layers, occasions: Parameters<typeof groundOf>[2] = ['click']) => {
      const found = groundOf(on(layers), 'home', occasions);
      return found && { at: [found.point.x, found.point.y], node: found.node?.layer.name ?? null };
    };
    expect(ground({})).toEqual({ at: [200, 200], node: null });
    expect(ground({ mid: pressed(100, 100, 200, 200) })?.node).toBeNull();
    expect(ground({ mid: pressed(100, 100, 200, 200) })!.at[1]).toBeLessThan(100);
    expect(ground({ all: pressed(0, 0, 400, 400) })).toBeNull();
    // What listens for something else lets a click through to the scene.
    expect(ground({ all: { at: [0, 0, 400, 400], lines: ['hover → send it'] } })).toEqual({ at: [200, 200], node: 'all' });
    // Beside what listens for what comes along with it, if there is such a place; not where it listens for the thing itself.
    const swiped = { at: [0, 0, 400, 300] as const, lines: ['swipe left → send it'] };
    expect(ground({ swiped }, ['click', 'swipe'])!.at[1]).toBeGreaterThan(300);
    expect(ground({ swiped: { ...swiped, at: [0, 0, 400, 400] } }, ['click', 'swipe'])).toEqual({ at: [200, 200], node: 'swiped' });
    expect(ground({ swiped: { ...swiped, at: [0, 0, 400, 400] } }, ['swipe', 'click'])).toBeNull();
    expect(ground({ all: { ...pressed(0, 0, 400, 400), lines: ['hover → send it'], disabled: true } })).toBeNull();
  });

  test('of another scene than what lies in front there is none', () => {
    expect(groundOf(on({}), 'nowhere', ['click'])).toBeNull();
  });
});

test('a press can be made beside a frame laid over that leaves room; not where it fills the view, nor where nothing lies over', () => {
  const frames = (size: readonly [number, number]) => ({ card: { size, layers: {} } });
  const open = { open: { at: [0, 0, 50, 50] as const, lines: ['click → lay closing over card at center'] } };
  const click: RunEvent = { type: 'click', layer: id('home', 'open') };
  expect(canPressBeside(on(open, [], { frames: frames([200, 200]) }))).toBe(false);
  expect(canPressBeside(on(open, [click], { frames: frames([200, 200]) }))).toBe(true);
  expect(canPressBeside(on(open, [click], { frames: frames([400, 400]) }))).toBe(false);
});

describe('scrolled until a pointer gets to it', () => {
  const far = { far: pressed(100, 900, 60, 40) };
  const scrollOf = (run: ReturnType<typeof on>['run'], key = '') => run.roots['home']!.scroll[key];

  test('to the middle of the view, by the frame', () => {
    const { run } = on(far, [{ type: 'click', layer: id('home', 'far') }], { home: { contentHeight: 2000 } });
    expect(scrollOf(run)).toMatchObject({ x: 0, y: 720 });
  });

  test('to its end where what stays lies over its middle', () => {
    const bar = { bar: { ...pressed(0, 100, 400, 200), pin: ['top' as const] } };
    const { run } = on({ ...far, ...bar }, [{ type: 'click', layer: id('home', 'far') }], { home: { contentHeight: 2000 } });
    expect(scrollOf(run)).toMatchObject({ x: 0, y: 900 });
  });

  test('by the group that it is in', () => {
    const row = { type: 'group' as const, at: [0, 0, 300, 100] as const, scroll: 'x' as const, clip: true };
    const layers = { row, first: { ...pressed(0, 0, 100, 100), in: 'row' }, last: { ...pressed(900, 0, 100, 100), in: 'row' } };
    const { run } = on(layers, [{ type: 'click', layer: id('home', 'last') }]);
    expect(scrollOf(run, id('home', 'row'))!.x).toBe(700);
    const { run: other } = on({ ...layers, next: { ...pressed(400, 0, 100, 100), in: 'row' } }, [{ type: 'click', layer: id('home', 'next') }]);
    expect(scrollOf(other, id('home', 'row'))!.x).toBe(300);
  });

  test('not at all where that does not help', () => {
    const { run } = on({ out: pressed(-200, 50, 50, 50) }, [{ type: 'click', layer: id('home', 'out') }], { home: { contentHeight: 2000 } });
    expect(scrollOf(run)).toBeUndefined();
  });
});
