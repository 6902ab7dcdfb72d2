import { describe, expect, test } from 'vitest';
import { compose, layerId as id, stateId, type ComposeSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { mapPoint } from '../program/matrix.ts';
import {
  activeLooks,
  boundsOf,
  childrenBox,
  isUnder,
  opacityOf,
  resolveScreen,
  standingScreen,
  stateOf,
  type Screen,
  type Shown,
} from './resolve.ts';
import { start } from './run.ts';
import type { RootRun, RunState } from './state.ts';

/** A piece and what is seen of it when it begins, with what is set in its runs. */
function seen(spec: ComposeSpec, ...made: readonly Partial<RootRun>[]) {
  const program = compile(compose(spec));
  const begun = start(program)!;
  const first = Object.keys(spec.frames)[0]!;
  const root = Object.assign({}, begun.roots[first]!, ...made) as RootRun;
  const run: RunState = { ...begun, roots: { ...begun.roots, [first]: root } };
  const look = (changed: Partial<RunState> = {}) => resolveScreen(program, { ...run, ...changed });
  return { program, run, root, look };
}

const all = (screen: Screen) => screen.surfaces.flatMap((surface) => surface.all);
const find = (screen: Screen, key: string): Shown => {
  const found = all(screen).find(({ node }) => node.key === key);
  expect(found, `${key} among ${all(screen).map(({ node }) => node.key)}`).toBeDefined();
  return found!;
};
const home = (layers: ComposeSpec['frames'][string]['layers'], more: Omit<ComposeSpec['frames'][string], 'layers'> = {}): ComposeSpec => ({
  frames: { home: { layers: layers!, ...more } },
});
const scrolled = (x: number, y: number): RootRun['scroll'][string] => ({ x, y, turn: 0, direction: null, fired: [] });
const a = id('home', 'a');

describe('surfaces', () => {
  const spec: ComposeSpec = {
    size: [400, 300],
    sheets: {
      sea: { background: '#111111', layers: { wave: { at: [0, 0, 10, 10] } } },
      bar: { background: '#222222', layers: { bell: { at: [0, 0, 10, 10] } } },
    },
    frames: {
      home: { background: '#333333', under: ['sea'], over: ['bar'], layers: { a: { at: [0, 0, 10, 10] } } },
      card: { size: [100, 60], background: '#444444', layers: { b: { at: [1, 2, 10, 10] } } },
    },
  };
  const { program, run, look } = seen(spec);
  const laid = (at: 'center' | 'top' | 'bottom' | 'left' | 'right') => {
    const over = { ...run, roots: { ...run.roots, card: { ...run.roots['home']!, scene: 'card' } } };
    return resolveScreen(program, { ...over, overlays: [{ frame: 'card', at, scrim: 0.3, closes: true }] }).surfaces.at(-1)!;
  };

  test('stand in the order of painting: sheets under, the frame, sheets over; the ground lies behind the sheet under it', () => {
    expect(look().surfaces.map(({ scene, kind, background, scrim }) => [scene, kind, background, scrim])).toEqual([
      ['sea', 'under', '#333333', null],
      ['home', 'frame', null, null],
      ['bar', 'over', null, null],
    ]);
    const alone = seen({ ...spec, frames: { home: { background: '#333333', over: ['bar'] } } }).look();
    expect(alone.surfaces.map(({ kind, background }) => [kind, background])).toEqual([
      ['frame', '#333333'],
      ['over', null],
    ]);
    expect([alone.width, alone.height, alone.frame]).toEqual([400, 300, 'home']);
  });

  test('a frame is laid over in the middle or at a side, with its ground and its veil', () => {
    const places = (['center', 'top', 'bottom', 'left', 'right'] as const).map((at) => [laid(at).x, laid(at).y]);
    expect(places).toEqual([
      [150, 120],
      [150, 0],
      [150, 240],
      [0, 120],
      [300, 120],
    ]);
    expect([laid('top').kind, laid('top').background, laid('top').scrim]).toEqual(['laid', '#444444', 0.3]);
    expect(mapPoint(laid('left').all[0]!.matrix, 0, 0)).toEqual({ x: 1, y: 122 });
  });

  test('none for what is not in the piece or not in the run', () => {
    expect(look({ frame: 'nowhere' })).toEqual({ frame: 'nowhere', width: 1, height: 1, surfaces: [] });
    const { sea: _sea, ...roots } = run.roots;
    expect(look({ roots }).surfaces.map(({ scene }) => scene)).toEqual(['home', 'bar']);
    expect(look({ overlays: [{ frame: 'nowhere', at: 'top', scrim: null, closes: true }] }).surfaces).toHaveLength(3);
    expect(look({ overlays: [{ frame: 'card', at: 'top', scrim: null, closes: true }] }).surfaces).toHaveLength(3);
  });
});

describe('where layers stand', () => {
  test('they scroll with their frame, unless they are pinned to a side of that way', () => {
    const at = [10, 20, 30, 40] as const;
    const { look } = seen(
      home({
        free: { at },
        top: { at, pin: ['top'] },
        bottom: { at, pin: ['bottom'] },
        left: { at, pin: ['left'] },
        right: { at, pin: ['right'] },
        corner: { at, pin: ['top', 'left'] },
      }),
      { scroll: { '': scrolled(5, 7) } }
    );
    const screen = look();
    const place = (name: string) => mapPoint(find(screen, id('home', name)).matrix, 0, 0);
    expect(['free', 'top', 'bottom', 'left', 'right', 'corner'].map(place)).toEqual([
      { x: 5, y: 13 },
      { x: 5, y: 20 },
      { x: 5, y: 20 },
      { x: 10, y: 13 },
      { x: 10, y: 13 },
      { x: 10, y: 20 },
    ]);
    expect(screen.surfaces[0]!.scroll).toMatchObject({ x: 5, y: 7 });
  });

  test('what is in a group goes with it, and with how far it is scrolled', () => {
    const group = id('home', 'g');
    const layers = {
      g: { type: 'group' as const, at: [100, 50, 60, 60] as const, scroll: 'both' as const, clip: true },
      a: { in: 'g', at: [10, 10, 5, 5] as const },
    };
    const { look } = seen(home(layers), { scroll: { [group]: scrolled(3, 4) } });
    expect(mapPoint(find(look(), a).matrix, 0, 0)).toEqual({ x: 107, y: 56 });
    expect(find(look(), group).scroll).toEqual({ x: 3, y: 4 });
    expect(find(look(), group).children.map(({ node }) => node.key)).toEqual([a]);
    expect(find(look(), a).children).toEqual([]);
  });

  test('they turn and grow about their anchor: the middle, or where it is set', () => {
    const { look } = seen(
      home({ a: { at: [100, 100, 40, 20], pose: { rotation: 90 } }, b: { at: [100, 100, 40, 20], pose: { scale: 2, anchor: { x: 0, y: 1 } } } })
    );
    const turned = mapPoint(find(look(), a).matrix, 0, 0);
    expect([turned.x, turned.y]).toEqual([expect.closeTo(130), expect.closeTo(90)]);
    expect(mapPoint(find(look(), id('home', 'b')).matrix, 0, 0)).toEqual({ x: 100, y: 80 });
    expect(boundsOf(find(look(), id('home', 'b')))).toEqual({ x: 100, y: 80, width: 80, height: 40 });
    expect(boundsOf(find(look(), a)).x).toBeCloseTo(110);
    expect(boundsOf(find(look(), a)).width).toBeCloseTo(20);
  });

  test('a placement scales what is in it to its own size', () => {
    const { look } = seen({
      parts: { Lamp: { size: [20, 10], layers: { glow: { at: [10, 5, 2, 2] } } } },
      frames: { home: { layers: { a: { type: 'placement', part: 'Lamp', at: [100, 100, 40, 40] } } } },
    });
    expect(mapPoint(find(look(), `${a}/${id('Lamp', 'glow')}`).matrix, 0, 0)).toEqual({ x: 120, y: 120 });
  });
});

describe('the values of a layer', () => {
  const spec = home(
    {
      a: {
        at: [1, 2, 3, 4],
        style: { fill: '#111111', opacity: 0.9 },
        looks: { hover: { pose: { x: 40, y: 40 }, style: { fill: '#444444' }, ms: 300 }, focus: { style: { fill: '#555555' } } },
      },
    },
    {
      states: {
        Day: {},
        Night: { a: { pose: { x: 20, y: 20, width: 20, height: 20 }, style: { fill: '#222222', opacity: 0.5 }, letters: { size: 30 } } },
      },
    }
  );
  const night = { states: { '': stateId('home', 'Night') } };

  test('are its own, then what states, run-time changes and looks make of them', () => {
    const own = find(seen(spec).look(), a);
    expect([own.x, own.y, own.width, own.style.fill, own.opacity, own.looks, own.lookTiming]).toEqual([1, 2, 3, '#111111', 0.9, '', null]);
    const stated = find(seen(spec, night).look(), a);
    expect([stated.x, stated.width, stated.style.fill, stated.opacity, stated.letters.size]).toEqual([20, 20, '#222222', 0.5, 30]);
    const changes = { [a]: { x: 30, opacity: 0.2 } };
    const changed = find(seen(spec, night, { changes }).look(), a);
    expect([changed.x, changed.y, changed.opacity, changed.style.fill]).toEqual([30, 20, 0.2, '#222222']);
    const hovered = find(seen(spec, night, { changes }).look({ over: [a] }), a);
    expect([hovered.x, hovered.y, hovered.style.fill, hovered.looks]).toEqual([40, 40, '#444444', 'hover']);
    expect(hovered.lookTiming).toEqual({ ms: 300, easing: 'ease' });
  });

  test('the last look that is on says how it came; one that says nothing comes as always', () => {
    const both = find(seen(spec).look({ over: [a], focus: a }), a);
    expect([both.looks, both.style.fill, both.lookTiming]).toEqual(['hover focus', '#555555', null]);
    const eased = seen(home({ a: { at: [0, 0, 1, 1], looks: { focus: { style: {}, easing: 'linear' } } } }));
    expect(find(eased.look({ focus: a }), a).lookTiming).toEqual({ ms: 120, easing: 'linear' });
    expect(find(eased.look({ focus: 'another' }), a).looks).toBe('');
  });

  test('how opaque it is by itself: by what it is bound to, what was changed, its state, its own', () => {
    const { run, root, program } = seen(spec);
    const node = all(resolveScreen(program, start(program)!))[0]!.node;
    expect(opacityOf(program, run, root, node)).toBe(0.9);
    expect(opacityOf(program, run, { ...root, ...night }, node)).toBe(0.5);
    expect(opacityOf(program, run, { ...root, ...night, changes: { [a]: { opacity: 0.1 } } }, node)).toBe(0.1);
    expect(opacityOf(program, run, { ...root, ...night, changes: { [a]: { x: 1 } } }, node)).toBe(0.5);
    const plain = seen(home({ a: { at: [0, 0, 1, 1] } }));
    expect(opacityOf(plain.program, plain.run, plain.root, find(plain.look(), a).node)).toBe(1);
    const bound = seen({ variables: { v: { type: 'number', initial: 0.4 } }, ...home({ a: { at: [0, 0, 1, 1], when: { opacity: 'v' } } }) });
    expect(opacityOf(bound.program, bound.run, bound.root, find(bound.look(), a).node)).toBe(0.4);
    expect(opacityOf(bound.program, bound.run, { ...bound.root, bound: {} }, find(bound.look(), a).node)).toBe(1);
  });

  test('bindings come last; sizes are never less than nothing, opacity stays within 0 and 1', () => {
    const bound = (initial: number) => {
      const when = { x: 'v', width: 'v', height: 'v', rotation: 'v', opacity: 'v' } as const;
      const { look } = seen(
        { variables: { v: { type: 'number', initial } }, ...home({ a: { at: [1, 2, 3, 4], when }, b: { at: [1, 2, 3, 4] } }) },
        { changes: { [a]: { x: 77 } } }
      );
      const { x, y, width, height, rotation, opacity } = find(look(), a);
      return [x, y, width, height, rotation, opacity];
    };
    expect(bound(5)).toEqual([5, 2, 5, 5, 5, 1]);
    expect(bound(-5)).toEqual([-5, 2, 0, 0, -5, 0]);
    expect(bound(0.25)).toEqual([0.25, 2, 0.25, 0.25, 0.25, 0.25]);
  });

  test('its words are filled in where it is placed, worked out where they are computed, and freed of signs that escape', () => {
    const { look } = seen({
      variables: { v: { type: 'number', initial: 7 } },
      frames: {
        home: {
          layers: {
            plain: { type: 'text', at: [0, 0, 1, 1], text: 'Tide' },
            counted: { type: 'text', at: [0, 0, 1, 1], text: 'Berth {v}' },
            braced: { type: 'text', at: [0, 0, 1, 1], text: 'a \\{v} b' },
            mute: { at: [0, 0, 1, 1] },
          },
        },
      },
    });
    const words = (name: string) => find(look(), id('home', name)).text;
    expect(['plain', 'counted', 'braced', 'mute'].map(words)).toEqual(['Tide', 'Berth 7', 'a {v} b', undefined]);
  });
});

describe('what is there, selected, enabled', () => {
  const flagged: ComposeSpec = {
    variables: { on: { type: 'yes/no', initial: true } },
    ...home({
      g: { type: 'group', at: [0, 0, 50, 50] },
      a: { in: 'g', at: [0, 0, 10, 10], hidden: true },
      b: { in: 'g', at: [0, 0, 10, 10], when: { shown: 'on', selected: 'on', enabled: 'on = false' } },
      c: { in: 'g', at: [0, 0, 10, 10], selected: true, disabled: true },
    }),
  };
  const keys = (screen: Screen) => all(screen).map(({ node }) => node.layer.name);

  test('by its eye, a step, its binding', () => {
    expect(keys(seen(flagged).look())).toEqual(['g', 'b', 'c']);
    const swapped = { flags: { [`${a}.shown`]: true, [`${id('home', 'b')}.shown`]: false, [`${id('home', 'c')}.shown`]: false } };
    expect(keys(seen(flagged, swapped).look())).toEqual(['g', 'a', 'b']);
    const off = seen({ ...flagged, variables: { on: { type: 'yes/no', initial: false } } });
    expect(keys(off.look())).toEqual(['g', 'c']);
  });

  test('what a state hides or shows; a step goes before it', () => {
    const spec = home(
      { a: { at: [0, 0, 1, 1], hidden: true }, b: { at: [0, 0, 1, 1] } },
      { states: { Day: {}, Night: { a: { hidden: false, pose: { x: 3 } }, b: { hidden: true } } } }
    );
    const night = { states: { '': stateId('home', 'Night') } };
    expect(keys(seen(spec).look())).toEqual(['b']);
    expect(keys(seen(spec, night).look())).toEqual(['a']);
    expect(keys(seen(spec, night, { flags: { [`${id('home', 'b')}.shown`]: true } }).look())).toEqual(['a', 'b']);
  });

  test('selected and enabled likewise; what is in something disabled is disabled', () => {
    const { look } = seen(flagged);
    const of = (screen: Screen, name: string) => [find(screen, id('home', name)).selected, find(screen, id('home', name)).enabled];
    expect(of(look(), 'b')).toEqual([true, false]);
    expect(of(look(), 'c')).toEqual([true, false]);
    const flags = { [`${id('home', 'c')}.selected`]: false, [`${id('home', 'c')}.enabled`]: true, [`${id('home', 'b')}.selected`]: false };
    expect(of(seen(flagged, { flags }).look(), 'c')).toEqual([false, true]);
    expect(of(seen(flagged, { flags }).look(), 'b')).toEqual([true, false]);
    expect(of(seen(flagged, { flags, bound: {} }).look(), 'b')).toEqual([false, true]);
    const outer = { flags: { ...flags, [`${id('home', 'g')}.enabled`]: false } };
    expect(of(seen(flagged, outer).look(), 'c')).toEqual([false, false]);
  });
});

describe('looks', () => {
  const look = (x: number) => ({ pose: { x } });
  const looks = { selected: look(1), hover: look(2), selectedHover: look(3), press: look(4), focus: look(5), disabled: look(6) };
  const on = { selected: false, enabled: true, hover: false, press: false, focus: false };
  const names = (state: Partial<typeof on>, some: object = looks) =>
    activeLooks({ looks: some } as never, { ...on, ...state }).map(({ name }) => name);

  test('are put on in their order; disabled takes all others away', () => {
    expect(names({})).toEqual([]);
    expect(names({ selected: true, hover: true, press: true, focus: true })).toEqual(['selected', 'hover', 'selectedHover', 'press', 'focus']);
    expect(names({ hover: true, press: true })).toEqual(['hover', 'press']);
    expect(names({ selected: true })).toEqual(['selected']);
    expect(names({ focus: true })).toEqual(['focus']);
    expect(names({ enabled: false, hover: true, focus: true })).toEqual(['disabled']);
    expect(names({ enabled: false, hover: true }, { hover: look(1) })).toEqual([]);
    expect(names({ selected: true, hover: true }, { hover: look(1) })).toEqual(['hover']);
    expect(activeLooks({} as never, { ...on, hover: true })).toEqual([]);
    expect(activeLooks({} as never, { ...on, enabled: false })).toEqual([]);
  });

  test('of a group reach what is in it, and its own come after', () => {
    const {
      look: see,
      program,
      run,
    } = seen(
      home({
        g: {
          type: 'group',
          at: [0, 0, 50, 50],
          looks: { hover: { style: {}, inside: { a: { style: { fill: '#222222' }, pose: { x: 9 } } } }, focus: { style: {} } },
        },
        a: { in: 'g', at: [0, 0, 10, 10], style: { fill: '#111111' }, looks: { focus: { style: { fill: '#333333' } } } },
        b: { in: 'g', at: [0, 0, 10, 10], style: { fill: '#111111' } },
      })
    );
    const group = id('home', 'g');
    const fills = (screen: Screen) => ['a', 'b'].map((name) => find(screen, id('home', name)).style.fill);
    expect(fills(see())).toEqual(['#111111', '#111111']);
    expect(fills(see({ over: [group] }))).toEqual(['#222222', '#111111']);
    expect(find(see({ over: [group] }), a).x).toBe(9);
    expect(find(see({ over: [group] }), a).looks).toBe(`${group}.hover`);
    // Where it stands is the same to those who only ask for that.
    const stands = (over: string[]) => all(standingScreen(program, { ...run, over }) as Screen).map(({ node, x }) => [node.layer.name, x]);
    expect(stands([group])).toEqual([
      ['g', 0],
      ['a', 9],
      ['b', 0],
    ]);
    expect(stands([])[1]).toEqual(['a', 0]);
    expect(fills(see({ focus: group }))).toEqual(['#111111', '#111111']);
    expect(fills(see({ over: [group], focus: a }))).toEqual(['#333333', '#111111']);
    expect(find(see({ over: [group], focus: a }), a).looks).toBe(`${group}.hover focus`);
  });

  test('a press shows while it is held on the layer, and no longer once it has come to nothing', () => {
    const { look: see } = seen(home({ a: { at: [0, 0, 10, 10], looks: { press: { style: { fill: '#222222' } } } } }));
    const pressed = { node: a, scene: 'home', from: { x: 0, y: 0 }, at: 0, drag: null, spent: false };
    const looksNow = (changed: Partial<RunState>) => find(see(changed), a).looks;
    expect(looksNow({ over: [a], pressed })).toBe('press');
    expect(looksNow({ over: [], pressed })).toBe('');
    expect(looksNow({ over: [a], pressed: { ...pressed, spent: true } })).toBe('');
    expect(looksNow({ over: [a], pressed: { ...pressed, node: '' } })).toBe('');
    expect(looksNow({ over: [a] })).toBe('');
  });
});

describe('the state of a placement', () => {
  const part = (more: Partial<ComposeSpec['frames'][string]> = {}): ComposeSpec => ({
    variables: { mode: { type: 'text', initial: '' } },
    parts: {
      Lamp: {
        size: [10, 10],
        states: { Off: {}, On: { glow: { style: { fill: '#ffffff' } } }, Dim: {} },
        layers: { glow: { at: [0, 0, 1, 1], style: { fill: '#000000' } } },
      },
    },
    frames: { home: { layers: { a: { type: 'placement', part: 'Lamp', at: [0, 0, 10, 10], state: 'Dim' } }, ...more } },
  });
  const stateIn = (spec: ComposeSpec, ...made: Partial<RootRun>[]) => {
    const { root, look } = seen(spec, ...made);
    return stateOf(root, find(look(), a).node.inside!);
  };
  const [off, on, dim] = ['Off', 'On', 'Dim'].map((name) => stateId('Lamp', name));

  test('is what a step has set, what a state around it says, its own, the first', () => {
    expect(stateIn(part())).toBe(dim);
    expect(stateIn(part(), { states: { [a]: on! } })).toBe(on);
    expect(stateIn(part(), { states: { [a]: 'gone' } })).toBe(dim);
    const around = part({ states: { Day: {}, Night: { a: { state: on! } } } });
    expect(stateIn(around)).toBe(dim);
    expect(stateIn(around, { states: { '': stateId('home', 'Night') } })).toBe(on);
    const lost = part({ states: { Day: {}, Night: { a: { state: 'gone' } } } });
    expect(stateIn(lost, { states: { '': stateId('home', 'Night') } })).toBe(off);
    const { look, root } = seen(home({ a: { at: [0, 0, 1, 1] } }));
    expect(stateOf(root, find(look(), a).node.instance)).toBeNull();
  });

  test('is the one that its binding names; one that is not there names none', () => {
    const bound = (mode: string) => {
      const spec = part();
      const layers = { a: { ...spec.frames['home']!.layers!['a']!, when: { state: 'mode' } as const } };
      return stateIn({ ...spec, variables: { mode: { type: 'text', initial: mode } }, frames: { home: { layers } } }, { states: { [a]: on! } });
    };
    expect([bound('Off'), bound('Dim'), bound('Nowhere')]).toEqual([off, dim, on]);
  });

  test('is seen in it', () => {
    const glow = `${a}/${id('Lamp', 'glow')}`;
    expect(find(seen(part()).look(), glow).style.fill).toBe('#000000');
    expect(find(seen(part(), { states: { [a]: on! } }).look(), glow).style.fill).toBe('#ffffff');
  });
});

describe('what lies under a point', () => {
  const { look } = seen(
    home({
      box: { at: [100, 100, 40, 20], hit: { how: 'own', grow: 5 } },
      oval: { type: 'oval', at: [100, 200, 40, 20] },
      round: { at: [200, 200, 40, 20], hit: { how: 'own', shape: 'oval', grow: 10 } },
      square: { type: 'oval', at: [300, 200, 40, 20], hit: { how: 'own', shape: 'box' } },
      g: { type: 'group', at: [200, 100, 9, 9], hit: { how: 'own', grow: 2 } },
      one: { in: 'g', at: [10, 20, 5, 5] },
      two: { in: 'g', at: [20, 0, 10, 10] },
      none: { type: 'group', at: [0, 0, 90, 90] },
      clip: { type: 'group', at: [300, 100, 20, 20], clip: true },
      out: { in: 'clip', at: [10, 10, 50, 50] },
    })
  );
  const hits = (name: string, ...points: readonly (readonly [number, number])[]) =>
    points.map(([x, y]) => isUnder(find(look(), id('home', name)), { x, y }));

  test('boxes with their margin: its near sides belong to it, its far ones do not', () => {
    expect(hits('box', [95, 110], [94.9, 110], [144.9, 110], [145, 110])).toEqual([true, false, true, false]);
    expect(hits('box', [110, 95], [110, 94.9], [110, 124.9], [110, 125])).toEqual([true, false, true, false]);
  });

  test('ovals are round, also where only what is pressed is', () => {
    expect(hits('oval', [120, 210], [101, 201], [100, 210], [120, 200], [139, 219])).toEqual([true, false, true, true, false]);
    expect(hits('round', [191, 210], [220, 191], [192, 192], [239, 201])).toEqual([true, true, false, true]);
    expect(hits('square', [301, 201])).toEqual([true]);
  });

  test('a group is as big as what is in it, and its margin; what is clipped is not there', () => {
    expect(hits('g', [208, 98], [207.9, 98], [208, 97.9], [231.9, 126.9], [232, 110], [210, 127])).toEqual([true, false, false, true, false, false]);
    expect(hits('none', [10, 10])).toEqual([false]);
    expect(hits('out', [315, 115], [325, 125])).toEqual([true, false]);
  });

  test('what groups in groups take up', () => {
    const { look: see } = seen(
      home({
        g: { type: 'group', at: [100, 100, 9, 9] },
        h: { in: 'g', type: 'group', at: [10, 20, 9, 9] },
        i: { in: 'g', type: 'group', at: [-500, -500, 9, 9] },
        one: { in: 'h', at: [1, 2, 5, 6] },
        two: { in: 'g', at: [30, 5, 4, 3] },
      })
    );
    expect(childrenBox(find(see(), id('home', 'g')))).toEqual({ x: 11, y: 5, width: 23, height: 23 });
    expect(childrenBox(find(see(), id('home', 'i')))).toBeNull();
    expect(boundsOf(find(see(), id('home', 'g')))).toEqual({ x: 111, y: 105, width: 23, height: 23 });
  });
});
