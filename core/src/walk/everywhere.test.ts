import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec, type PlacedSpec, type SceneSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { audit, routeEnd } from './audit.ts';

/** Each fault that can be seen, wherever it stands: what is found on a frame is found in whatever is shown, scrolled, moved or placed. */

type Layers = Readonly<Record<string, PlacedSpec>>;

const looks = { hover: { style: { fill: '#30405a' } }, press: { style: { fill: '#10203a' } } };

const button = (x: number, y: number, ...lines: string[]): PlacedSpec & { readonly at: readonly [number, number, number, number] } => ({
  type: 'text',
  at: [x, y, 120, 60],
  text: 'Go on',
  style: { fill: '#20304a', ink: '#ffffff' },
  looks,
  lines,
});

const away = button(20, 20, 'click → go to two');
const dark = { fill: '#000000' };
const words = { type: 'text', text: 'Low water at six', at: [20, 100, 200, 30] } as const;

const faults: Readonly<Record<string, readonly [rule: string, layers: Layers]>> = {
  covered: ['covered', { Odd: away, Lid: { at: [0, 0, 200, 120], label: 'Lid', style: { fill: '#ffffff' }, looks, lines: ['click → go to three'] } }],
  small: ['small-hit', { Odd: { ...away, at: [20, 20, 20, 20] } }],
  crowded: ['crowded-hit', { Odd: away, Near: button(20, 70, 'click → go to three') }],
  'see-through': ['unseen-hit', { Odd: { ...away, style: { fill: '#20304a', ink: '#ffffff', opacity: 0 } } }],
  veiled: ['unseen-hit', { Odd: away, Veil: { at: [0, 0, 200, 120], style: { fill: '#ffffff' } } }],
  pale: ['low-contrast', { Odd: away, Pale: { ...words, style: { fill: '#ffffff', ink: '#dddddd' } } }],
  'pale hovered': ['low-contrast', { Odd: { ...away, looks: { hover: { style: { fill: '#f0f0f0' } }, press: { style: dark } } } }],
  'pale pressed': ['low-contrast', { Odd: { ...away, looks: { hover: { style: dark }, press: { style: { fill: '#f0f0f0' } } } } }],
  'pale focused': ['low-contrast', { Odd: { ...away, looks: { ...looks, focus: { style: { fill: '#f0f0f0' } } } } }],
  nameless: ['no-name', { 'Box 1': { at: [20, 20, 120, 60], style: { fill: '#20304a' }, looks, lines: ['click → go to two'] } }],
  'no sign': ['no-feedback', { Odd: { ...away, looks: {} } }],
  'not wired': ['looks-clickable', { Odd: button(20, 20), On: button(20, 100, 'click → go to two') }],
  'out of view': ['off-frame', { Odd: button(3000, 20, 'click → go to two'), On: button(20, 100, 'click → go to three') }],
  'no keyboard': ['no-keyboard', { Odd: button(20, 20, 'long press 500 ms → go to two') }],
};

