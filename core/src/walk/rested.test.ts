import { describe, expect, test } from 'vitest';
import { compose, type TimelineSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import type { Tracked } from '../vocabulary/properties/all.ts';
import { runnerIn } from '../run/machine.ts';
import { begin } from '../run/run.ts';
import { PlainStore } from '../run/store.ts';
import { audit, routeEnd } from './audit.ts';
import { seeingIn } from './sights.ts';

type Spec = Parameters<typeof compose>[0];
type Layers = NonNullable<Spec['frames'][string]['layers']>;

const looks = { hover: { style: { fill: '#eeeeee' } }, press: { style: { fill: '#dddddd' } } };
const button = (x: number, y: number, ...lines: string[]) => ({ at: [x, y, 100, 60] as const, text: 'Go', looks, lines });
const back = { layers: { back: button(0, 0, 'click → go to home') } };

type Track = NonNullable<TimelineSpec['tracks']>[number];

const track = (layer: string, property: Tracked, ...keys: Track[2]): Track => [layer, property, keys];

function says(rule: string, spec: Spec): string[] {
  const program = compile(compose(spec));
  const own = audit(program).findings.filter((one) => one.rule === rule);
  for (const one of own) expect(routeEnd(program, one)).not.toBeNull();
  return own.map(({ sentence }) => sentence);
}

describe('what is judged where timelines rest', () => {
  describe('hard to read', () => {
    const keyed = (property: Tracked, from: number | string, to: number | string) => ({
      length: 48,
      tracks: [track('word', property, [24, from], [47, to])] as const,
    });
    const word = { type: 'text', text: 'Tide', at: [10, 200, 200, 40], style: { ink: '#000000' } } as const;
    const sections = (timeline: TimelineSpec, more: Layers = {}, own: Layers[string] = word) =>
      says('low-contrast', {
        frames: {
          home: {
            timeline: { autoplay: false, labels: { Ebb: [0, 'hold'], Flood: [24, 'hold'] }, ...timeline },
            layers: { ...more, word: own, ebb: button(0, 0, 'click → play from Ebb'), flood: button(0, 100, 'click → play from Flood') },
          },
        },
      });

    test('what has keys is read where a section holds, and what lies under it is as it is there; on its way nothing is said', () => {
      const pale = 'Where it can be come to like that, word has a contrast of 1.3 to 1, in section Flood; 4.5 to 1 is needed.';
      expect(sections(keyed('ink', '#000000', '#dddddd'))).toEqual([pale]);
      expect(sections(keyed('ink', '#dddddd', '#000000'))).toEqual([pale.replace('Flood', 'Ebb')]);
      expect(sections(keyed('opacity', 1, 0.3))).toHaveLength(1);
      expect(sections(keyed('opacity', 1, 0))).toEqual([]);
      const through: TimelineSpec = {
        ...keyed('ink', '#000000', '#000000'),
        tracks: [track('word', 'ink', [24, '#000000'], [36, '#dddddd'], [47, '#000000'])],
      };
      expect(sections(through)).toEqual([]);
      const thereIn = (spans: NonNullable<TimelineSpec['spans']>, ink: string) =>
        sections({ length: 48, spans, tracks: [] }, {}, { ...word, style: { ink } });
      expect(thereIn([['word', 24, 47]], '#dddddd')).toHaveLength(1);
      expect(thereIn([['word', 24, 47]], '#222222')).toEqual([]);
      expect(thereIn([['word', 30, 40]], '#dddddd')).toHaveLength(1);
      const dark = { panel: { type: 'box', at: [0, 600, 300, 100], style: { fill: '#202020' } } } as const;
      expect(sections(keyed('y', 200, 620), dark)).toHaveLength(1);
      expect(sections(keyed('y', 200, 420), dark)).toEqual([]);
      const under: TimelineSpec = {
        length: 48,
        tracks: [track('panel', 'fill', [24, '#ffffff'], [47, '#202020'])],
      };
      expect(sections(under, { panel: { type: 'box', at: [0, 190, 300, 100], style: { fill: '#ffffff' } } })).toHaveLength(1);
    });

    test('what only moves is read where it rests, if one can stay for so long', () => {
      const alone = (timeline: TimelineSpec, lines: readonly string[] = [], style = {}) => {
        const layers = { word: { ...word, style: { ink: '#000000', ...style } }, on: { ...button(0, 0, 'click → go to shop'), looks } };
        const spec = { frames: { home: { timeline, lines, layers }, shop: back } };
        return audit(compile(compose(spec))).findings.filter(({ rule }) => rule === 'low-contrast');
      };
      const pales = keyed('ink', '#000000', '#dddddd');
      expect(alone(pales).map(({ route }) => route?.events)).toEqual([[{ type: 'wait', ms: 2000 }]]);
      expect(alone({ ...pales, loop: true })).toEqual([]);
      expect(alone({ ...keyed('ink', '#dddddd', '#000000'), loop: true })).toEqual([]);
      expect(alone({ ...pales, autoplay: false })).toEqual([]);
      expect(alone(pales, ['after 1 s → go to shop'])).toEqual([]);
      expect(alone(pales, ['after 3 s → go to shop'])).toHaveLength(1);
      expect(alone(keyed('ink', '#dddddd', '#000000'))).toEqual([]);
      // As it is drawn it would be white on white: it never is there.
      const dark = keyed('ink', '#ffffff', '#000000');
      expect(alone(dark, [], { ink: '#ffffff' })).toEqual([]);
    });
  });

  test('clips that are only seen are judged where what is played of them rests', () => {
    const labels = { Ebb: [0, 'hold'], Flood: [24, 'hold'] } as const;
    const clip = (tracks: NonNullable<TimelineSpec['tracks']>, layers: Layers) => ({
      size: [390, 300] as const,
      timeline: { length: 48, autoplay: false, labels, tracks },
      layers,
    });
    const piece = (part: ReturnType<typeof clip>, ...lines: string[]): Spec => ({
      parts: { clip: part },
      frames: {
        home: {
          layers: {
            b: button(0, 400, 'click → go to shop'),
            clip: { type: 'placement', part: 'clip', at: [0, 300, 390, 300] },
            on: button(0, 0, ...lines),
          },
        },
        shop: back,
      },
    });
    const found = (spec: Spec) =>
      audit(compile(compose(spec)))
        .findings.filter(({ rule }) => rule === 'low-contrast' || rule === 'unseen-hit')
        .map(({ rule, route }) => [rule, ...route!.events.map(({ type }) => type)]);
    const pales = clip([track('word', 'ink', [24, '#000000'], [47, '#dddddd'])], {
      word: { type: 'text', text: 'Tide', at: [200, 200, 100, 40], style: { ink: '#000000' } },
    });
    expect(found(piece(pales, 'click → play clip from Flood'))).toEqual([['low-contrast', 'click', 'wait']]);
    expect(found(piece(pales, 'click → play clip from Ebb'))).toEqual([]);
    expect(found(piece(pales, 'click → play clip from Flood', 'click → wait 500 ms; go to shop'))).toEqual([]);
    const hides = clip([track('panel', 'y', [24, 800], [47, 60])], { panel: { at: [0, 800, 390, 200], style: { fill: '#ffffff' } } });
    expect(found(piece(hides, 'click → play clip from Flood'))).toEqual([['unseen-hit', 'click', 'wait']]);
    expect(found(piece(hides, 'click → play clip from Ebb'))).toEqual([]);
  });

  test('unseen: behind what has come there in time and rests; not where it is see-through there, or only passes', () => {
    const comes = (tracks: NonNullable<TimelineSpec['tracks']>) =>
      says('unseen-hit', {
        frames: {
          home: {
            timeline: { length: 48, autoplay: false, labels: { Ebb: [0, 'hold'], Flood: [24, 'hold'] }, tracks },
            layers: {
              ebb: button(0, 0, 'click → play from Ebb'),
              flood: button(0, 100, 'click → play from Flood'),
              b: button(0, 400, 'click → go to shop'),
              panel: { at: [0, 380, 390, 200], style: { fill: '#ffffff' } },
            },
          },
          shop: back,
        },
      });
    const told = 'b takes presses while nothing is seen of it, in the state that its route leads to: panel lies before it and lets presses through.';
    expect(comes([track('panel', 'y', [24, 900], [47, 380])])).toEqual([told]);
    expect(comes([track('panel', 'opacity', [24, 0], [47, 1])])).toEqual([told]);
    expect(comes([track('panel', 'y', [24, 900], [47, 380]), track('panel', 'opacity', [24, 1], [47, 0.6])])).toEqual([]);
    expect(comes([track('panel', 'y', [24, 900], [36, 380], [47, 900])])).toEqual([]);
    expect(comes([track('panel', 'fill', [24, '#ffffff'], [47, '#ffffff80'])])).toEqual([]);
    // What only moves stands where it begins while all else is tried: nobody knows that it is there then.
    const only: TimelineSpec = {
      length: 48,
      tracks: [track('panel', 'y', [0, 380], [24, 900])],
    };
    const panel = { at: [0, 380, 390, 200], style: { fill: '#ffffff' } } as const;
    const layers = { b: button(0, 400, 'click → go to shop'), panel };
    const alone = (keys: NonNullable<TimelineSpec['tracks']>, more: Partial<TimelineSpec> = {}, lines: readonly string[] = []) => {
      const spec = { frames: { home: { timeline: { length: 48, tracks: keys, ...more }, lines, layers }, shop: back } };
      return audit(compile(compose(spec))).findings.filter(({ rule }) => rule === 'unseen-hit');
    };
    expect(alone(only.tracks!)).toEqual([]);
    const comesAlone: NonNullable<TimelineSpec['tracks']> = [track('panel', 'y', [0, 900], [24, 380])];
    const [once, ...more] = alone(comesAlone);
    expect(more).toEqual([]);
    expect(once).toMatchObject({
      sentence: 'b takes presses while nothing is seen of it, once panel has come to rest: panel lies before it and lets presses through.',
      route: { events: [{ type: 'wait', ms: 2000 }] },
    });
    expect(once!.fix).toBeUndefined();
    expect(alone(comesAlone, { loop: true })).toEqual([]);
    expect(alone(comesAlone, { autoplay: false })).toEqual([]);
    expect(alone(comesAlone, {}, ['after 1 s → go to shop'])).toEqual([]);
    expect(alone(comesAlone, {}, ['after 3 s → go to shop'])).toHaveLength(1);
  });

  test('off the frame: wherever keys bring it, also on its way; not where it passes through the view', () => {
    type Keys = readonly (readonly [number, number])[];
    const spec = (keys: Keys, more: object, others: Layers): Spec => ({
      frames: {
        home: {
          timeline: { length: 48, labels: { Ebb: [0, 'hold'], Flood: [24, 'hold'] }, tracks: [['b', 'x', keys]] },
          layers: { ...others, flood: button(0, 100, 'click → play from Flood'), b: { ...button(0, 400, 'click → go to shop'), ...more } },
        },
        shop: back,
      },
    });
    /** Whether it is told, and whether it counts as out of view as it sets out. */
    const moved = (keys: Keys, more: object = {}, others: Layers = {}) => {
      const one = spec(keys, more, others);
      const program = compile(compose(one));
      const { sights } = seeingIn(runnerIn(program, new PlainStore(begin(program, 'home')!.run)));
      return [says('off-frame', one).length > 0, sights.find(({ node }) => node.layer.name === 'b')!.isOut];
    };
    const [ever, never] = [
      [false, false],
      [true, true],
    ];
    expect(
      moved([
        [0, 700],
        [47, 400],
      ])
    ).toEqual(never);
    expect(
      says(
        'off-frame',
        spec(
          [
            [0, 700],
            [47, 400],
          ],
          {},
          {}
        )
      )
    ).toEqual(['b lies outside of what can be scrolled into view.']);
    expect(
      moved([
        [0, 700],
        [47, 380],
      ])
    ).toEqual(ever);
    expect(
      moved([
        [0, 700],
        [10, 100],
        [20, 700],
      ])
    ).toEqual(ever);
    expect(
      moved([
        [0, 700],
        [24, 700],
        [47, -300],
      ])
    ).toEqual(ever);
    // In a group that is twice as large, half of the way is enough.
    const group = { type: 'group', at: [0, 300, 100, 100], pose: { scale: 2, anchor: { x: 0, y: 0 } } } as const;
    const inGroup = { in: 'group', at: [0, 0, 50, 30] as const };
    expect(
      moved(
        [
          [0, 400],
          [47, 300],
        ],
        inGroup,
        { group }
      )
    ).toEqual(never);
    expect(
      moved(
        [
          [0, 400],
          [10, 150],
          [20, 400],
        ],
        inGroup,
        { group }
      )
    ).toEqual(ever);
  });
});
