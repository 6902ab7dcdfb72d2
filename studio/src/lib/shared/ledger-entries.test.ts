import { expect, test } from 'vitest';
import { advance, begin, compile, type RunEvent } from '@zany/core';
import { compose, layerId as id, type ComposeSpec } from '@zany/core/testing';
import { entriesOf, withEntries, type Entry } from './ledger-entries';

const spec: ComposeSpec = {
  frames: {
    home: {
      layers: {
        terms: { type: 'field', field: { kind: 'checkbox' }, at: [0, 0, 60, 40] },
        book: { at: [0, 50, 300, 40], when: { enabled: 'terms.selected' }, lines: ['click → go to pay'] },
        row: { at: [0, 100, 300, 40], lines: ['swipe left → send it', 'long press 500 ms → send it', 'double click → send it'] },
        knob: { at: [0, 150, 40, 40], drag: { axis: 'x' }, lines: ['drop → send it'] },
        plain: { at: [0, 200, 40, 40] },
        name: { at: [0, 250, 100, 40], type: 'field', field: { kind: 'text' } },
        seats: { at: [0, 300, 100, 40], type: 'field', field: { kind: 'number' } },
      },
      lines: ['pad 3 → send it'],
    },
    pay: {},
  },
};

function play(...events: RunEvent[]): readonly Entry[] {
  const program = compile(compose(spec));
  let { run } = begin(program)!;
  let ledger: readonly Entry[] = [];
  for (const event of events) {
    const next = advance(program, run, event);
    ledger = withEntries(ledger, entriesOf(program, run, next.run, next.reports));
    ({ run } = next);
  }
  return ledger;
}

const at = (type: 'press' | 'release' | 'move', x: number, y: number): RunEvent => ({ type, x, y });

test('everything that changes is told with its cause, and is no failure', () => {
  const [entry, ...more] = play({ type: 'click', layer: id('home', 'terms') });
  expect(more).toEqual([]);
  expect(entry).toMatchObject({ headline: 'clicked terms', changes: ['terms ticked', 'book enabled'] });
});

test('what was done is called by its name, whichever way it was made', () => {
  const said = (...events: RunEvent[]) => play(...events)[0]?.headline;
  expect(said(at('press', 250, 110), at('release', 20, 110))).toBe('swiped left on row');
  expect(said(at('press', 250, 110), { type: 'wait', ms: 700 })).toBe('held row');
  expect(said({ type: 'swipe', layer: id('home', 'row'), direction: 'left' })).toBe('swiped left on row');
  expect(said({ type: 'double-click', layer: id('home', 'row') })).toBe('double-clicked row');
  expect(said(at('press', 20, 170), at('move', 90, 170), at('release', 90, 170))).toBe('dropped knob');
  expect(said({ type: 'click', layer: id('home', 'plain') })).toBe('clicked plain');
});

test('a digit that is a pad button is told as that alone, whether somebody waits for it or not', () => {
  const digit = (n: number): RunEvent[] => [
    { type: 'key', key: String(n) },
    { type: 'pad', button: n },
  ];
  expect(play(...digit(3)).map(({ headline, whyNot }) => [headline, whyNot.length])).toEqual([['pressed pad button 3', 0]]);
  expect(play(...digit(4)).map(({ headline, whyNot }) => [headline, whyNot.length])).toEqual([['pressed pad button 4', 1]]);
  expect(play({ type: 'key', key: 'x' }).map(({ headline }) => headline)).toEqual(['pressed x']);
});

test('what is typed into a field without threads is told once, as it stands at last', () => {
  const type = (layer: string, value: string | number): RunEvent => ({ type: 'value', layer: id('home', layer), value });
  const [again, seats, name, ...more] = play(
    type('name', 'I'),
    type('name', 'Id'),
    type('name', 'Ida'),
    type('seats', 2),
    type('name', 'Ida M'),
    type('name', 'Ida M')
  );
  expect(more).toEqual([]);
  expect(name).toMatchObject({ headline: 'put Ida into name', changes: ['name holds Ida'] });
  expect(seats).toMatchObject({ changes: ['seats holds 2'] });
  expect(again).toMatchObject({ changes: ['name holds Ida M'] });
});