/** What is nearly one of them, and is none. */
const nearMisses: Readonly<Record<string, Layers>> = {
  'the least size': { Odd: { ...away, at: [20, 20, 44, 44] } },
  'a gap of 8': { Odd: away, Near: button(20, 88, 'click → go to three') },
  'grey at 4.5 : 1': { Odd: away, Grey: { ...words, style: { fill: '#ffffff', ink: '#767676' } } },
  'large letters at 3 : 1': {
    Odd: away,
    Grey: { ...words, at: [20, 100, 260, 50], letters: { size: 32 }, style: { fill: '#ffffff', ink: '#929292' } },
  },
  'side by side': { Odd: away, Beside: { ...button(148, 20, 'click → go to three') } },
  'words over a button': {
    Odd: { ...away, type: 'box', text: '', label: 'Go on' },
    Over: { ...words, at: [30, 30, 80, 30], style: { ink: '#ffffff' } },
  },
  'a box with a label': { Odd: { at: [20, 20, 120, 60], style: { fill: '#20304a' }, label: 'Go on', looks, lines: ['click → go to two'] } },
  'a hit area over what is drawn': {
    Drawn: { at: [20, 20, 120, 60], style: { fill: '#20304a' }, looks },
    Odd: { type: 'hit', label: 'Go on', at: [20, 20, 120, 60], lines: ['click → go to two'] },
  },
  'words that cannot be seen': { Odd: away, Clear: { ...words, style: { fill: '#ffffff', ink: '#ffffff', opacity: 0 } } },
  'a ground': { Ground: { at: [0, 0, 200, 120], style: { fill: '#777777' } }, Odd: away },
  'a thin veil': { Odd: away, Veil: { at: [0, 0, 200, 120], style: { fill: '#ffffff', opacity: 0.1 } } },
  'half out of view': { Odd: { ...away, at: [-40, 20, 120, 60] } },
  'a key as well': { Odd: button(20, 20, 'long press 500 ms → go to two', 'key Enter → go to two') },
  'a button on a card': {
    Card: { at: [10, 10, 280, 200], label: 'Card', style: { fill: '#eeeeee' }, looks, lines: ['click → go to three'] },
    Odd: away,
  },
  'outlined focused': { Odd: { ...away, looks: { ...looks, focus: { style: { line: { width: 3, color: '#20304a' } } } } } },
  turned: { Odd: { ...away, at: [60, 60, 120, 60], pose: { rotation: 45 } } },
};

const moved = (layers: Layers, dx: number, dy: number): Layers =>
  each(layers, ({ at, ...layer }) => ({ ...layer, at: [at![0] + dx, at![1] + dy, at![2], at![3]] }));
const each = (layers: Layers, of: (layer: PlacedSpec) => PlacedSpec): Layers =>
  Object.fromEntries(Object.entries(layers).map(([name, layer]) => [name, of(layer)]));
const inside = (layers: Layers, group: string): Layers => each(layers, (layer) => ({ ...layer, in: group }));
const hidden = (layers: Layers): Layers => each(layers, (layer) => ({ ...layer, hidden: true }));
const opened = (layers: Layers): SceneSpec['states'] => ({
  Shut: {},
  Open: Object.fromEntries(Object.keys(layers).map((name) => [name, { hidden: false }])),
});

const back: SceneSpec = { layers: { Back: button(20, 700, 'click → go to home') } };
const home = (layers: Layers, more: Omit<SceneSpec, 'layers'> = {}): Pick<ComposeSpec, 'frames'> => ({
  frames: {
    home: { ...more, layers: { Title: { type: 'text', text: 'Kittiwake Line', at: [0, 780, 300, 30] }, ...layers } },
    two: back,
    three: back,
  },
});
const group = (more: PlacedSpec = {}): PlacedSpec => ({ type: 'group', at: [20, 100, 300, 300], ...more });
const placed = (more: PlacedSpec = {}): PlacedSpec => ({ type: 'placement', part: 'card', at: [20, 100, 300, 300], ...more });
const card = (layers: Layers, more: Partial<SceneSpec> = {}) => ({ card: { size: [300, 300] as const, ...more, layers } });
const ground = { Ground: { at: [0, 0, 300, 300], style: { fill: '#ffffff' } } } as const;
const flags = { open: { type: 'yes/no', initial: false } } as const;
const turn = button(20, 600, 'click → if open → set open to false; otherwise → set open to true');
const sections = { One: [0, 'hold'], Two: [24, 'hold'] } as const;
const play = { Play: button(20, 600, 'click → play from Two'), Rewind: button(160, 600, 'click → play from One') };
const spans = (layers: Layers, from: number, to: number) => Object.keys(layers).map((name) => [name, from, to] as const);
const comesIn = (...keys: [number, number][]) => [['G', 'x', keys]] as const;

