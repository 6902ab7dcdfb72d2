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

test('says what an event has changed, and what followed from it', () => {
  const program = compile(compose(spec));
  let run = start(program)!;
  const after = (event: RunEvent): string[] => {
    const next = advance(program, run, event);
    const changes = changesBetween(program, run, next.run);
    run = next.run;
    return changes;
  };
  expect(after({ type: 'click', layer: id('home', 'nothing') })).toEqual([]);
  expect(after({ type: 'click', layer: id('home', 'terms') })).toEqual(['terms ticked', 'book enabled']);
  expect(after({ type: 'value', layer: id('home', 'who'), value: 'Ida' })).toEqual(['who holds Ida']);
  expect(after({ type: 'click', layer: id('home', 'more') })).toEqual(['seats 1 → 2', 'home in Storm', 'note hidden']);
  expect(after({ type: 'click', layer: id('home', 'terms') })).toEqual(['terms unticked', 'book disabled']);
  after({ type: 'click', layer: id('home', 'terms') });
  expect(after({ type: 'click', layer: id('home', 'book') })).toEqual(['home → pay']);
});
