import { expect, test } from 'vitest';
import { compose, layerId as id, type ComposeSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { changesBetween } from './changes.ts';
import { advance, start } from './run.ts';
import type { RunEvent } from './state.ts';

const spec: ComposeSpec = {
  variables: { seats: { type: 'number', initial: 1, min: 0, max: 9 } },
  frames: {
    home: {
      states: { Calm: {}, Storm: {} },
      layers: {
        terms: { type: 'field', field: { kind: 'checkbox' }, at: [0, 0, 40, 40] },
        book: { at: [0, 50, 80, 40], when: { enabled: 'terms.selected' }, lines: ['click → go to pay'] },
        more: { at: [0, 100, 80, 40], lines: ['click → set seats to seats + 1; put this in Storm; hide note'] },
        note: { at: [0, 150, 80, 40] },
        nothing: { at: [0, 200, 80, 40] },
        who: { type: 'field', field: { kind: 'text' }, at: [0, 250, 80, 40] },
      },
    },
    pay: {},
  },
};

/** Plays a piece from its start: gives what each event changes. */
function following(piece: ComposeSpec): (event: RunEvent) => string[] {
  const program = compile(compose(piece));
  let run = start(program)!;
  return (event) => {
    const before = run;
    ({ run } = advance(program, run, event));
    return changesBetween(program, before, run);
  };
}

test('says what an event has changed, and what followed from it', () => {
  const after = following(spec);
  expect(after({ type: 'click', layer: id('home', 'nothing') })).toEqual([]);
  expect(after({ type: 'click', layer: id('home', 'terms') })).toEqual(['terms ticked', 'book enabled']);
  expect(after({ type: 'value', layer: id('home', 'who'), value: 'Ida' })).toEqual(['who holds Ida']);
  expect(after({ type: 'click', layer: id('home', 'more') })).toEqual(['seats 1 → 2', 'home in Storm', 'note hidden']);
  expect(after({ type: 'click', layer: id('home', 'terms') })).toEqual(['terms unticked', 'book disabled']);
  after({ type: 'click', layer: id('home', 'terms') });
  expect(after({ type: 'click', layer: id('home', 'book') })).toEqual(['home → pay']);
});

test('says which section of a timeline is come to, of a frame and of what is placed in it', () => {
  const after = following({
    parts: {
      Gull: { size: [40, 40], timeline: { length: 20, labels: { Rise: [0, 'hold'], Fall: [10, 'hold'] } }, layers: { wing: { at: [0, 0, 9, 9] } } },
    },
    frames: {
      home: {
        timeline: { length: 40, labels: { Ebb: [0, 'go on'], Flood: [20, 'hold'] } },
        layers: {
          gull: { type: 'placement', part: 'Gull', at: [0, 0, 40, 40] },
          next: { at: [0, 50, 40, 40], lines: ['click → play next section'] },
          fall: { at: [0, 100, 40, 40], lines: ['click → play next section of gull'] },
        },
      },
    },
  });
  expect(after({ type: 'wait', ms: 100 })).toEqual([]);
  expect(after({ type: 'click', layer: id('home', 'next') })).toEqual(['home at Flood']);
  expect(after({ type: 'click', layer: id('home', 'fall') })).toEqual(['gull at Fall']);
  expect(after({ type: 'click', layer: id('home', 'next') })).toEqual(['home at Ebb']);
  expect(after({ type: 'wait', ms: 1000 })).toEqual(['home at Flood']);
});

test('says what is laid over and lifted, with the frames by their names', () => {
  const open = (name: string, at: string) => ({ at: [0, at === 'top' ? 100 : 150, 40, 40] as const, lines: [`click → lay over ${name} at ${at}`] });
  const after = following({
    size: [390, 844],
    frames: {
      home: { layers: { one: open('card', 'top') } },
      card: {
        size: [200, 80],
        layers: { two: { at: [0, 0, 40, 40], lines: ['click → lay over note at bottom'] } },
      },
      note: { size: [200, 80], layers: { away: { at: [0, 0, 40, 40], lines: ['click → lift'] } } },
    },
  });
  expect(after({ type: 'click', layer: id('home', 'one') })).toEqual(['card laid over']);
  expect(after({ type: 'click', layer: id('card', 'two') })).toEqual(['note laid over']);
  expect(after({ type: 'click', layer: id('note', 'away') })).toEqual(['note lifted']);
});

test('says of a placement which state its part is in, of a switch that it is ticked, and of nothing that stays as it is', () => {
  const after = following({
    variables: { seats: { type: 'number', initial: 1 } },
    parts: { Lamp: { size: [40, 40], states: { Off: {}, On: {} }, layers: { glow: { at: [0, 0, 9, 9] } } } },
    frames: {
      home: {
        variables: { own: { type: 'number', initial: 1 } },
        layers: {
          lamp: { type: 'placement', part: 'Lamp', at: [0, 0, 40, 40] },
          light: { at: [0, 50, 40, 40], lines: ['click → put lamp in On'] },
          dim: { at: [0, 100, 40, 40], lines: ['click → put lamp in Off'] },
          wind: { type: 'field', field: { kind: 'switch' }, at: [0, 150, 40, 40] },
          pick: { at: [0, 200, 40, 40], lines: ['click → select this'] },
          same: { at: [0, 250, 40, 40], lines: ['click → set seats to 1; set own to 2'] },
          show: { at: [0, 300, 40, 40], lines: ['click → show note'] },
          note: { at: [0, 350, 40, 40], hidden: true },
        },
      },
    },
  });
  expect(after({ type: 'click', layer: id('home', 'light') })).toEqual(['lamp in On']);
  expect(after({ type: 'click', layer: id('home', 'dim') })).toEqual(['lamp in Off']);
  expect(after({ type: 'click', layer: id('home', 'wind') })).toEqual(['wind ticked']);
  expect(after({ type: 'click', layer: id('home', 'pick') })).toEqual(['pick selected']);
  expect(after({ type: 'click', layer: id('home', 'same') })).toEqual([]);
  expect(after({ type: 'click', layer: id('home', 'show') })).toEqual(['note shown']);
});