const contexts: Readonly<Record<string, (layers: Layers) => ComposeSpec>> = {
  'a frame': (layers) => home(moved(layers, 20, 100)),
  'a group': (layers) => home({ G: group(), ...inside(layers, 'G') }),
  'a part': (layers) => ({ parts: card(layers), ...home({ P: placed() }) }),
  'a part in a part': (layers) => ({
    parts: { ...card(layers), outer: { size: [300, 300], layers: { P: placed({ at: [0, 0, 300, 300] }) } } },
    ...home({ O: placed({ part: 'outer' }) }),
  }),
  'a sheet over the frame': (layers) => ({ sheets: { bar: { layers: moved(layers, 20, 100) } }, ...home({}, { over: ['bar'] }) }),
  'a sheet under the frame': (layers) => ({ sheets: { bar: { layers: moved(layers, 20, 100) } }, ...home({}, { under: ['bar'] }) }),
  'a frame laid over': (layers) => ({
    frames: {
      ...home({ Open: button(20, 600, 'click → lay over card at center') }).frames,
      card: { size: [300, 400], layers: { ...layers, Lift: button(20, 320, 'click → lift') } },
    },
  }),
  'a frame laid over that scrolls': (layers) => ({
    frames: {
      ...home({ Open: button(20, 600, 'click → lay over card at center') }).frames,
      card: { size: [300, 300], contentHeight: 900, layers: { ...moved(layers, 0, 500), Lift: button(20, 200, 'click → lift') } },
    },
  }),
  'a group that scrolls': (layers) =>
    home({ G: group({ at: [20, 100, 300, 200], scroll: 'y', clip: true, style: { fill: '#ffffff' } }), ...inside(moved(layers, 0, 400), 'G') }),
  'what is below the fold': (layers) => home(moved(layers, 20, 1200), { contentHeight: 1700 }),
  'what a state shows': (layers) =>
    home({ ...hidden(moved(layers, 20, 100)), Open: button(20, 600, 'click → toggle home with Open') }, { states: opened(layers) }),
  'what a state of a part shows': (layers) => ({
    parts: card({ ...hidden(layers), Open: button(160, 230, 'click → toggle this with Open') }, { states: opened(layers) }),
    ...home({ P: placed() }),
  }),
  'what a state of a sheet shows': (layers) => ({
    sheets: {
      bar: { states: opened(layers), layers: { ...hidden(moved(layers, 20, 100)), Open: button(160, 600, 'click → toggle bar with Open') } },
    },
    ...home({}, { over: ['bar'] }),
  }),
  'a part that a state shows': (layers) => ({
    parts: card(layers),
    ...home(
      { P: placed({ hidden: true }), Open: button(20, 600, 'click → toggle home with Open') },
      { states: { Shut: {}, Open: { P: { hidden: false } } } }
    ),
  }),
  'what a step shows': (layers) => home({ G: group({ hidden: true }), ...inside(layers, 'G'), Open: button(20, 600, 'click → show or hide G') }),
  'what a timer shows': (layers) => home({ G: group({ hidden: true }), ...inside(layers, 'G') }, { lines: ['after 2 s → show G'] }),
  'what a variable shows': (layers) => ({ variables: flags, ...home({ G: group({ when: { shown: 'open' } }), ...inside(layers, 'G'), Turn: turn }) }),
  'what a variable shows that is hidden': (layers) => ({
    variables: flags,
    ...home({ G: group({ hidden: true, when: { shown: 'open' } }), ...inside(layers, 'G'), Turn: turn }),
  }),
  'what is there by a span': (layers) => home(moved(layers, 20, 100), { timeline: { length: 48, spans: spans(layers, 10, 47) } }),
  'what is there in a section': (layers) =>
    home({ ...moved(layers, 20, 100), ...play }, { timeline: { length: 48, labels: sections, spans: spans(layers, 24, 47) } }),
  'what comes in': (layers) => home({ G: group(), ...inside(layers, 'G') }, { timeline: { length: 48, tracks: comesIn([0, -400], [40, 20]) } }),
  'what comes in with a section': (layers) =>
    home(
      { G: group(), ...inside(layers, 'G'), ...play },
      { timeline: { length: 48, labels: sections, tracks: comesIn([0, -400], [24, -400], [40, 20]) } }
    ),
  'a section of a clip': (layers) => ({
    parts: card({ ...ground, ...layers }, { timeline: { length: 48, labels: sections, spans: spans(layers, 24, 47) } }),
    ...home({ P: placed(), Play: button(20, 600, 'click → play P from Two'), Rewind: button(160, 600, 'click → play P from One') }),
  }),
  'what a step brings in': (layers) =>
    home({
      G: group({ at: [-600, 100, 300, 300] }),
      ...inside(layers, 'G'),
      Open: button(20, 600, 'click → tween x of G to 20 · 300 ms'),
      Shut: button(160, 600, 'click → tween x of G to -600 · 300 ms'),
    }),
  'what is dragged': (layers) =>
    home({ G: group({ drag: { axis: 'x', bounds: { left: -20, right: 60, top: 0, bottom: 0 } } }), ...inside(layers, 'G') }),
  'what is pinned': (layers) =>
    home(
      each(moved(layers, 20, 100), (layer) => ({ ...layer, pin: ['top'] })),
      { contentHeight: 1600 }
    ),
};

