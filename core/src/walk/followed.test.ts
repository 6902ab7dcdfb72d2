import { expect, test } from 'vitest';
import { apply } from '../edit/apply.ts';
import { compose } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { update } from '../program/program.ts';
import { audit } from './audit.ts';
import { explore, exploring } from './explore.ts';

type Spec = Parameters<typeof compose>[0];

const button = (x: number, ...lines: string[]) => ({ at: [x, 0, 60, 60] as const, lines });

const choice = (...options: string[]) => ({ type: 'choice', options, initial: options[0]! }) as const;

const findings = (spec: Spec, rule: string) => audit(compile(compose(spec))).findings.flatMap((one) => (one.rule === rule ? one.sentence : []));

test('a state that a binding puts a placed part in is come to, and one that it never gives is not', () => {
  const lamp = { states: { dark: {}, lit: {}, flash: {} }, layers: { glass: { at: [0, 0, 40, 40] as const } } };
  const spec = (lines: string[], ...options: string[]): Spec => ({
    variables: { Mode: choice(...options) },
    parts: { Lamp: lamp },
    frames: { home: { layers: { on: button(0, ...lines), lamp: { part: 'Lamp', at: [100, 0, 40, 40], when: { state: 'Mode' } } } } },
  });
  const told = (lines: string[], ...options: string[]) => findings(spec(lines, ...options), 'unreachable-state').length;
  expect(told(['click → set Mode to "lit"', 'hover → set Mode to "flash"'], 'dark', 'lit', 'flash')).toBe(0);
  expect(told(['click → set Mode to "lit"'], 'dark', 'lit', 'flash')).toBe(1);
});

const gauges = (more = {}): Spec => ({
  variables: { Day: { type: 'number', initial: 0, min: 0, max: 30 }, Seats: { type: 'number', initial: 0, min: 0, max: 30 } },
  frames: {
    home: { layers: { on: button(0, 'click → go to trip') } },
    trip: {
      layers: {
        day: button(0, 'click → set Day to Day + 1'),
        seat: button(100, 'click → set Seats to Seats + 1'),
        back: button(200, 'click → go to home'),
        late: { at: [0, 200, 40, 40], when: { shown: 'Day > 20' } },
        full: { at: [100, 200, 40, 40], when: { shown: 'Seats > 20' } },
        ...more,
      },
    },
  },
});

test('what bindings of a frame read does not depend on each other because all of them are read when it opens', () => {
  const exploration = explore(compile(compose(gauges())));
  expect(exploration.cut).toBeNull();
  // 31 days and 31 seats, on two frames, and not 31 × 31.
  expect(exploration.count).toBeLessThan(300);
});

test('what depends on both is found where both are as they have to be', () => {
  const layers = { both: { at: [0, 300, 60, 60] as const, lines: ['click → go to far'], when: { shown: 'Day = 30 and Seats = 30' } } };
  const spec = gauges(layers);
  const exploration = explore(compile(compose({ ...spec, frames: { ...spec.frames, far: {} } })));
  expect([exploration.cut, exploration.reached.has('far')]).toEqual([null, true]);
});

test('a binding that gives something else after an edit is followed anew', () => {
  const spec = gauges({ both: { at: [0, 300, 60, 60] as const, lines: ['click → go to far'], when: { shown: 'Day > 40' } } });
  let program = compile(compose({ ...spec, frames: { ...spec.frames, far: {} } }));
  let going = exploring(program, null, 1e6);
  going.on(5000);
  expect(going.result().reached.has('far')).toBe(false);
  const day = [...program.piece.variables.values()].find(({ name }) => name === 'Day')!.id;
  for (const [shown, isReached] of [
    [`‹${day}› > 4`, true],
    [`‹${day}› > 40`, false],
    [`‹${day}› = 30`, true],
  ] as const) {
    const edited = apply(program.piece, [{ op: 'set', table: 'layers', id: 'trip_both', path: ['bindings', 'shown'], value: shown }]);
    if (!edited.ok) throw new Error('It cannot be edited.');
    program = update(program, edited.value.piece, edited.value.touched);
    going = exploring(program, going, 1e6);
    going.on(5000);
    expect(going.result().reached.has('far')).toBe(isReached);
  }
});
