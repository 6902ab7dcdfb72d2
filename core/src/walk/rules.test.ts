import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec, type PlacedSpec } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import { compile } from '../program/compile.ts';
import type { Program } from '../program/program.ts';
import { unwrap } from '../result.ts';
import { audit, routeEnd } from './audit.ts';
import { rules } from './rules/index.ts';

/** Each rule by a fault that was planted, which it has to find, and by near misses, of which it must say nothing. */

type Spec = Parameters<typeof compose>[0];

const tested = new Set<string>();

/** What one rule says of a piece, with some edits; every route that it gives has to lead somewhere. */
function says(rule: string, spec: Spec, edits: readonly Operation[] = []): string[] {
  tested.add(rule);
  const program = compile(unwrap(apply(compose(spec), edits)).piece);
  const { findings } = audit(program);
  const own = findings.filter((one) => one.rule === rule);
  for (const one of own) if (one.route) expect(routeEnd(program, one)).not.toBeNull();
  return own.map(({ sentence }) => sentence);
}

type Layers = NonNullable<Spec['frames'][string]['layers']>;

const looks = { hover: { style: { fill: '#eeeeee' } }, press: { style: { fill: '#dddddd' } } };
const button = (x: number, y: number, ...lines: string[]) => ({ at: [x, y, 100, 60] as const, text: 'Go', looks, lines });
const back = { layers: { back: button(0, 0, 'click → go to home') } };

/** A home with some layers, and a shop that leads back. */
const pair = (layers: Layers, more: Partial<Spec> = {}, shop: Spec['frames'][string] = back): Spec => ({
  ...more,
  frames: { home: { layers: { on: button(0, 0, 'click → go to shop'), ...layers } }, shop },
});

const number = (initial: number, limits = {}) => ({ type: 'number', initial, ...limits }) as const;

describe('reading the piece', () => {
  test('draft-target: to a frame still to be drawn; not to one that is drawn, nor by a thread that is off', () => {
    expect(says('draft-target', pair({}, {}, { ...back, draft: true }))).toEqual(['shop is still to be drawn.']);
    expect(says('draft-target', pair({}))).toEqual([]);
  });

  test('no-feedback: the same hovered and pressed; a look of its own, around it or in it is a sign, and bare areas are no buttons', () => {
    const plain = { ...button(200, 0, 'click → go to shop'), looks: {} };
    expect(says('no-feedback', pair({ plain }))).toEqual(['plain can be pressed, and looks the same hovered and pressed.']);
    expect(says('no-feedback', pair({ plain: { ...plain, looks: { focus: looks.hover } } }))).toHaveLength(1);
    expect(says('no-feedback', pair({ plain: { ...plain, looks: { press: looks.press } } }))).toEqual([]);
    const card = { type: 'group', at: [200, 0, 100, 60], looks: { hover: { inside: { plain: { style: { fill: '#eeeeee' } } } } } } as const;
    expect(says('no-feedback', pair({ card, plain: { ...plain, at: [0, 0, 100, 60], in: 'card' } }))).toEqual([]);
    const same = { ...plain, style: { fill: '#1f4e5f' }, looks: { hover: { style: { fill: '#1f4e5f' } } } };
    expect(says('no-feedback', pair({ same }))).toHaveLength(1);
    const parts = { tile: { size: [100, 60] as const, layers: { face: { ...plain, at: [0, 0, 100, 60] as const } } } };
    const tile = (y: number, more = {}) => ({ type: 'placement', part: 'tile', at: [200, y, 100, 60], ...more }) as const;
    const lit = { looks: { hover: { style: { opacity: 0.8 } } } };
    expect(says('no-feedback', pair({ one: tile(0, lit) }, { parts }))).toEqual([]);
    expect(says('no-feedback', pair({ one: tile(0, lit), two: tile(100) }, { parts }))).toHaveLength(1);
    const area = { type: 'hit', at: [200, 100, 100, 60], lines: ['click → go to shop'] } as const;
    expect(says('no-feedback', pair({ area }))).toEqual([]);
    expect(says('no-feedback', pair({ area, other: { ...area, at: [200, 200, 100, 60], looks } }))).toHaveLength(1);
  });

  test('odd-one-out: one of four alike that leads elsewhere; where each leads to its own, or is there already, there is none', () => {
    const help = (to: string) => ({ help: { ...button(0, 300, `click → go to ${to}`), text: 'Help' } });
    const frames = (...to: string[]) =>
      Object.fromEntries(['home', 'a', 'b', 'c'].map((name, i) => [name, { layers: { ...back.layers, ...help(to[i]!) } }] as const));
    const aid = { aid: back, pay: back };
    expect(says('odd-one-out', { frames: { ...frames('aid', 'aid', 'pay', 'aid'), ...aid } })).toEqual([
      'help leads to pay; on 3 other frames it leads to aid.',
    ]);
    expect(says('odd-one-out', { frames: { ...frames('aid', 'aid', 'aid', 'aid'), ...aid } })).toEqual([]);
    expect(says('odd-one-out', { frames: { ...frames('a', 'b', 'c', 'home'), ...aid } })).toEqual([]);
    expect(says('odd-one-out', { frames: { ...frames('b', 'b', 'c', 'b'), ...aid } })).toEqual([]);
  });

  test('type-clash and expression-error: what is of the wrong type, and what cannot be read', () => {
    const variables = { seats: number(3), name: { type: 'text', initial: '' } as const };
    const asks = (condition: string) => pair({ ask: button(200, 0, `click → if ${condition} → go to shop`) }, { variables });
    expect(says('type-clash', asks('seats = "three"'))).toEqual(['In “seats = "three"”, column 1: A number cannot be compared with a text.']);
    expect(says('type-clash', asks('seats = 3'))).toEqual([]);
    expect(says('expression-error', asks('seats = "three"'))).toEqual([]);
    expect(says('expression-error', asks('seats / 0 > 1'))).toEqual(['In “seats / 0 > 1”, column 9: This divides by zero.']);
    const field = (kind: 'text' | 'number' | 'slider' | 'choice' | 'switch', variable: string) =>
      says('type-clash', pair({ f: { type: 'field', at: [0, 200, 200, 60], field: { kind, options: ['Day'], variable } } }, { variables }));
    expect(field('text', 'seats')).toEqual(['f holds texts, and seats takes numbers: nothing is ever kept in it.']);
    expect(field('switch', 'name')).toEqual(['f holds yes or no, and name takes texts: nothing is ever kept in it.']);
    expect([field('slider', 'seats'), field('number', 'seats'), field('choice', 'name'), field('text', 'name')]).toEqual([[], [], [], []]);
    const chosen = (variable: string) =>
      says('type-clash', pair({}, { variables }), [
        { op: 'set', table: 'scenes', id: 'home', path: ['choices', 'fares'], value: { name: 'fares', variable } },
      ]);
    expect(chosen('seats')).toEqual(['fares holds texts, and seats takes numbers: nothing is ever kept in it.']);
    expect(chosen('name')).toEqual([]);
  });

  test('unset-variable and unread-variable; counting up is not reading, a cue, a text and a field are', () => {
    const variables = { seats: number(3, { min: 0, max: 9 }) };
    const shown = { word: { type: 'text', text: '{seats} left', at: [0, 200, 200, 40] } as const };
    const taken = { take: button(200, 0, 'click → set seats to seats - 1') };
    expect(says('unset-variable', pair(shown, { variables }))).toEqual(['seats is read, and always 3.']);
    expect(says('unset-variable', pair({ ...shown, ...taken }, { variables }))).toEqual([]);
    expect(says('unread-variable', pair(taken, { variables }))).toEqual(['seats is set, and nothing depends on it.']);
    expect(says('unread-variable', pair({ ...shown, ...taken }, { variables }))).toEqual([]);
    expect(says('unread-variable', pair({ ...taken, on2: button(200, 100, 'variable seats → go to shop') }, { variables }))).toEqual([]);
    expect(says('unread-variable', pair({}, { variables }))).toEqual(['seats is used nowhere.']);
    const slider = (y: number) => ({ type: 'field', at: [0, y, 200, 44], field: { kind: 'slider', min: 0, max: 9, variable: 'seats' } }) as const;
    expect(says('unread-variable', pair({ a: slider(200) }, { variables }))).toHaveLength(1);
    expect(says('unread-variable', pair({ a: slider(200), b: slider(300) }, { variables }))).toEqual([]);
    expect(says('unread-variable', pair({ a: slider(200), ...taken }, { variables }))).toEqual([]);
  });

  test('out-of-range: begun, set and asked beyond limits, none of the options, opacity above 1', () => {
    const variables = { seats: number(3, { min: 0, max: 9 }), fare: { type: 'choice' as const, initial: 'Day', options: ['Day', 'Week'] } };
    const asks = (line: string) => says('out-of-range', pair({ ask: button(200, 0, line) }, { variables }));
    expect(asks('click → set seats to 12')).toEqual(['A step of ask sets seats to 12; seats is at most 9.']);
    expect(asks('click → set seats to 9')).toEqual([]);
    expect(asks('click → if seats > 9 → go to shop')).toEqual(['A condition of ask asks for what never is: seats is at most 9.']);
    expect(asks('click → if 9 <= seats → go to shop')).toEqual([]);
    expect(asks('click → if seats in [1..4] → go to shop')).toEqual([]);
    expect(asks('click → if fare = "Month" → go to shop')).toEqual([
      'A condition of ask asks for what never is: “Month” is none of the options of fare.',
    ]);
    expect(asks('click → set fare to "Week"')).toEqual([]);
    expect(asks('click → tween opacity of ask to 4 · 300 ms')).toEqual(['opacity goes from 0 to 1, and is to be 4.']);
    expect(asks('click → tween opacity of ask to 0.4 · 300 ms')).toEqual([]);
    const field = (value: number) => ({ f: { type: 'field', at: [0, 200, 200, 60], field: { kind: 'slider', min: 0, max: 10, value } } as const });
    expect(says('out-of-range', pair(field(12)))).toEqual(['It holds 12 at first; f is at most 10.']);
    expect(says('out-of-range', pair(field(10)))).toEqual([]);
    const parts = { Lamp: { states: { off: {}, on: {} }, timeline: { length: 8, labels: { glow: [0, 'hold'] as const } }, layers: {} } };
    const read = (condition: string, more: object = {}) =>
      says(
        'out-of-range',
        pair(
          {
            lamp: { type: 'placement', part: 'Lamp' },
            f: { type: 'field', field: { kind: 'slider', max: 9, ...more } },
            tip: { when: { shown: condition } },
          },
          { parts }
        )
      );
    expect(read('lamp.state = "lit"')).toEqual(['What shown of tip follows asks for what never is: “lit” is none of the states of lamp.']);
    expect(read('lamp.section in ("glow", "dusk")')).toEqual([
      'What shown of tip follows asks for what never is: “dusk” is none of the sections of lamp.',
    ]);
    expect(read('f.value > 9')).toEqual(['What shown of tip follows asks for what never is: f is at most 9.']);
    const put = (state: string) =>
      says(
        'out-of-range',
        pair({ lamp: { type: 'placement', part: 'Lamp', when: { state } } }, { parts, variables: { dark: { type: 'yes/no', initial: true } } })
      );
    expect(put('if dark then "on" else "of"')).toEqual(['What state of lamp follows names what is not there: “of” is none of the states of Lamp.']);
    for (const given of ['if dark then "on" else "off"', 'if dark then "on" else ""']) expect(put(given)).toEqual([]);
    const sky = (stateIs: string) =>
      says('out-of-range', pair({}, {}, { ...back, states: { day: {}, night: {} } }), [
        { op: 'set', table: 'scenes', id: 'shop', path: ['stateIs'], value: stateIs },
      ]);
    expect(sky('if 1 > 2 then "day" else "dusk"')).toEqual(['The state of shop names what is not there: “dusk” is none of the states of shop.']);
    expect(asks('click → set fare to if seats > 2 then "Month" else "Day"')).toEqual([
      'A step of ask sets fare to Month; “Month” is none of the options of fare.',
    ]);
    for (const held of ['lamp.state = "on"', 'lamp.section = ""', 'f.value >= 9']) expect(read(held)).toEqual([]);
    expect(read('f.value > 9', { value: 12 })).toEqual(['It holds 12 at first; f is at most 9.']);
    expect(says('out-of-range', pair({}, { variables: { seats: number(30, { max: 9 }) } }))).toEqual(['It begins with 30; seats is at most 9.']);
    expect(says('out-of-range', pair({}, { variables: { seats: number(3, { min: 9, max: 0 }) } }))).toEqual([
      'It is to be at least 9 and at most 0.',
    ]);
    expect(read('f.value > 9', { min: 12 })).toContain('It is to be at least 12 and at most 9.');
    const choice = (...options: string[]) => says('out-of-range', pair({ f: { type: 'field', field: { kind: 'choice', options } } }));
    expect([choice(), choice('Day')]).toEqual([['There is nothing to choose from yet.'], []]);
  });

  test('same-name: two layers of a name that is read; of which nothing is read, or only of one kind, there may be two', () => {
    const told = (reads: string, other: string) => {
      const spec = pair({
        Terms: { type: 'field', at: [0, 200, 200, 60], field: { kind: 'checkbox' } },
        other: { name: other, at: [0, 300, 100, 60] },
        ask: button(200, 0, reads),
      } as Layers);
      return says('same-name', spec);
    };
    expect(told('click → if Terms.selected → go to shop', 'Terms')).toEqual([
      'A condition of ask names Terms, and there are two things of that name.',
    ]);
    expect(told('click → if Terms.selected → go to shop', 'Else')).toEqual([]);
    expect(told('click → if Terms.value → go to shop', 'Terms')).toEqual([]);
    expect(told('click → go to shop', 'Terms')).toEqual([]);
  });
});