const told = (spec: ComposeSpec) => {
  const program = compile(compose(spec));
  const { findings, exploration } = audit(program);
  expect(exploration.cut).toBeNull();
  for (const one of findings) if (one.route) expect(routeEnd(program, one)).not.toBeNull();
  return findings.filter(({ rule, sentence }) => rule !== 'unreachable-frame' || !sentence.startsWith('No thread'));
};

describe.each(Object.entries(contexts))('in %s', (_, context) => {
  test('nothing is found where nothing is wrong', () => {
    expect(told(context({ Odd: away, On: button(20, 100, 'click → go to three') })).map(({ rule }) => rule)).toEqual([]);
  });

  test.each(Object.entries(nearMisses))('nor by %s', (_name, layers) => {
    expect(told(context(layers)).map(({ rule }) => rule)).toEqual([]);
  });

  test.each(Object.entries(faults))('%s', (_name, [rule, layers]) => {
    expect(told(context(layers)).map((one) => one.rule)).toContain(rule);
  });
});

describe('what is hidden and never comes up', () => {
  const silent = (spec: ComposeSpec) =>
    expect(
      told(spec)
        .map(({ rule }) => rule)
        .filter((rule) => ['no-feedback', 'no-name', 'looks-clickable', 'low-contrast'].includes(rule))
    ).toEqual([]);
  const all: Layers = {
    ...faults['no sign']![1],
    ...moved(faults['nameless']![1], 0, 100),
    Idle: button(20, 250),
    Pale: { ...words, at: [20, 330, 200, 30], style: { fill: '#ffffff', ink: '#dddddd' } },
  };

  test('says nothing: no step, state or variable shows it', () =>
    silent(home({ G: group({ hidden: true }), ...inside(all, 'G'), On: button(20, 600, 'click → go to two') })));

  test('nor where the state that shows it is never come to', () =>
    silent(home({ ...hidden(moved(all, 20, 100)), On: button(20, 600, 'click → go to two') }, { states: opened(all) })));

  test('nor where the step that shows it is never taken', () =>
    silent({
      variables: flags,
      ...home({ G: group({ hidden: true }), ...inside(all, 'G'), On: button(20, 600, 'click → if open → show G; otherwise → go to two') }),
    }));
});

describe('a look for what is selected', () => {
  const pale = { style: { fill: '#ffffff', ink: '#dddddd' } };
  const read = (layer: PlacedSpec, ...lines: string[]) => {
    const Row = { ...words, at: [20, 300, 200, 30] as const, style: { fill: '#ffffff', ink: '#222222' }, looks: { selected: pale }, ...layer };
    return told(home({ Odd: away, On: button(20, 600, 'click → go to three', ...lines), Row })).map(({ rule }) => rule);
  };

  test('is read where something can be: by a step, a binding, at first', () => {
    expect(read({}, 'click → select Row')).toContain('low-contrast');
    expect(read({}, 'click → select or unselect Row')).toContain('low-contrast');
    expect(read({ when: { selected: 'Odd.shown' } })).toContain('low-contrast');
    expect(read({ selected: true })).toContain('low-contrast');
  });

  test('says nothing where nothing selects it', () => {
    expect(read({})).toEqual([]);
    expect(read({}, 'click → unselect Row')).not.toContain('low-contrast');
  });
});

/** What is wrong only once something of a layer is another than it is drawn: of which property, and what it is brought to. */
const changes: Readonly<
  Record<string, readonly [rule: string, property: 'width' | 'height' | 'scale' | 'x' | 'y' | 'opacity', to: number, more?: Layers]>
