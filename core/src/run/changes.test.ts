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