describe('seeing the piece', () => {
  test('crowded-hit: overlapping in part, or a few pixels apart; rows that touch and what lies on something are meant', () => {
    const two = (a: readonly [number, number, number, number], b: readonly [number, number, number, number]) =>
      says(
        'crowded-hit',
        pair(
          { one: { ...button(0, 0, 'click → go to shop'), at: a }, two: { ...button(0, 0, 'click → set n to 1'), at: b } },
          { variables: { n: number(0) } }
        )
      );
    expect(two([100, 200, 100, 60], [180, 200, 100, 60])).toEqual(['one and two overlap by 20 px.']);
    expect(two([100, 200, 100, 60], [202, 200, 100, 60])).toEqual(['one and two are 2 px apart.']);
    expect(two([100, 200, 100, 60], [200, 200, 100, 60])).toEqual([]);
    expect(two([100, 200, 100, 60], [210, 200, 100, 60])).toEqual([]);
    expect(two([100, 200, 20, 20], [120, 200, 20, 20])).toEqual(['one and two touch.']);
    expect(two([100, 200, 200, 100], [240, 210, 50, 50])).toEqual([]);
    expect(two([100, 200, 100, 60], [199, 259, 100, 60])).toEqual([]);
  });

  test('crowded-hit is judged where things stand in a state, and not between what scrolls and what stays', () => {
    const states = { far: {}, near: { two: { pose: { y: 262 } } } };
    const layers = {
      one: { ...button(100, 200, 'click → put this in near') },
      two: { ...button(100, 400, 'click → put this in far') },
    };
    expect(says('crowded-hit', { frames: { home: { states, layers } } })).toEqual(['one and two are 2 px apart.']);
    const bar = { ...button(100, 780, 'click → go to shop'), pin: ['bottom'] as const };
    const row = button(100, 750, 'click → go to home');
    expect(says('crowded-hit', { frames: { home: { contentHeight: 2000, layers: { row, bar: { ...bar, pin: ['bottom'] } } }, shop: back } })).toEqual(
      []
    );
  });

  test('covered and crowded-hit look at what has to be scrolled to, where it comes to stand; what can be scrolled free is free', () => {
    const page = (layers: Layers, contentHeight = 2000) => ({
      frames: { home: { contentHeight, layers: { on: button(0, 0, 'click → go to shop'), ...layers } }, shop: back },
    });
    const both = (layers: Layers, contentHeight?: number) => ['covered', 'crowded-hit'].flatMap((rule) => says(rule, page(layers, contentHeight)));
    const low = button(100, 1500, 'click → go to shop');
    const on = (y: number, height: number) => ({ ...button(100, y, 'click → go to home'), at: [100, y, 100, height] as const });
    expect(both({ low, lid: on(1490, 80) })).toEqual(['All of low lies behind lid, which takes the press.']);
    expect(both({ low, lid: on(1540, 60) })).toEqual(['low and lid overlap by 20 px.']);
    expect(both({ low, lid: on(1562, 60) })).toEqual(['low and lid are 2 px apart.']);
    // A bar that stays at the foot of the view covers the last of what scrolls, and nothing else.
    const bar = { at: [0, 770, 390, 74] as const, text: 'Bar', looks, pin: ['bottom'] as const, lines: ['click → go to home'] };
    expect(both({ low, bar: { ...bar, pin: ['bottom'] } }, 1565)).toEqual(['All of low lies behind bar, which takes the press.']);
    expect(both({ low, bar: { ...bar, pin: ['bottom'] } }, 1700)).toEqual([]);
    expect(both({ low: button(100, 780, 'click → go to shop'), bar: { ...bar, pin: ['bottom'] } })).toEqual([]);
    // Through a slit between two bars.
    const head = { ...bar, at: [0, 100, 390, 250] as const, pin: ['top'] as const };
    const foot = { ...bar, at: [0, 470, 390, 374] as const };
    expect(both({ low, head: { ...head, pin: ['top'] }, foot: { ...foot, pin: ['bottom'] } })).toEqual([]);
    // In a group that scrolls.
    const list = { type: 'group', scroll: 'y', at: [0, 100, 390, 300] } as const;
    expect(both({ list, low: { ...low, in: 'list' }, lid: { ...on(1490, 80), in: 'list' } }, 844)).toEqual([
      'All of low lies behind lid, which takes the press.',
    ]);
  });

  test('off-frame: beyond what scrolls; not what scrolls in, what a state brings in, or what is dragged', () => {
    const away = (x: number, y: number, more = {}, frame = {}) =>
      says('off-frame', {
        frames: {
          home: { ...frame, layers: { on: button(0, 0, 'click → go to shop'), away: { ...button(x, y, 'click → go to shop'), ...more } } },
          shop: back,
        },
      });
    expect(away(-200, 0)).toEqual(['away lies outside of what can be scrolled into view.']);
    expect(away(0, 900)).toEqual(['away lies outside of what can be scrolled into view.']);
    expect(away(0, 900, {}, { contentHeight: 1200 })).toEqual([]);
    expect(away(350, 0)).toEqual([]);
    expect(away(-200, 0, { drag: { axis: 'x' } })).toEqual([]);
    const states = { shut: {}, open: { away: { pose: { x: 0, y: 100 } } } };
    const layers = { on: button(0, 0, 'click → put this in open'), away: button(-200, 0, 'click → put this in shut') };
    expect(says('off-frame', { frames: { home: { states, layers } } })).toEqual([]);
  });

  test('unseen-hit: see-through and pressed, by itself, by its group, in a state; hit areas are meant to be, what is hidden takes nothing', () => {
    const ghost = (more: object) => says('unseen-hit', pair({ ghost: { ...button(200, 0, 'click → go to shop'), ...more } }));
    expect(ghost({ style: { opacity: 0 } })).toEqual(['ghost takes presses while nothing is seen of it.']);
    expect(ghost({ style: { opacity: 0.2 } })).toEqual([]);
    expect(ghost({ style: { opacity: 0 }, hidden: true })).toEqual([]);
    expect(ghost({ type: 'hit', text: undefined, looks: {} })).toEqual([]);
    const card = { type: 'group', at: [200, 0, 100, 60], style: { opacity: 0 } } as const;
    expect(says('unseen-hit', pair({ card, ghost: { ...button(0, 0, 'click → go to shop'), in: 'card' } }))).toHaveLength(1);
    const states = { shown: {}, gone: { a: { style: { opacity: 0 } } } };
    const fading = {
      frames: { home: { states, layers: { a: button(0, 0, 'click → put this in gone'), b: button(0, 200, 'click → put this in shown') } } },
    };
    expect(says('unseen-hit', fading)).toEqual(['a takes presses while nothing is seen of it, in the state that its route leads to.']);
    expect(says('unseen-hit', pair({ a: button(200, 0, 'click → tween opacity of a to 0 · 300 ms') }))).toHaveLength(1);
  });

  test('unseen-hit: behind what hides it and lets presses through; not a card behind its picture, nor what something stands for', () => {
    const b = button(200, 0, 'click → go to shop');
    const front = (more: object, others: Layers = {}) =>
      says('unseen-hit', pair({ b, panel: { at: [190, 0, 200, 200], style: { fill: '#ffffff' }, ...more }, ...others }));
    expect(front({})).toEqual(['b takes presses while nothing is seen of it: panel lies before it and lets presses through.']);
    expect(front({ style: { fill: '#ffffffee' } })).toEqual([]);
    expect(front({ style: {} })).toEqual([]);
    expect(front({ style: { fill: '#ffffff', opacity: 0.9 } })).toEqual([]);
    expect(front({ hit: { how: 'block' } })).toEqual([]);
    expect(front({ hidden: true })).toEqual([]);
    // As large as what it hides it is only drawn on it, but where words are gone behind what is blank.
    expect(front({ at: [200, 0, 100, 60] })).toHaveLength(1);
    expect(front({ at: [200, 0, 100, 60], text: 'Stop' })).toEqual([]);
    const card = { ...b, text: '', style: { fill: '#1f4e5f' } };
    const onCard = (others: Layers) => says('unseen-hit', pair({ b: card, ...others, panel: { at: [200, 0, 100, 60], style: { fill: '#ffffff' } } }));
    expect(onCard({})).toEqual([]);
    expect(onCard({ label: { type: 'text', at: [210, 10, 40, 20], text: 'Go' } })).toHaveLength(1);
    expect(front({ at: [210, 0, 200, 200] })).toEqual([]);
    expect(front({ type: 'oval' })).toEqual([]);
    expect(front({ type: 'oval', at: [0, -200, 500, 500] })).toHaveLength(1);
    expect(front({ style: { fill: '#ffffff', corner: 60 } })).toEqual([]);
    expect(front({ drag: { axis: 'both' } })).toEqual([]);
    expect(front({ looks: { hover: { style: { fill: '#000000' } } } })).toEqual([]);
    expect(front({}, { label: { type: 'text', at: [210, 10, 40, 20], text: 'Go' } })).toEqual([]);
    expect(front({}, { label: { type: 'text', at: [210, 10, 140, 20], text: 'Not yet' } })).toHaveLength(1);
  });

  test('unseen-hit: behind a sheet too, but not where it can be scrolled out from there, nor behind what grew faint', () => {
    const b = button(200, 0, 'click → go to shop');
    const bar = { at: [0, 0, 390, 120] as const, style: { fill: '#000000' } };
    const sheets = { top: { layers: { bar } } };
    const under = (more: object) =>
      says('unseen-hit', {
        sheets,
        frames: { home: { over: ['top'], layers: { b }, ...more }, shop: { layers: { on: button(0, 200, 'click → go to home') } } },
      });
    expect(under({})).toEqual(['b takes presses while nothing is seen of it: bar lies before it and lets presses through.']);
    expect(under({ contentHeight: 2000 })).toEqual([]);
    const panel = { at: [190, 0, 200, 200] as const, style: { fill: '#ffffff' } };
    const scrolled = (more: object, own: object = {}) =>
      says('unseen-hit', { frames: { home: { contentHeight: 2000, layers: { b: { ...b, ...own }, panel: { ...panel, ...more } } }, shop: back } });
    expect(scrolled({})).toEqual(['b takes presses while nothing is seen of it: panel lies before it and lets presses through.']);
    expect(scrolled({ pin: ['top'] })).toEqual([]);
    expect(scrolled({ pin: ['top'] }, { pin: ['top'] })).toHaveLength(1);
    const list = { type: 'group', scroll: 'y', at: [190, 0, 200, 200] } as const;
    const inList = { list, long: { at: [0, 900, 20, 20], in: 'list' } as const, b: { ...button(10, 0, 'click → go to shop'), in: 'list' }, panel };
    expect(says('unseen-hit', { frames: { home: { layers: inList }, shop: back } })).toEqual([]);
    const faint = button(0, 300, 'click → tween opacity of panel to 0.5 · 100 ms');
    const states = { calm: {}, thin: { panel: { style: { opacity: 0.5 } } } };
    expect(says('unseen-hit', pair({ b, panel, faint }))).toHaveLength(1);
    expect(says('unseen-hit', { frames: { home: { states, layers: { b, panel } }, shop: back } })).toEqual([]);
    const painted = { calm: {}, dark: { panel: { style: { fill: '#000000' } } } };
    expect(says('unseen-hit', { frames: { home: { states: painted, layers: { b, panel } }, shop: back } })).toHaveLength(1);
    const faded = pair({ b: { ...b, hidden: true }, panel, faint: { ...faint, lines: [...faint.lines, 'click → wait 1 s; show b'] } });
    expect(says('unseen-hit', faded)).toEqual([]);
  });

  test('unseen-hit: behind a photograph, not behind a picture that may be see-through, or does not fill its box', () => {
    const photo = (mediaType: 'image/jpeg' | 'image/png', fit?: 'contain') => {
      const id = 'a'.repeat(64);
      const assets = [{ id, name: 'pier', mediaType, size: 10, width: 200, height: 200 }];
      const picture = { type: 'picture', at: [190, 0, 200, 200], asset: id, ...(fit && { fit }) } as const;
      return says('unseen-hit', pair({ b: button(200, 0, 'click → go to shop'), picture }, { assets }));
    };
    expect(photo('image/jpeg')).toHaveLength(1);
    expect(photo('image/jpeg', 'contain')).toEqual([]);
    expect(photo('image/png')).toEqual([]);
  });

  test('unseen-hit: a panel that comes may be made to keep presses off', () => {
    const open = button(200, 300, 'click → if Open = true → set Open to false; otherwise → set Open to true');
    const panel = { at: [190, 0, 200, 200] as const, style: { fill: '#ffffff' }, when: { shown: 'Open' } };
    const b = button(200, 0, 'click → go to shop');
    const program = compile(compose(pair({ b, panel, open }, { variables: { Open: { type: 'yes/no', initial: false } } })));
    const judged = (one: Program) => audit(one).findings.filter(({ rule }) => ['unseen-hit', 'covered'].includes(rule));
    const [found] = judged(program);
    expect(found!.sentence).toBe(
      'b takes presses while nothing is seen of it, in the state that its route leads to: panel lies before it and lets presses through.'
    );
    expect(found!.fix?.label).toBe('Let panel keep presses off');
    const mended = unwrap(apply(program.piece, found!.fix!.operations)).piece;
    expect(judged(compile(mended))).toEqual([]);
  });

  test('unseen-hit: what always lies there is not mended so, also where steps wait meanwhile', () => {
    const b = button(200, 0, 'click → wait 1 s; go to shop');
    const panel = { at: [190, 0, 200, 200] as const, style: { fill: '#ffffff' } };
    const [found] = audit(compile(compose(pair({ b, panel })))).findings.filter(({ rule }) => rule === 'unseen-hit');
    expect(found!.fix).toBeUndefined();
  });

  test('small-hit: not what has shrunk to nothing, but a line that was never more', () => {
    const away = { A: {}, B: { go: { pose: { scale: 0 } } } };
    const go = { at: [10, 10, 80, 60] as const, lines: ['click → next state of home'] };
    expect(says('small-hit', { frames: { home: { states: away, layers: { go } } } })).toEqual([]);
    expect(says('small-hit', { frames: { home: { states: away, layers: { go: { ...go, pose: { scale: 0 } } } } } })).toEqual([]);
    expect(says('small-hit', { frames: { home: { states: away, layers: { go: { ...go, at: [10, 10, 80, 1] as const } } } } })).toHaveLength(1);
  });

  test('small-hit: in a state, and as it is placed', () => {
    const states = { wide: {}, thin: { a: { pose: { width: 20 } } } };
    const layers = { a: button(0, 0, 'click → put this in thin'), b: button(0, 200, 'click → put this in wide') };
    expect(says('small-hit', { frames: { home: { states, layers } } })).toEqual([
      '20 × 60 on home, in the state that its route leads to; at least 24 is needed, and a thumb wants 44.',
    ]);
  });

  test('low-contrast: what is laid over, states together and bindings, where they can be come to; nothing that is never like that', () => {
    const words = (ink: string) => ({ type: 'text', at: [10, 10, 200, 30], text: 'Saved', style: { ink } }) as const;
    const over = (background: string, ink: string, more: object = {}) =>
      says('low-contrast', {
        frames: {
          home: {
            background,
            layers: { on: { ...button(0, 300, 'click → lay over note at bottom'), looks: {}, style: { fill: '#ffffff', ink: '#000000' } } },
          },
          note: { size: [300, 60], background: '#ffffff00', layers: { words: words(ink) }, lines: ['after 2 s → lift'], ...more },
        },
      });
    // Alone it would be white on white: it is only ever laid over what is dark.
    expect(over('#102030', '#ffffff')).toEqual([]);
    expect(over('#102030', '#222222')).toEqual(['Where it can be come to like that, words has a contrast of 1 to 1; 4.5 to 1 is needed.']);
    expect(over('#ffffff', '#ffffff')).toEqual(['words has a contrast of 1 to 1; 4.5 to 1 is needed.']);
    // Words that a dark panel in one part of the frame hides only while another thing is in a state of its own.
    const night = (line: string) =>
      says('low-contrast', {
        variables: { Dark: { type: 'yes/no', initial: false } },
        frames: {
          home: {
            states: { plain: {}, moved: { words: { pose: { y: 110 } } } },
            layers: {
              panel: { type: 'box', at: [0, 100, 300, 60], style: { fill: '#111111' }, when: { shown: 'Dark' } },
              words: words('#222222'),
              move: { ...button(0, 300, 'click → put home in moved'), looks: {} },
              dark: { ...button(0, 400, line), looks: {} },
            },
          },
        },
      });
    expect(night('click → set Dark to true')).toEqual(['words has a contrast of 1.1 to 1, in state moved; 4.5 to 1 is needed.']);
    // As it is drawn the panel is there; nobody ever comes to that.
    expect(night('click → set Dark to false')).toEqual([]);
  });

  test('low-contrast: on its own fill, on what lies under it, in a state and a look; large text may have less, and on what has no one colour nothing is said', () => {
    const word = (style: object, more: object = {}) =>
      says('low-contrast', {
        frames: { home: { layers: { word: { type: 'text', text: 'Tide', at: [10, 10, 200, 40], style, ...more } }, ending: true } },
      });
    expect(word({ ink: '#999999' })).toEqual(['word has a contrast of 2.8 to 1; 4.5 to 1 is needed.']);
    expect(word({ ink: '#767676' })).toEqual([]);
    expect(word({ ink: '#8a8a8a' }, { letters: { size: 24 } })).toEqual([]);
    expect(word({ ink: '#8a8a8a' }, { letters: { size: 19, weight: 700 } })).toEqual([]);
    expect(word({ ink: '#8a8a8a' }, { letters: { size: 19 } })).toHaveLength(1);
    expect(word({ ink: '#000000', opacity: 0.3 })).toHaveLength(1);
    expect(word({ ink: '#999999' }, { type: 'box', text: 'Tide' })).toHaveLength(1);
    expect(word({ ink: '#ffffff', fill: '#1f4e5f' })).toEqual([]);
    const behind = (at: PlacedSpec['at'], fill: string) => {
      const layers = {
        word: { type: 'text', text: 'Tide', at: [10, 10, 200, 40], style: { ink: '#999999' } },
        card: { at, style: { fill } },
      } as const;
      return says('low-contrast', { frames: { home: { layers, ending: true } } });
    };
    expect(behind([0, 0, 300, 100], '#ffffff')).toEqual([]);
    expect(behind([0, 0, 300, 100], '#ffffff80')).toHaveLength(1);
    expect(behind([0, 40, 300, 100], '#ffffff')).toHaveLength(1);
    const on = (ground: object) =>
      says('low-contrast', {
        frames: {
          home: {
            layers: {
              ground: { at: [0, 0, 300, 100], ...ground },
              word: { type: 'text', text: 'Tide', at: [10, 10, 200, 40], style: { ink: '#ffffff' } },
            },
            ending: true,
          },
        },
      });
    expect(on({ style: { fill: '#1f4e5f' } })).toEqual([]);
    expect(on({ style: { fill: '#cccccc' } })).toHaveLength(1);
    expect(on({ type: 'path', path: 'M0 0L100 0L100 100Z', style: { fill: '#cccccc' } })).toEqual([]);
    const pressed = {
      ...button(0, 0, 'click → go to shop'),
      style: { fill: '#1f4e5f', ink: '#ffffff' },
      looks: { hover: { style: { fill: '#dddddd' } } },
    };
    expect(says('low-contrast', pair({ pressed }))).toEqual(['pressed has a contrast of 1.3 to 1, hovered; 4.5 to 1 is needed.']);
    const disabled = { ...pressed, looks: { disabled: { style: { fill: '#dddddd' } } }, disabled: true };
    expect(says('low-contrast', pair({ disabled }))).toEqual([]);
    const across = (words: string) => ({
      dark: { at: [0, 200, 60, 60] as const, style: { fill: '#101010' } },
      words: { type: 'text' as const, text: words, at: [4, 210, 300, 30] as const, style: { ink: '#ffffff' } },
    });
    expect(says('low-contrast', pair(across('Bay')))).toEqual([]);
    expect(says('low-contrast', pair(across('Over the bay and far beyond')))).toEqual(['words has a contrast of 1 to 1; 4.5 to 1 is needed.']);
    const states = { day: {}, night: { word: { style: { ink: '#eeeeee' } } } };
    const night = { word: { type: 'text', text: 'Tide', at: [10, 100, 200, 40] } as const, on: button(0, 0, 'click → toggle this with night') };
    expect(says('low-contrast', { frames: { home: { states, layers: night } } })).toEqual([
      'word has a contrast of 1.1 to 1, in state night; 4.5 to 1 is needed.',
    ]);
  });

  test('no-name: made names without text; what is written on it or in it, or said for it, is its name', () => {
    const area = { type: 'hit', at: [200, 0, 100, 60], lines: ['click → go to shop'] } as const;
    expect(says('no-name', pair({ 'Hit area 3': area }))).toEqual(['Whoever hears the piece is told “Hit area 3”, and not what it is for.']);
    expect(says('no-name', pair({ 'IMG_2044.png': { ...area, type: 'oval' } }))).toHaveLength(1);
    expect(says('no-name', pair({ 'Hit area 3': { ...area, label: 'To the shop' } }))).toEqual([]);
    expect(says('no-name', pair({ 'Box 2': { ...area, type: 'box', text: 'Shop' } }))).toEqual([]);
    expect(says('no-name', pair({ 'To the shop': area }))).toEqual([]);
    expect(says('no-name', pair({ 'Box 2': { at: [200, 0, 100, 60] } }))).toEqual([]);
  });

  test('no-keyboard: what is swiped, dragged or held and nothing else does; what a button or a key does as well is no loss', () => {
    const swiped = { card: { at: [0, 200, 300, 100], lines: ['swipe left → go to shop'] } as const };
    const only = { frames: { home: { layers: swiped }, shop: back } };
    expect(says('no-keyboard', only)).toEqual(['What card does when swiped nothing does for the keyboard.']);
    expect(says('no-keyboard', pair(swiped))).toEqual([]);
    expect(says('no-keyboard', { frames: { ...only.frames, home: { layers: swiped, lines: ['key ArrowLeft → go to next'] } } })).toEqual([]);
    const held = (...lines: string[]) => pair({ held: { ...button(200, 0, ...lines) } }, { variables: { n: number(0) } });
    expect(says('no-keyboard', held('press → set n to 1'))).toHaveLength(1);
    expect(says('no-keyboard', held('press → set n to 1', 'click → go to shop'))).toEqual([]);
    const read = { ...button(200, 0, 'click → set n to 1'), role: 'text' as const };
    const readOn = (more: object) => says('no-keyboard', pair({ read, ...more }, { variables: { n: number(0) } }));
    expect(readOn({})).toEqual(['What read does when clicked nothing does for the keyboard.']);
    expect(readOn({ too: { ...read, role: 'button' } })).toEqual([]);
  });

  test('no-keyboard: a click anywhere on a frame or in the piece; not one that a key, a button or time does as well, nor on a part', () => {
    const anywhere = 'click → set n to n + 1';
    const on = (lines: readonly string[], layers: Parameters<typeof pair>[0] = {}, more: object = {}) =>
      says('no-keyboard', {
        variables: { n: number(0) },
        frames: { home: { lines, layers: { on: button(0, 0, 'click → go to shop'), ...layers } }, shop: back },
        ...more,
      });
    expect(on([anywhere])).toEqual(['What home does when clicked nothing does for the keyboard.']);
    expect(on([anywhere, 'key n → set n to n + 1'])).toEqual([]);
    expect(on([anywhere], { more: button(0, 100, anywhere) })).toEqual([]);
    expect(on(['click → go to shop', 'after 2 s → go to shop'])).toEqual([]);
    expect(on([anywhere, 'after 2 s → set n to n + 1'])).toEqual([]);
    expect(on([], {}, { lines: [anywhere] })).toHaveLength(1);
    const card = {
      card: { size: [200, 100] as const, lines: [anywhere], layers: { words: { type: 'text', text: 'Seats', at: [0, 0, 90, 30] } as const } },
    };
    expect(on([], { card: { type: 'placement', part: 'card', at: [0, 200, 200, 100] } }, { parts: card })).toEqual([]);
    // The ground of a sheet takes none.
    const bar = { ...card.card, size: undefined };
    const carried = { home: { over: ['bar'], layers: { on: button(0, 0, 'click → go to shop') } }, shop: back };
    expect(says('no-keyboard', { variables: { n: number(0) }, sheets: { bar }, frames: carried })).toEqual([]);
  });
});

