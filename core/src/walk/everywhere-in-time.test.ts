import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec, type PlacedSpec, type SceneSpec, type TimelineSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { audit, routeEnd } from './audit.ts';

/** Each fault of a timeline, whatever the timeline belongs to and wherever that stands; and what is made alike and has none. */

type Layers = Readonly<Record<string, PlacedSpec>>;

/** A timeline and what plays it: steps of buttons, for `of`, which is how what has the timeline is called where the buttons are. */
interface Timed {
  readonly timeline: TimelineSpec;
  readonly layers?: Layers;
  readonly lines?: readonly string[];
  readonly steps: (of: string) => readonly string[];
}

const looks = { hover: { style: { fill: '#30405a' } }, press: { style: { fill: '#10203a' } } };

const button = (x: number, y: number, text: string, ...lines: string[]): PlacedSpec => ({
  type: 'text',
  at: [x, y, 100, 60],
  text,
  style: { fill: '#20304a', ink: '#ffffff' },
  looks,
  lines,
});

const from =
  (...labels: string[]) =>
  (of: string) =>
    labels.map((label) => `click → play ${of} from ${label}`.replace('  ', ' '));
const turns = (of: string) => ['next', 'previous'].map((way) => `click → play ${way} section${of && ` of ${of}`}`);

type Labels = NonNullable<TimelineSpec['labels']>;
type Ending = Labels[string][1];
const tide = (ebb: Ending, slack: Ending, flood: Ending): Labels => ({ Ebb: [0, ebb], Slack: [24, slack], Flood: [48, flood] });
type Keys = readonly (readonly [number, number])[];
const sailing = (keys: Keys) => [['Boat', 'x', keys]] as const;
const boat: Layers = { Boat: { at: [20, 20, 60, 40], style: { fill: '#0b7a75' } } };
const ebb: Keys = [
  [0, 20],
  [20, 60],
];
const slack: Keys = [
  [24, 60],
  [40, 100],
];
const flood: Keys = [
  [48, 100],
  [70, 150],
];
const plain = { length: 72, labels: tide('hold', 'hold', 'hold'), tracks: sailing([...ebb, ...slack, ...flood]) } as const;
const ended = (...endings: readonly [Ending, Ending, Ending]): TimelineSpec => ({ ...plain, labels: tide(...endings) });
const all = from('Ebb', 'Slack', 'Flood');
const in2 = (layers: Layers): Pick<Timed, 'timeline' | 'layers'> => ({
  timeline: { ...plain, spans: Object.keys(layers).map((name) => [name, 24, 47] as const) },
  layers,
});

const clean: Readonly<Record<string, Timed>> = {
  'sections that hold, each played': { timeline: plain, steps: all },
  'next and previous section': { timeline: plain, steps: turns },
  'sections that go round': { timeline: ended('loop', 'loop', 'loop'), steps: all },
  'sections that go on into each other': { timeline: ended('go on', 'go on', 'hold'), steps: from('Ebb') },
  'sections that go back to the first': { timeline: ended('hold', { goTo: 'Ebb' }, { goTo: 'Ebb' }), steps: from('Slack', 'Flood') },
  'sections played twice and three times': { timeline: ended({ rounds: 2 }, 'hold', { rounds: 3 }), steps: all },
  'what ends with the timeline': { timeline: { ...plain, spans: [['Sign', 0, 71]] }, layers: { Sign: { at: [20, 80, 60, 20] } }, steps: all },
};

const faults: Readonly<Record<string, Timed & { readonly told: readonly string[] }>> = {
  'a section that nothing plays': { told: ['unreachable-section'], timeline: plain, steps: from('Ebb', 'Flood') },
  'a last section that nothing plays': { told: ['unreachable-section'], timeline: plain, steps: from('Ebb', 'Slack') },
  'a section that is gone past': { told: ['unreachable-section'], timeline: ended({ goTo: 'Flood' }, 'hold', 'hold'), steps: from('Ebb') },
  'two labels at one time': {
    told: ['label-clash'],
    timeline: { ...plain, labels: { ...plain.labels, Flood: [24, 'hold'] } },
    steps: all,
  },
  'a section in which nothing moves': { told: ['empty-section'], timeline: { ...plain, tracks: sailing([...ebb, [48, 60], [70, 150]]) }, steps: all },
  'a last section in which nothing moves': { told: ['empty-section'], timeline: { ...plain, tracks: sailing([...ebb, ...slack]) }, steps: all },
  'a section that runs through': { told: ['runs-through'], timeline: ended('hold', 'go on', 'hold'), steps: all },
  'a key beyond the end': { told: ['out-of-time'], timeline: { ...plain, tracks: sailing([...ebb, ...slack, [48, 100], [90, 150]]) }, steps: all },
  'a span beyond the end': {
    told: ['out-of-time'],
    timeline: { ...plain, spans: [['Sign', 0, 100]] },
    layers: { Sign: { at: [20, 80, 60, 20] } },
    steps: all,
  },
  'a span that ends before it begins': {
    told: ['out-of-time'],
    timeline: { ...plain, spans: [['Sign', 40, 10]] },
    layers: { Sign: { at: [20, 80, 60, 20] } },
    steps: all,
  },
  'a label beyond the end, which is played': {
    told: ['out-of-time'],
    timeline: { ...plain, labels: { ...plain.labels, Flood: [90, 'hold'] } },
    steps: all,
  },
  'a cue on what has no time': { told: ['out-of-time'], timeline: { ...plain, cues: [[30, 'Boat', 'play']] }, steps: all },
  'words hard to read in a section': {
    told: ['low-contrast'],
    ...in2({ Pale: { type: 'text', text: 'Low water', at: [20, 80, 160, 30], style: { fill: '#ffffff', ink: '#dddddd' } } }),
    steps: all,
  },
  'a small button in a section': {
    told: ['small-hit'],
    ...in2({ Odd: { ...button(20, 80, 'Go', 'click → go to two'), at: [20, 80, 20, 20] } }),
    steps: all,
  },
  'a button in a section that nothing plays': {
    told: ['never-fires', 'unreachable-section'],
    ...in2({ Odd: button(20, 80, 'Odd', 'click → go to two') }),
    steps: from('Ebb', 'Flood'),
  },
  'a thread of a section that nothing plays': {
    told: ['never-fires', 'unreachable-section'],
    timeline: plain,
    lines: ['label Slack → go to two'],
    steps: from('Ebb', 'Flood'),
  },
};

