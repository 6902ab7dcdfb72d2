import { describe, expect, it } from 'vitest';
import { compose, layerId } from '../compose/compose.ts';
import { beginsBinding, bindingWords, parseBinding, printBinding } from './binding.ts';
import { completions } from './complete.ts';
import { parseLine } from './line.ts';
import { scopeOf, writeNamed, writtenNames } from './scope.ts';

const piece = compose({
  variables: { Seats: { type: 'number', initial: 3 }, Open: { type: 'yes/no', initial: false } },
  frames: {
    home: {
      layers: {
        Terms: { type: 'field', field: { kind: 'checkbox' } },
        'Day tab': { selected: false },
        Pay: {},
      },
    },
  },
});
const scope = scopeOf(piece, 'home', layerId('home', 'Pay'));

describe('bindings as lines', () => {
  it('are read and printed back', () => {
    for (const line of [
      'enabled when Terms.selected',
      'shown when Seats > 2 and not(Open)',
      'x is Seats * 40 + 2',
      'selected when `Day tab`.selected',
    ]) {
      const parsed = parseBinding(line, scope);
      expect(parsed.ok && printBinding(parsed.value, scope)).toBe(line.replaceAll('`Day tab`', 'Day tab'));
    }
    expect(Object.values(bindingWords).every((line) => beginsBinding(line))).toBe(true);
    expect(beginsBinding('hover → go to home')).toBe(false);
  });

  it('say where they are wrong', () => {
    const parsed = parseBinding('enabled when Trems.selected', scope);
    expect(parsed.ok).toBe(false);
    expect(!parsed.ok && parsed.error.column).toBe(14);
  });

  it('are offered whole for what can be selected here', () => {
    expect(completions('en', scope).map(({ word }) => word)).toEqual(
      expect.arrayContaining(['enabled when Terms.selected', 'enabled when Day tab.selected', 'enabled when Open'])
    );
    expect(completions('enabled when T', scope).map(({ line }) => line)).toContain('enabled when Terms.selected');
    expect(completions('en', scopeOf(piece, 'home')).some(({ word }) => word.startsWith('enabled when'))).toBe(false);
  });
});

it('a step on a placement that names nothing means the scene it stands in, a cue the placement', () => {
  const nested = compose({
    parts: { Icon: { states: { Bars: {}, Cross: {} } } },
    frames: { home: { states: { Shut: {}, Open: {} }, layers: { icon: { type: 'placement', part: 'Icon' } } } },
  });
  const within = scopeOf(nested, 'home', layerId('home', 'icon'));
  expect(parseLine('click → toggle this with Open', within).ok).toBe(true);
  expect(parseLine('click → toggle this with Cross', within).ok).toBe(false);
  expect(parseLine('click → toggle icon with Cross', within).ok).toBe(true);
  expect(parseLine('after 2 s in Cross → put this in Shut', within).ok).toBe(true);
  expect(parseLine('after 2 s in Shut → put this in Shut', within).ok).toBe(false);
});

it('names are written with their number where several have them, in quotes where they could be taken for something else', () => {
  const things = ['Pay', 'Pay', 'Pay in cash', 'next', 'a; b', 'Boats to Skarra', 'Boats'].map((name, i) => ({ id: `${i}`, name }));
  for (const reserved of [[], ['in ', 'to '], ['next']])
    expect(writtenNames(things, reserved)).toEqual(things.map(({ id }) => writeNamed(things, id, reserved)));
  const written = (...reserved: string[]) => writtenNames(things, reserved).join(' | ');
  expect(written()).toBe('Pay | Pay #2 | Pay in cash | next | "a; b" | Boats to Skarra | Boats');
  expect(written('in ', 'to ')).toBe('"Pay" | "Pay" #2 | Pay in cash | next | "a; b" | Boats to Skarra | "Boats"');
  expect(written('next')).toBe('Pay | Pay #2 | Pay in cash | "next" | "a; b" | Boats to Skarra | Boats');
  expect([writeNamed(things, 'gone'), writeNamed(things, null)]).toEqual(['?gone', '?']);
});