describe('exploring the piece', () => {
  test('unreachable-state: one that nothing brings in; not one that is begun in, bound, asked for by what is around it, or not seen at all', () => {
    const states = { day: {}, night: {} };
    const home = (line: string, more = {}) => ({ frames: { home: { states, layers: { on: button(0, 0, line) }, ...more } } });
    expect(says('unreachable-state', home('click → go to home'))).toEqual(['Nothing brings home into night.']);
    expect(says('unreachable-state', home('click → put this in night'))).toEqual([]);
    const variables = { dark: { type: 'yes/no', initial: false } as const };
    const bound = { ...home('click → set dark to not(dark)', { stateIs: 'if dark then "night" else "day"' }), variables };
    expect(says('unreachable-state', bound)).toEqual([]);
    // What is gone through at once is met.
    expect(says('unreachable-state', home('click → put this in night', { lines: ['state night → put this in day'] }))).toEqual([]);
    expect(says('unreachable-state', home('click → put this in night; put this in day'))).toEqual([]);
    expect(
      says('unreachable-state', home('click → go to home', { lines: ['state day → put this in night', 'state night → put this in day'] }))
    ).toEqual([]);
    const parts = { lamp: { size: [100, 60] as const, states } };
    const lamp = { type: 'placement', part: 'lamp', at: [0, 200, 100, 60] } as const;
    expect(says('unreachable-state', pair({ lamp }, { parts }))).toEqual(['Nothing brings lamp into night.']);
    expect(says('unreachable-state', pair({ lamp, two: { ...lamp, at: [0, 300, 100, 60], state: 'night' } }, { parts }))).toEqual([]);
    expect(says('unreachable-state', pair({}, { parts }))).toEqual([]);
  });

  test('unreachable-section: nothing plays it and nothing runs on to it', () => {
    const timeline = (ending: 'hold' | 'go on') => ({ length: 48, labels: { one: [0, ending], two: [24, 'hold'] } as const });
    const home = (ending: 'hold' | 'go on', line: string) => ({
      frames: { home: { timeline: timeline(ending), layers: { on: button(0, 0, line) } } },
    });
    expect(says('unreachable-section', home('hold', 'click → play from one'))).toEqual(['Nothing plays two of home, and nothing runs on to it.']);
    expect(says('unreachable-section', home('go on', 'click → play from one'))).toEqual([]);
    expect(says('unreachable-section', home('hold', 'click → play from two'))).toEqual([]);
    expect(says('unreachable-section', home('hold', 'click → show label two'))).toEqual([]);
    expect(says('unreachable-section', home('hold', 'click → play next section'))).toEqual([]);
  });

  test('unreachable-section: where the last one goes on to nothing, what is played before it is so', () => {
    const timeline = { length: 72, labels: { one: [0, 'hold'], two: [24, 'hold'], three: [48, 'go on'] } } as const;
    const layers = { on: button(0, 0, 'click → play from three'), also: button(0, 100, 'click → play from two') };
    expect(says('unreachable-section', { frames: { home: { timeline, layers } } })).toEqual([]);
    const only = { on: layers.on };
    expect(says('unreachable-section', { frames: { home: { timeline, layers: only } } })).toEqual([
      'Nothing plays two of home, and nothing runs on to it.',
    ]);
  });

  test('unreachable-section: playing on leads past the end of a section that holds, as far as that is done there', () => {
    const labels = { one: [0, 'hold'], two: [24, 'hold'], three: [48, 'hold'] } as const;
    const on = button(0, 0, 'click → play on');
    const frame = (more: object, layers: Layers = { on }) => ({ frames: { home: { timeline: { length: 72, labels, ...more }, layers } } });
    expect(says('unreachable-section', frame({}))).toEqual([]);
    expect(says('unreachable-section', frame({ spans: [['on', 0, 23]] }))).toEqual(['Nothing plays three of home, and nothing runs on to it.']);
    expect(says('unreachable-section', frame({}, { on: button(0, 0, 'click → pause') }))).toHaveLength(2);
    // What only moves is let stand, so that nobody knows how far it was played.
    const Flag = {
      size: [100, 60] as const,
      timeline: {
        length: 72,
        labels,
        tracks: [
          [
            'flag',
            'x',
            [
              [0, 0],
              [71, 50],
            ],
          ],
        ] as const,
      },
      layers: { flag: {} },
    };
    const flown = (line: string) => pair({ flag: { part: 'Flag', at: [200, 200, 100, 60] }, wave: button(200, 0, line) }, { parts: { Flag } });
    expect(says('unreachable-section', flown('click → play flag'))).toEqual([]);
    expect(says('unreachable-section', flown('click → pause flag'))).toHaveLength(2);
  });

  test('never-fires, and why; a branch that an earlier one leaves nothing for; not what can be cut, or is told by another rule', () => {
    const variables = { n: number(0) };
    const ask = (...lines: string[]) => says('never-fires', pair({ ask: button(200, 0, ...lines) }, { variables }));
    expect(ask('click → if n = 5 → go to shop')).toEqual(['In no state that can be reached is it cued while “n = 5” holds.']);
    expect(ask('click → if n = 0 → go to shop; otherwise → go to home')).toEqual(['Whenever it is cued, an earlier branch wins.']);
    expect(ask('click → set n to if n > 3 then 0 else n + 1', 'key x → if n = 2 → go to shop; otherwise → go to home')).toEqual([]);
    expect(ask('drop → go to shop')).toEqual(['What it waits for happens in no state that can be reached.']);
    expect(ask('click → if n = "x" → go to shop')).toEqual([]);
    expect(ask('signal tide → go to shop')).toEqual([]);
    const hidden = { ...button(200, 0, 'click → go to shop'), hidden: true };
    expect(says('never-fires', pair({ hidden }))).toHaveLength(1);
    expect(says('never-fires', pair({ hidden, show: button(200, 100, 'click → show hidden') }))).toEqual([]);
    const up = button(200, 0, 'click → set n to n + 1');
    const states = { shut: { card: { hidden: true } }, open: {} };
    const closed = {
      frames: { home: { states, layers: { on: button(0, 0, 'click → go to home'), card: button(0, 100, 'click → put this in shut') } } },
    };
    expect([says('never-fires', closed).length, says('unreachable-state', closed).length]).toEqual([0, 1]);
    const unmet = {
      frames: {
        home: {
          states: { quiet: {}, told: {} },
          layers: { on: button(0, 0, 'click → go to home') },
          lines: ['after 2 s in told → put this in quiet'],
        },
      },
    };
    expect([says('never-fires', unmet).length, says('unreachable-state', unmet).length]).toEqual([0, 1]);
    // A menu that is gone before the pointer has come to it; not one that it stays in.
    const menu = (around: Layers[string], inside: object, more: Layers = {}) => ({
      frames: {
        home: {
          states: { shut: { item: { hidden: true } }, open: {} },
          layers: { nav: around, ...more, item: { ...button(0, 80, 'click → go to shop'), ...inside } },
        },
        shop: back,
      },
    });
    const cues = ['hover → put this in open', 'leave → put this in shut'];
    expect(says('never-fires', menu(button(0, 0, ...cues), {}))).toEqual(['What it waits for happens in no state that can be reached.']);
    expect(
      says(
        'never-fires',
        menu({ type: 'group', at: [0, 0, 200, 200], lines: cues }, { in: 'nav' }, { tab: { in: 'nav', at: [0, 0, 100, 60], text: 'Go' } })
      )
    ).toEqual([]);
    // What is there only while a field has the focus is gone before it can be pressed.
    const typing = (cue: string) => ({
      frames: {
        home: {
          states: { rest: { item: { hidden: true } }, typing: {} },
          layers: {
            field: { type: 'field', at: [0, 0, 200, 60], field: { kind: 'text' }, lines: ['focus → put this in typing', cue] } as const,
            item: button(0, 80, 'click → go to shop'),
          },
        },
        shop: back,
      },
    });
    expect(says('never-fires', typing('blur → put this in rest'))).toHaveLength(1);
    expect(says('never-fires', typing('key Escape → put this in rest'))).toEqual([]);
    const cut = audit(compile(compose(pair({ up, late: button(200, 100, 'click → if n = 500 → go to shop') }, { variables }))), { maxStates: 50 });
    expect(cut.findings.filter(({ rule }) => rule === 'never-fires')).toEqual([]);
  });

  test('no-effect: what is so already whenever it fires; not what is so only at times, nor what is seen or heard outside', () => {
    const states = { day: {}, night: {} };
    const home = (...lines: string[]) =>
      says('no-effect', {
        variables: { n: number(4) },
        frames: { home: { states, layers: Object.fromEntries(lines.map((line, i) => [`b${i}`, button(0, i * 80, line)])) } },
      });
    expect(home('click → put this in day')).toEqual(['It fires, and changes nothing in any state that can be reached.']);
    expect(home('click → put this in day', 'click → put this in night')).toEqual([]);
    expect(home('click → set n to 4')).toHaveLength(1);
    expect(home('click → set n to n + 1')).toEqual([]);
    expect(home('click → show b0')).toHaveLength(1);
    expect(home('click → send tide')).toEqual([]);
    expect(home('click → open https://kittiwake.example/ in new tab')).toEqual([]);
    expect(home('click → go to home')).toHaveLength(1);
    expect(home('click → wait 500 ms; then set n to 5')).toEqual([]);
    // Where it leads by scrolling depends on whoever scrolled, as far as anything can be scrolled.
    const scrolled = (to: string, frame: Partial<Spec['frames'][string]>, around: object = {}, row = 40) =>
      says('no-effect', {
        frames: {
          home: {
            ...frame,
            layers: {
              on: button(0, 0, `click → scroll to ${to}`),
              list: { type: 'group', at: [0, 100, 200, 100], ...around },
              row: { type: 'text', text: 'Inne', in: 'list', at: [0, row, 200, 40] },
            },
          },
        },
      });
    for (const to of ['top', 'bottom', 'row']) expect([scrolled(to, {}).length, scrolled(to, { contentHeight: 2000 }).length]).toEqual([1, 0]);
    expect([scrolled('row', {}, { scroll: 'y' }).length, scrolled('row', {}, { scroll: 'y' }, 400).length]).toEqual([1, 0]);
    expect(scrolled('bottom', {}, { scroll: 'y' }, 400)).toHaveLength(1);
    // What is there as long as one presses is there.
    const held = (line: string) => {
      const on = { ...button(0, 0), lines: ['press → show note', line] };
      return says('no-effect', {
        frames: { home: { layers: { on, note: { type: 'text', text: 'Low tide', at: [0, 100, 100, 20], hidden: true } } } },
      });
    };
    expect(held('release → hide note')).toEqual([]);
    expect(held('release → show on')).toEqual(['It fires, and changes nothing in any state that can be reached.']);
  });

  test('endless-loop: threads that set each other off; not one that stops by itself', () => {
    const loop = (line: string) =>
      says('endless-loop', {
        variables: { a: { type: 'yes/no', initial: false }, b: { type: 'yes/no', initial: false } },
        frames: { home: { layers: { on: button(0, 0, 'click → set a to not(a)') }, lines: ['variable a → set b to not(b)', line] } },
      });
    expect(loop('variable b → set a to not(a)')).toEqual(['What threads of home set off goes on without end.']);
    // Bindings that read each other do the same.
    const bound = (x: string) => {
      const a = { ...button(0, 0, 'click → set n to n + 1'), when: { x } as const };
      const c = { ...button(0, 200), when: { x: 'a.x + n' } as const };
      return says('endless-loop', { variables: { n: { type: 'number', initial: 0, max: 2 } }, frames: { home: { layers: { a, c } } } });
    };
    expect([bound('c.x + 1'), bound('n')]).toEqual([['What threads of a set off goes on without end.'], []]);
    expect(loop('variable b → set a to true')).toEqual([]);
  });

  test('endless-loop: one that is stopped each time at something else is followed so far and no further, and that is said', () => {
    const down = button(0, 200, 'click → set n to n * 2 - 3');
    const layers = { on: button(0, 0, 'click → set n to n + 1'), off: button(0, 100, 'click → if n = 3 → go to shop'), down };
    const frames = { home: { layers, lines: ['variable n → set n to n + 1'] }, shop: back };
    const { findings, exploration } = audit(compile(compose({ variables: { n: number(0) }, frames })));
    expect(exploration.cut).toBe('not tried: what comes after more than 10 loops without end');
    expect(exploration.count).toBeLessThan(20);
    expect(findings.filter(({ rule }) => rule === 'endless-loop')).toHaveLength(1);
    expect(findings.filter(({ rule }) => rule === 'unreachable-frame' || rule === 'never-fires')).toEqual([]);
  });

  test('one-way: opened and never closed; not what closes by itself or by anything else, nor what only time brings', () => {
    const states = { shut: {}, open: {} };
    const home = (...lines: string[]) =>
      says('one-way', {
        frames: { home: { states, layers: Object.fromEntries(lines.map((line, i) => [`b${i}`, button(0, i * 80, line)])) }, shop: back },
      });
    expect(home('click → put this in open', 'click → go to shop')).toEqual([
      'home in open can be come to, and nothing leads back while its frame stays.',
    ]);
    expect(home('click → wait 1 s; put this in open', 'click → go to shop')).toHaveLength(1);
    expect(home('click → put this in open', 'click → put this in shut')).toEqual([]);
    expect(home('click → toggle this with open')).toEqual([]);
    expect(home('after 2 s → put this in open', 'click → go to shop')).toEqual([]);
    const gone = {
      frames: { home: { states, layers: { on: button(0, 0, 'click → put this in open') }, lines: ['after 3 s in open → put this in shut'] } },
    };
    expect(says('one-way', gone)).toEqual([]);
    const laid = (...lines: string[]) => ({
      frames: { home: { layers: { on: button(0, 0, 'click → lay over card at bottom') } }, card: { size: [390, 200] as const, lines } },
    });
    expect(says('one-way', laid())).toEqual(['card laid over can be come to, and nothing leads back while its frame stays.']);
    expect(says('one-way', laid('key Escape → lift'))).toEqual([]);
    // What leads on from what was opened is its end; what leads away sooner or later is not.
    const on = (line: string, ...lines: string[]) =>
      says('one-way', { frames: { home: { states, layers: { on: button(0, 0, line) }, lines }, shop: back } });
    expect(on('click → put this in open; wait 1 s; go to shop')).toEqual([]);
    expect(on('click → put this in open', 'after 2 s in open → go to shop')).toEqual([]);
    expect(on('click → put this in open', 'after 60 s → go to shop')).toHaveLength(1);
    const { frames } = laid('after 2 s → go to shop');
    expect(says('one-way', { frames: { ...frames, shop: back } })).toEqual([]);
    expect(
      says('one-way', { frames: { ...frames, card: { size: [390, 200] }, home: { ...frames.home, lines: ['after 60 s → go to shop'] }, shop: back } })
    ).toHaveLength(1);
  });

  describe('one-way: a panel that is brought up before buttons', () => {
    const shop = { layers: { back: button(0, 300, 'click → go to home') } };
    const panel = { at: [0, 0, 200, 100], hidden: true, hit: { how: 'block' } } as const;
    const spare = { type: 'yes/no', initial: false } as const;
    type Layers = Readonly<Record<string, PlacedSpec>>;
    const under = (line: string, more: Layers = {}): Layers => ({
      menu: button(0, 0, 'click → go to shop'),
      open: button(0, 200, line),
      panel,
      ...more,
    });
    const home = (layers: Layers, more: object = {}): ComposeSpec => ({ variables: { spare }, frames: { home: { ...more, layers }, shop } });
    const told = 'panel can be brought up, and nothing takes it away while its frame stays: menu lies behind it.';
    const bound = { panel: { ...panel, hidden: false, when: { shown: 'spare' } } };
    const close = (line: string): Layers => ({ close: button(0, 300, line) });

    test.each<[string, ComposeSpec]>([
      ['by a step', home(under('click → show panel'))],
      ['by a variable', home(under('click → set spare to true', bound))],
      [
        'with what lies in it',
        home({
          ...under('click → show panel'),
          panel: { type: 'group', at: panel.at, hidden: true },
          ground: { at: [0, 0, 200, 100], in: 'panel', hit: { how: 'block' } },
        }),
      ],
      [
        'also where a frame lies over all of it now and then',
        {
          frames: {
            home: { layers: under('click → show panel', { more: button(220, 0, 'click → lay over card at center') }) },
            card: { size: [390, 844], layers: { close: button(0, 300, 'click → lift') } },
            shop,
          },
        },
      ],
      ['after a while', home(under('click → wait 300 ms; show panel'))],
      [
        'in a part',
        {
          parts: { p: { size: [390, 400], layers: under('click → show panel') } },
          frames: { home: { layers: { P: { type: 'placement', part: 'p', at: [0, 0, 390, 400] } } }, shop },
        },
      ],
      ['by a sheet', { sheets: { bar: { layers: under('click → show panel') } }, frames: { home: { over: ['bar'], layers: {} }, shop } }],
    ])('is told %s', (_, spec) => expect(says('one-way', spec)).toEqual([told]));

    test.each<[string, ComposeSpec]>([
      ['where a step takes it away', home(under('click → show panel', close('click → hide panel')))],
      ['where the same press does', home(under('click → show or hide panel'))],
      ['where a variable does', home(under('click → set spare to true', { ...bound, ...close('click → set spare to false') }))],
      ['where time does', home(under('click → show panel; wait 2 s; hide panel'))],
      ['where it leads on by itself', home(under('click → show panel; wait 2 s; go to shop'))],
      ['where only time brings it', home(under('click → go to shop'), { lines: ['after 2 s → show panel'] })],
      ['where presses get through it', home(under('click → show panel', { panel: { ...panel, hit: { how: 'own' } } }))],
      ['where nothing lies behind it', home(under('click → show panel', { panel: { ...panel, at: [0, 400, 200, 100] } }))],
      ['where something of it can be pressed', home(under('click → show panel', { panel: { ...panel, at: [0, 0, 200, 30] } }))],
      ['where all ends', home(under('click → show panel'), { ending: true })],
      [
        'where what is around it is hidden',
        home({ ...under('click → show panel'), g: { type: 'group', at: panel.at }, panel: { ...panel, in: 'g' }, ...close('click → hide g') }),
      ],
      ['where it is moved away', home(under('click → show panel', close('click → tween y of panel to 500 · 300 ms')))],
      [
        'where it goes to and fro by itself',
        home(under('click → show panel'), {
          timeline: {
            length: 48,
            loop: true,
            tracks: [
              [
                'panel',
                'y',
                [
                  [0, 0],
                  [24, 500],
                  [47, 0],
                ],
              ],
            ],
          },
        }),
      ],
      ['where it can be dragged away', home(under('click → show panel', { panel: { ...panel, drag: { axis: 'y' } } }))],
      ['where the button comes out from behind it', home(under('click → show panel', close('click → tween y of menu to 400 · 300 ms')))],
      [
        'where the button can be scrolled out from behind it',
        home(under('click → show panel', { panel: { ...panel, pin: ['top'] } }), { contentHeight: 2000 }),
      ],
    ])('is let be %s', (_, spec) => expect(says('one-way', spec)).toEqual([]));

    test('says some of what lies behind it, and how many more', () => {
      const many = Object.fromEntries(Array.from({ length: 6 }, (_, i) => [`b${i}`, button(30 * i, 100, 'click → go to shop')]));
      const layers = { ...many, open: button(0, 200, 'click → show panel'), panel: { ...panel, at: [0, 0, 390, 190] as const } };
      expect(says('one-way', home(layers))[0]).toContain('b0, b1, b2 and 3 more lie behind it.');
    });
  });

  test('timer-race: due at one moment to different places; not at different ones, nor to the same', () => {
    const timed = (...lines: string[]) => says('timer-race', { frames: { home: { lines }, a: back, b: back } });
    expect(timed('after 2 s → go to a', 'after 2 s → go to b')).toEqual([
      'Two threads of home are due at the same moment, 2 s on, and lead to different places.',
    ]);
    expect(timed('after 2 s → go to a', 'after 3 s → go to b')).toEqual([]);
    expect(timed('after 2 s → go to a', 'after 2 s → go to a')).toEqual([]);
    // What is set decides where each leads: they race where both do, however late that is found.
    const set = (...lines: string[]) =>
      says('timer-race', {
        variables: { Fast: { type: 'yes/no', initial: false } },
        frames: { home: { layers: { on: button(0, 0, 'click → set Fast to true') }, lines }, a: back, b: back },
      });
    expect(set('after 2 s → if Fast = true → go to a; otherwise → go to b', 'after 2 s → go to b')).toHaveLength(1);
    expect(set('after 2 s → if Fast = true → go to a', 'after 2 s → if Fast = true → go to b')).toHaveLength(1);
    expect(set('after 2 s → if Fast = true → go to a', 'after 2 s → if Fast = false → go to b')).toEqual([]);
    expect(set('after 2 s → if Fast = true → go to a; otherwise → set Fast to true', 'after 2 s → go to a')).toEqual([]);
    // At 24 a second the label is come to after one second.
    const played = (...lines: string[]) =>
      says('timer-race', {
        frames: { home: { timeline: { length: 48, labels: { in: [0, 'go on'], out: [24, 'hold'] } }, lines }, a: back, b: back },
      });
    expect(played('label out → go to a', 'after 1 s → go to b')).toEqual([
      'Two threads of home are due at the same moment, 1 s on, and lead to different places.',
    ]);
    expect(played('label out → go to a', 'after 1 s → go to a')).toEqual([]);
    expect(played('label out → go to a', 'after 1100 ms → go to b')).toEqual([]);
  });

  test('media-hangs: it ends and nothing listens in a frame with no other way on; then it is no plain dead end', () => {
    const film = (more: object, lines: string[] = [], layers: Layers = {}) => ({
      frames: {
        home: { layers: { on: button(0, 0, 'click → go to deck') } },
        deck: { layers: { film: { type: 'video' as const, at: [0, 0, 300, 200] as const, media: { autoplay: true, ...more }, lines }, ...layers } },
      },
    });
    expect(says('media-hangs', film({}))).toEqual(['When film has ended nothing follows, and nothing else leads on from deck.']);
    expect(says('dead-end', film({}))).toEqual([]);
    expect(says('media-hangs', film({}, ['media ended → go to home']))).toEqual([]);
    expect(says('media-hangs', film({ loop: true }))).toEqual([]);
    expect(says('media-hangs', film({}, [], { out: button(0, 300, 'click → go to home') }))).toEqual([]);
  });

  test('stays-played: one clip that plays once beside one that starts over, where the frame is come to again', () => {
    const parts = { wave: { size: [100, 60] as const, timeline: { length: 24 } } };
    const wave = (y: number, reentry?: 'once' | 'go on') =>
      ({ type: 'placement', part: 'wave', at: [200, y, 100, 60], ...(reentry && { reentry }) }) as const;
    expect(says('stays-played', pair({ one: wave(0), two: wave(100, 'once') }, { parts }))).toEqual([
      'When home is come to again, two stays at its end while one starts over.',
    ]);
    expect(says('stays-played', pair({ one: wave(0), two: wave(100) }, { parts }))).toEqual([]);
    expect(says('stays-played', pair({ one: wave(0, 'once'), two: wave(100, 'once') }, { parts }))).toEqual([]);
    const rolling = { wave: { size: [100, 60] as const, timeline: { length: 24, loop: true } } };
    expect(says('stays-played', pair({ one: wave(0), two: wave(100, 'go on') }, { parts: rolling }))).toEqual([]);
  });

  test('hover-only and mouse-only: frames and threads that a finger, or the keyboard, never comes to', () => {
    const menu = { frames: { home: { layers: { on: { ...button(0, 0, 'hover → go to shop') } } }, shop: back } };
    expect(says('hover-only', menu)).toEqual(['Only hovering leads to shop; with a finger nobody gets there.']);
    expect(says('mouse-only', menu)).toEqual(['Only a pointer leads to shop; with the keyboard nobody gets there.']);
    expect(says('hover-only', pair({ tip: { ...button(200, 0, 'hover → go to shop') } }))).toEqual([]);
    const item = { ...button(0, 100, 'click → set n to 1'), hidden: true };
    const opened = {
      variables: { n: number(0) },
      frames: { home: { layers: { top: { at: [0, 0, 100, 60] as const, lines: ['hover → show item'] }, item } } },
    };
    expect(says('hover-only', opened)).toEqual(['What item does is got at only by hovering; with a finger nobody gets there.']);
    expect(says('mouse-only', { frames: { home: { lines: ['swipe left → go to shop'] }, shop: back } })).toHaveLength(1);
    // What hovering does by itself is meant where it only shows something, or a click leads there too.
    const doing = (...lines: string[]) => says('hover-only', pair({ tip: button(200, 0, ...lines) }));
    const link = (cue: string) => `${cue} → open https://kittiwake.example/`;
    const alone = ['What tip does is got at only by hovering; with a finger nobody gets there.'];
    expect(doing(link('hover'))).toEqual(alone);
    expect(doing(link('leave'))).toEqual(alone);
    expect(doing(link('hover'), link('click'))).toEqual([]);
    expect(doing('hover → start over')).toEqual(alone);
    expect(doing('hover → tween scale of tip to 1.1 · 100 ms', 'leave → tween scale of tip to 1 · 100 ms')).toEqual([]);
    const parts = { card: { size: [100, 60] as const, layers: { tip: button(0, 0, link('hover')) } } };
    const placed = (...lines: string[]) => says('hover-only', pair({ one: { part: 'card', at: [0, 100, 100, 60], lines } }, { parts }));
    expect(placed()).toEqual(alone);
    expect(placed(link('click'))).toEqual([]);
    const stuck = {
      frames: { home: { layers: { on: button(0, 0, 'click → go to shop') } }, shop: { layers: { out: button(0, 0, 'hover → go to home') } } },
    };
    expect(says('hover-only', stuck)).toEqual(['What out does is got at only by hovering; with a finger nobody gets there.']);
    expect(says('mouse-only', pair({}))).toEqual([]);
  });

  test('hurry: a second press that leads a step too far; not where a second one comes to the same', () => {
    const press = (line: string) => ({ variables: { n: number(0) }, frames: { home: { layers: { on: button(0, 0, line) } }, a: back, b: back } });
    expect(says('hurry', press('click → wait 800 ms; then go to next'))).toEqual([]);
    expect(says('hurry', press('click → set n to n + 1; then wait 800 ms; then go to a'))).toEqual([
      'Pressed again before what it started has ended, more is done than once.',
    ]);
    expect(says('hurry', press('click → wait 800 ms; then set n to 1; then go to a'))).toEqual([]);
  });
});

interface Globbing {
  glob: (patterns: readonly string[], options: { query: string; import: string; eager: true }) => Record<string, string>;
}
const texts = (import.meta as unknown as Globbing).glob(['./claims.test.ts', './kept.test.ts', './walk.test.ts'], {
  query: '?raw',
  import: 'default',
  eager: true,
});

test('every rule has a test of its own', () => {
  const text = Object.values(texts).join('');
  expect(rules.map(({ id }) => id).filter((id) => !tested.has(id) && !text.includes(id))).toEqual([]);
});