> = {
  narrow: ['small-hit', 'width', 18],
  flat: ['small-hit', 'height', 18],
  shrunk: ['small-hit', 'scale', 0.2],
  'behind a veil': ['unseen-hit', 'x', 160, { Veil: { at: [150, 0, 140, 90], style: { fill: '#ffffff' } } }],
  'see-through': ['unseen-hit', 'opacity', 0],
  pale: ['low-contrast', 'opacity', 0.3],
  'near another': ['crowded-hit', 'y', 150, { Near: button(10, 200, 'click → go to three') }],
};

const asDrawn = { width: 120, height: 60, scale: 1, x: 10, y: 10, opacity: 1 } as const;
const odd = button(10, 10, 'click → go to two');
type Changed = keyof typeof asDrawn;
const delta = (property: Changed, to: number) => (property === 'opacity' ? { style: { opacity: to } } : { pose: { [property]: to } });
const states = (path: string, property: Changed, to: number): SceneSpec['states'] => ({ Day: {}, Night: { [path]: delta(property, to) } });
const wide = { size: [390, 400] as const };
const placedWide = placed({ at: [0, 100, 390, 400] });

const ways: Readonly<Record<string, (property: Changed, to: number, more: Layers) => ComposeSpec>> = {
  'a state': (property, to, more) =>
    home({ Odd: odd, ...more, Turn: button(10, 600, 'click → toggle home with Night') }, { states: states('Odd', property, to) }),
  'a state of its part': (property, to, more) => ({
    parts: card({ Odd: odd, ...more, Turn: button(10, 300, 'click → toggle this with Night') }, { ...wide, states: states('Odd', property, to) }),
    ...home({ P: placedWide }),
  }),
  'a state around its part': (property, to, more) => ({
    parts: card({ Odd: odd, ...more }, wide),
    ...home({ P: placedWide, Turn: button(10, 600, 'click → toggle home with Night') }, { states: states('P/Odd', property, to) }),
  }),
  'a state of its sheet': (property, to, more) => ({
    sheets: { bar: { states: states('Odd', property, to), layers: { Odd: odd, ...more, Turn: button(10, 600, 'click → toggle bar with Night') } } },
    ...home({}, { over: ['bar'] }),
  }),
  'a state of a frame laid over': (property, to, more) => ({
    frames: {
      ...home({ Open: button(10, 600, 'click → lay over card at center') }).frames,
      card: { ...wide, states: states('Odd', property, to), layers: { Odd: odd, ...more, Turn: button(10, 300, 'click → toggle card with Night') } },
    },
  }),
  'a variable': (property, to, more) => ({
    variables: flags,
    ...home({ Odd: { ...odd, when: { [property]: `if open then ${to} else ${asDrawn[property]}` } }, ...more, Turn: turn }),
  }),
  'a field': (property, to, more) =>
    home({
      Odd: { ...odd, when: { [property]: `if Seats.value > 5 then ${to} else ${asDrawn[property]}` } },
      ...more,
      Seats: { type: 'field', label: 'Seats', at: [10, 600, 200, 52], field: { kind: 'slider', min: 0, max: 10 } },
    }),
  'a step': (property, to, more) => home({ Odd: odd, ...more, Turn: button(10, 600, `click → tween ${property} of Odd to ${to} · 300 ms`) }),
  'a section': (property, to, more) =>
    home(
      { Odd: odd, ...more, ...play },
      {
        timeline: {
          length: 48,
          labels: sections,
          tracks: [
            [
              'Odd',
              property,
              [
                [0, asDrawn[property]],
                [24, asDrawn[property]],
                [40, to],
              ],
            ],
          ],
        },
      }
    ),
};

describe.each(Object.entries(ways))('by %s', (_, way) => {
  test.each(Object.entries(changes))('%s', (_name, [rule, property, to, more = {}]) => {
    expect(told(way(property, to, more)).map((one) => one.rule)).toContain(rule);
    expect(told(way(property, asDrawn[property], {})).map((one) => one.rule)).not.toContain(rule);
  });
});