const on = { On: button(20, 600, 'On', 'click → go to two') };
const two: SceneSpec = { layers: { Back: button(20, 700, 'Home', 'click → go to home') } };
const scene = ({ timeline, layers = {}, lines }: Timed, more: Layers = {}): SceneSpec => ({
  timeline,
  layers: { ...boat, ...layers, ...more },
  ...(lines && { lines }),
});
const buttons = ({ steps }: Timed, of = ''): Layers =>
  Object.fromEntries(steps(of).map((step, i) => [`Play ${i}`, button(20 + 120 * i, 500, `Play ${i}`, step)]));
const clip = (timed: Timed, more?: Layers, height = 200) => ({ clip: { size: [390, height] as const, ...scene(timed, more) } });
const placed = (part: string, height: number): PlacedSpec => ({ type: 'placement', part, at: [0, 0, 390, height] });
const opener = { Open: button(20, 500, 'Open', 'click → lay over card at center'), ...on };
const lift = { Lift: button(20, 600, 'Lift', 'click → lift') };

const hosts: Readonly<Record<string, (timed: Timed) => ComposeSpec>> = {
  'a frame': (timed) => ({ frames: { home: scene(timed, { ...buttons(timed), ...on }), two } }),
  'a frame that plays by itself': (timed) => ({
    frames: { home: scene({ ...timed, timeline: { ...timed.timeline, autoplay: true } }, { ...buttons(timed), ...on }), two },
  }),
  'a frame that is come to': (timed) => ({
    frames: { home: { layers: { Next: button(20, 20, 'Next', 'click → go to three') } }, three: scene(timed, { ...buttons(timed), ...on }), two },
  }),
  'a part played from its frame': (timed) => ({
    parts: clip(timed),
    frames: { home: { layers: { P: placed('clip', 200), ...buttons(timed, 'P'), ...on } }, two },
  }),
  'a part that plays itself': (timed) => ({
    parts: clip(timed, buttons(timed), 580),
    frames: { home: { layers: { P: placed('clip', 580), ...on } }, two },
  }),
  'a part in a part': (timed) => ({
    parts: { ...clip(timed, buttons(timed), 580), outer: { size: [390, 580], layers: { I: placed('clip', 580) } } },
    frames: { home: { layers: { P: placed('outer', 580), ...on } }, two },
  }),
  'a sheet': (timed) => ({ sheets: { bar: scene(timed, buttons(timed)) }, frames: { home: { over: ['bar'], layers: on }, two } }),
  'a frame laid over': (timed) => ({
    frames: { home: { layers: opener }, card: { size: [390, 700], ...scene(timed, { ...buttons(timed), ...lift }) }, two },
  }),
  'a part in a frame laid over': (timed) => ({
    parts: clip(timed),
    frames: { home: { layers: opener }, card: { size: [390, 700], layers: { P: placed('clip', 200), ...buttons(timed, 'P'), ...lift } }, two },
  }),
};

const told = (spec: ComposeSpec): readonly string[] => {
  const program = compile(compose(spec));
  const { findings, exploration } = audit(program);
  expect(exploration.cut).toBeNull();
  for (const one of findings) if (one.route) expect(routeEnd(program, one)).not.toBeNull();
  return [...new Set(findings.map(({ rule }) => rule))].sort();
};

describe.each(Object.entries(hosts))('in %s', (_, host) => {
  test.each(Object.entries(clean))('nothing is found in %s', (_name, timed) => {
    expect(told(host(timed))).toEqual([]);
  });

  test.each(Object.entries(faults))('%s is told, and nothing else', (_name, { told: rules, ...timed }) => {
    expect(told(host(timed))).toEqual(rules);
  });
});
