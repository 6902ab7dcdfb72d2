import { describe, expect, test } from 'vitest';
import { compose, layerId as id, type ComposeSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { expand } from '../program/expand.ts';
import { liveRootsOf, valueOfField } from './environment.ts';
import { replay, start } from './run.ts';
import type { RunEvent } from './state.ts';

const click = (layer: string): RunEvent => ({ type: 'click', layer: id('home', layer) });

const lamp = { size: [60, 40] as const, states: { Off: {}, On: {} }, layers: { bulb: { at: [0, 0, 60, 40] as const } } };
const gull = {
  size: [60, 40] as const,
  timeline: { length: 40, labels: { Rise: [10, 'hold'], Fall: [20, 'hold'] } as const },
  layers: { wing: { at: [0, 0, 60, 40] as const } },
};

/** What an expression gives after some events, on a frame with a bit of everything. */
function told(expression: string, events: readonly RunEvent[] = [], more: Partial<ComposeSpec['frames'][string]> = {}) {
  const spec: ComposeSpec = {
    fps: 10,
    variables: {
      word: { type: 'text', initial: 'none' },
      sum: { type: 'number', initial: -1 },
      fact: { type: 'yes/no', initial: false },
    },
    parts: { Lamp: lamp, Gull: gull },
    frames: {
      home: {
        states: { Calm: {}, Storm: { tick: { hidden: true } } },
        variables: { own: { type: 'number', initial: 4 } },
        ...more,
        layers: {
          lamp: { type: 'placement', part: 'Lamp', at: [0, 0, 60, 40] },
          gull: { type: 'placement', part: 'Gull', at: [100, 0, 60, 40] },
          tick: { type: 'field', field: { kind: 'checkbox' }, at: [200, 0, 40, 40] },
          wind: { type: 'field', field: { kind: 'slider', min: 2, max: 9 }, at: [0, 60, 100, 40] },
          seats: { type: 'field', field: { kind: 'number' }, at: [0, 110, 100, 40] },
          who: { type: 'field', field: { kind: 'text' }, at: [0, 160, 100, 40] },
          held: { type: 'field', field: { kind: 'text', value: 'Ida' }, at: [0, 210, 100, 40] },
          card: { type: 'group', at: [0, 260, 100, 40] },
          face: { at: [7, 8, 100, 40], in: 'card' },
          shut: { type: 'group', at: [120, 260, 100, 40], hidden: true, disabled: true },
          inner: { at: [0, 0, 100, 40], in: 'shut' },
          storm: { at: [240, 260, 40, 40], lines: ['click → put this in Storm'] },
          on: { at: [240, 310, 40, 40], lines: ['click → put lamp in On'] },
          fall: { at: [240, 360, 40, 40], lines: ['click → play gull from Fall'] },
          move: { at: [240, 410, 40, 40], lines: ['click → move face by 10, 20'] },
          more: { at: [240, 460, 40, 40], lines: ['click → set own to own + 1'] },
          ask: { at: [300, 0, 40, 40], lines: [`click → ${expression}`] },
        },
      },
    },
  };
  const program = compile(compose(spec));
  const { run } = replay(program, start(program)!, [...events, click('ask')]);
  const { word, sum, fact } = run.variables;
  return { word, sum, fact };
}

describe('what expressions read of a run', () => {
  test('states, by their names: of what is placed, and of the frame itself', () => {
    expect(told('set word to lamp.state').word).toBe('Off');
    expect(told('set word to lamp.state', [click('on')]).word).toBe('On');
    expect(told('set word to home.state').word).toBe('Calm');
    expect(told('set word to home.state', [click('storm')]).word).toBe('Storm');
    expect(told('if lamp.state = "On" → set word to "lit"; otherwise → set word to "dark"').word).toBe('dark');
    expect(told('if lamp.state = "On" → set word to "lit"; otherwise → set word to "dark"', [click('on')]).word).toBe('lit');
    expect(told('set word to gull.state').word).toBe('');
  });

  test('sections, by their labels: none before the first, and none without a timeline', () => {
    expect(told('set word to gull.section').word).toBe('');
    expect(told('set word to gull.section', [{ type: 'wait', ms: 1100 }]).word).toBe('Rise');
    expect(told('set word to gull.section', [click('fall')]).word).toBe('Fall');
    expect(told('if gull.section = "Fall" → set sum to 1; otherwise → set sum to 2', [click('fall')]).sum).toBe(1);
    expect(told('set word to lamp.section').word).toBe('');
  });

  test('what stands in fields: what they begin with, else their least, nothing, or not ticked', () => {
    expect(told('set sum to wind.value').sum).toBe(2);
    expect(told('set sum to wind.value', [{ type: 'value', layer: id('home', 'wind'), value: 5 }]).sum).toBe(5);
    expect(told('set sum to seats.value').sum).toBe(0);
    expect(told('set word to who.value').word).toBe('');
    expect(told('set word to held.value').word).toBe('Ida');
    expect(told('set fact to tick.selected', [click('tick')]).fact).toBe(true);
    expect(told('set fact to tick.value', [click('tick')]).fact).toBe(true);
  });

  test('what is shown and enabled counts what is around it', () => {
    expect(told('set fact to face.shown').fact).toBe(true);
    expect(told('set fact to inner.shown').fact ?? false).toBe(false);
    expect(told('set fact to inner.enabled').fact ?? false).toBe(false);
    expect(told('set fact to face.enabled').fact).toBe(true);
    expect(told('set fact to tick.shown', [click('storm')]).fact ?? false).toBe(false);
  });

  test('where layers stand, in what they are in', () => {
    expect([told('set sum to face.x').sum, told('set sum to face.y').sum]).toEqual([7, 8]);
    expect([told('set sum to face.x', [click('move')]).sum, told('set sum to face.y', [click('move')]).sum]).toEqual([17, 28]);
  });

  test('variables of a scene, and the pad button that was pressed last', () => {
    expect(told('set sum to own', [click('more'), click('more')]).sum).toBe(6);
    expect(told('set sum to pad.button', [{ type: 'pad', button: 3 }]).sum).toBe(3);
  });
});

test('conditions of a pad button know it as the one that was pressed just now', () => {
  const lines = ['pad 1 → set n to 1', 'pad 2 → if pad.button = 1 → set n to 12; otherwise if pad.button = 2 → set n to 22'];
  const program = compile(compose({ variables: { n: { type: 'number', initial: 0 } }, frames: { home: { lines } } }));
  const { run } = replay(program, start(program, 'home')!, [
    { type: 'pad', button: 1 },
    { type: 'pad', button: 2 },
  ]);
  expect(run.variables['n']).toBe(22);
});

test('scenes on the screen stand from back to front: sheets under the frame, the frame, sheets over it, frames laid over', () => {
  const sheet = { layers: { dot: { at: [0, 0, 5, 5] as const } } };
  const piece = compose({
    sheets: { sea: sheet, bar: sheet },
    frames: {
      home: { over: ['bar'], under: ['sea'], layers: { open: { at: [50, 0, 40, 40], lines: ['click → lay over card at center'] } } },
      card: { size: [100, 100] },
    },
  });
  const program = compile(piece);
  const { run } = replay(program, start(program)!, [click('open')]);
  expect(liveRootsOf(program, run)).toEqual(['sea', 'home', 'bar', 'card']);
});

test('what is no field holds nothing', () => {
  const program = compile(compose({ frames: { home: { layers: { box: { at: [0, 0, 40, 40] } } } } }));
  const run = start(program)!;
  const node = expand(program, program.scenes.get('home')!).byKey.get(id('home', 'box'))!;
  expect(valueOfField(run.roots['home']!, node)).toBeUndefined();
});
