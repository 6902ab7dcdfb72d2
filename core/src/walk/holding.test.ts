import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec, type SceneSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { audit, routeEnd } from './audit.ts';
import { routeWords } from './event-words.ts';

const box = (x: number, ...lines: string[]) => ({ at: [x, 10, 80, 60] as const, text: 'Go', lines });

/** What is claimed of reaching things in a piece of a frame and of one where it may lead, with how that is reached, if it is. */
function walked(home: SceneSpec, more: Partial<ComposeSpec> = {}) {
  const { frames = {}, ...rest } = more;
  const program = compile(compose({ ...rest, frames: { home, far: { layers: { back: box(10, 'click → go to home') } }, ...frames } }));
  const { exploration, findings } = audit(program);
  const at = exploration.reached.get('far');
  const route = at === undefined ? null : exploration.routeTo(at);
  for (const finding of findings) if (finding.route) expect(routeEnd(program, finding), finding.sentence).not.toBeNull();
  return {
    cut: exploration.cut,
    way: route && routeWords(program, 'home', route),
    claims: findings
      .filter(({ rule }) => rule === 'never-fires' || rule === 'unreachable-frame')
      .map(({ rule }) => rule)
      .sort(),
  };
}

describe('what is pressed and held', () => {
  test('is held for a time, and let go', () => {
    const states = { Up: {}, Down: {} };
    const lines = ['after 1 s in Down → go to far'];
    expect(walked({ states, lines, layers: { a: box(10, 'press → put this in Down', 'release → put this in Up') } })).toEqual({
      cut: null,
      way: 'home: press a and hold, wait 1000 ms',
      claims: [],
    });
    // Without the press nothing is ever down.
    expect(walked({ states, lines, layers: { a: box(10, 'release → put this in Up') } }).claims).toContain('unreachable-frame');
  });

  test('shows what is there only so long: keys come to it meanwhile, a second press does not', () => {
    const variables = { on: { type: 'yes/no', initial: false } } as const;
    const a = box(10, 'press → set on to true', 'release → set on to false');
    const word = (line: string) => ({ ...box(110, line), when: { shown: 'on' } });
    expect(walked({ layers: { a, b: word('key k → go to far') } }, { variables })).toEqual({
      cut: null,
      way: 'home: press a and hold, press k',
      claims: [],
    });
    expect(walked({ layers: { a, b: word('click → go to far') } }, { variables }).claims).toEqual(['never-fires', 'unreachable-frame']);
  });

  test('is let go elsewhere, so that it is no click', () => {
    const variables = { n: { type: 'number', initial: 0, min: 0, max: 3 } } as const;
    const counted = box(10, 'press → set n to n + 1', 'click → set n to 0');
    const lines = ['key k → if n = 2 → go to far'];
    const way = 'home: press a and hold, let go elsewhere, press a and hold, press k';
    expect(walked({ layers: { a: counted }, lines }, { variables })).toEqual({ cut: null, way, claims: [] });
    expect(walked({ layers: { a: box(10, 'click → set n to 0') }, lines }, { variables }).claims).toEqual(['never-fires', 'unreachable-frame']);
  });

  test('may be gone from under the finger: what it laid over the frame stays when it is let go elsewhere, and closes beside', () => {
    const sure = { size: [300, 100] as const, layers: { yes: box(10, 'click → go to far') } };
    const home = { layers: { a: { ...box(10, 'press → lay closing over sure at bottom') } } };
    expect(walked(home, { size: [300, 600], frames: { sure } })).toEqual({ cut: null, way: 'home: press a and hold, click yes', claims: [] });
  });

  test('is held until it is a long press, and on; before that it can be let go, and after that it is no click', () => {
    const states = { Up: {}, Down: {} };
    const a = (...lines: string[]) => ({ a: box(10, 'press → put home in Down', 'release → put home in Up', ...lines) });
    const after = (ms: number, ...lines: string[]) => walked({ states, lines: [`after ${ms} ms in Down → go to far`], layers: a(...lines) });
    expect(after(2000, 'long press 500 ms → send held').way).toBe('home: press a and hold, wait 500 ms, wait 1500 ms');
    expect(after(300, 'long press 500 ms → send held').way).toBe('home: press a and hold, wait 300 ms');
    expect(after(2000, 'long press 500 ms → put home in Up')).toMatchObject({ way: null, claims: ['never-fires', 'unreachable-frame'] });
    const spent = { n: { type: 'number', initial: 0 } } as const;
    const counted = a('long press 500 ms → set n to 1', 'click → if n = 1 → go to far');
    expect(walked({ states, layers: counted }, { variables: spent }).way).toMatch(/^home: .*, click a$/);
    const back = a('long press 500 ms → set n to 1', 'click → if n = 1 → go to far; otherwise → set n to 2');
    const reset = { states, layers: back, lines: ['key k → set n to 0', 'variable n → if n = 2 → set n to 0'] };
    expect(walked(reset, { variables: spent }).claims).toEqual([]);
  });

  test('is no more than a press where what it does only moves', () => {
    const events = (lines: string[]) => {
      const program = compile(compose({ frames: { home: { layers: { a: box(10, ...lines) } } } }));
      return audit(program).exploration.states.length;
    };
    expect(events(['press → tween scale of a to 0.9', 'release → tween scale of a to 1'])).toBe(1);
    expect(events(['press → send down', 'release → send up'])).toBe(2);
    expect(events(['press → send down', 'release → send up', 'long press 600 ms → send held'])).toBe(3);
  });

  test('may be taken from under the pointer by its press look: to go after it is not tried, where a press is waited for', () => {
    const fleeing = (y: number, ...lines: string[]) => ({ ...box(10, 'click → go to far', ...lines), looks: { press: { pose: { y } } } });
    const far = (y: number, ...lines: string[]) => walked({ layers: { a: fleeing(y, ...lines) } });
    const untried = 'not tried: going after a, which its press look takes from under the pointer';
    expect(far(200, 'press → send down')).toEqual({ cut: untried, way: null, claims: [] });
    for (const one of [far(14, 'press → send down'), far(200)]) expect(one).toMatchObject({ cut: null, way: 'home: click a', claims: [] });
  });

  test('may be in something that waits for the press: then that is not tried either', () => {
    const a = { at: [10, 10, 60, 60] as const, looks: { press: { pose: { y: 200 } } } };
    const lines = ['press → send down', 'click → go to far'];
    const untried = 'not tried: going after a, which its press look takes from under the pointer';
    const layers = { all: { type: 'group' as const, at: [0, 0, 90, 90] as const, lines }, a: { ...a, in: 'all' } };
    expect(walked({ layers })).toEqual({ cut: untried, way: null, claims: [] });
    const parts = { Knob: { size: [90, 90] as const, layers: { a } } };
    expect(walked({ layers: { knob: { type: 'placement', part: 'Knob', at: [0, 0, 90, 90], lines } } }, { parts })).toMatchObject({
      cut: untried,
      claims: [],
    });
  });

  test('on the ground of a frame is held as well', () => {
    const states = { Up: {}, Down: {} };
    const lines = ['press → put this in Down', 'release → put this in Up', 'key k → if home.state = "Down" → go to far'];
    expect(walked({ states, lines })).toEqual({ cut: null, way: 'home: press the frame and hold, press k', claims: [] });
  });
});

describe('something in a layer that takes what is done there', () => {
  test('on a sheet behind a frame, which only its layers get at, however small they are', () => {
    const bar = (at: readonly [number, number, number, number]) => ({
      layers: { knob: { type: 'field' as const, at, field: { kind: 'choice' as const, options: ['Skarra'] } } },
      lines: ['click → go to far'],
    });
    const home = { under: ['bar'], layers: { top: box(200, 'click → send top') } };
    expect(walked(home, { sheets: { bar: bar([64, 245, 9, 9]) } })).toMatchObject({ way: 'home: click the ground of bar', claims: [] });
    expect(walked(home, { sheets: { bar: bar([210, 20, 9, 9]) } }).claims).toEqual(['never-fires', 'unreachable-frame']);
  });

  test('on a sheet that waits for it: a double click on what itself waits for a click', () => {
    const bar = { layers: { tab: box(10, 'click → send tab') }, lines: ['double click → go to far'] };
    expect(walked({ over: ['bar'] }, { sheets: { bar } })).toMatchObject({ way: 'home: double-click the ground of bar', claims: [] });
  });

  test('in its middle: beside that the layer itself is pressed', () => {
    const group = (disabled: boolean) => ({
      states: { Off: {}, On: {} },
      layers: {
        card: { type: 'group' as const, at: [10, 10, 200, 200] as const, lines: ['click → go to far'] },
        ground: { in: 'card', at: [0, 0, 200, 200] as const },
        star: { in: 'card', at: [80, 80, 44, 44] as const, lines: ['click → next state around'], ...(disabled && { disabled }) },
      },
    });
    for (const disabled of [false, true]) expect(walked(group(disabled)).way).toBe('home: click card');
  });

  test('of a part, that waits for what its placement waits for as well: each is pressed where it takes it', () => {
    const part = (at: readonly [number, number, number, number]) => ({
      size: [200, 200] as const,
      states: { Off: {}, On: {} },
      layers: { plate: { at, looks: { hover: { style: { fill: '#ffffff' } } } } },
      lines: ['click → put this in On'],
    });
    const home = { layers: { card: { type: 'placement' as const, part: 'Card', at: [10, 10, 200, 200] as const, lines: ['click → go to far'] } } };
    expect(walked(home, { parts: { Card: part([40, 40, 120, 120]) } })).toMatchObject({ way: 'home: click card', claims: [] });
    expect(walked(home, { parts: { Card: part([0, 0, 200, 200]) } })).toMatchObject({ way: null, claims: ['never-fires', 'unreachable-frame'] });
  });

  test('of a part in a part, that only something inside of the inner one gets at', () => {
    const Seat = { size: [100, 100] as const, layers: { plate: { at: [20, 20, 40, 40] as const, drag: { axis: 'x' as const } } } };
    const row = (...lines: string[]) => ({
      size: [200, 200] as const,
      layers: { seat: { part: 'Seat', at: [40, 40, 100, 100] as const, lines } },
      lines: ['click → send row'],
    });
    const home = {
      layers: { row: { type: 'placement' as const, part: 'Row', at: [10, 10, 200, 200] as const, lines: ['click → go to home'] } },
      lines: ['signal row → go to far'],
    };
    const fired = (...lines: string[]) => {
      const { exploration } = audit(compile(compose({ parts: { Seat, Row: row(...lines) }, frames: { home, far: {} } })));
      return exploration.fired.has('Row-0');
    };
    expect([fired(), fired('click → send seat')]).toEqual([true, false]);
  });

  test('over all of it: then nothing else is, and that is said', () => {
    const layers = {
      card: { type: 'group' as const, at: [10, 10, 200, 200] as const, lines: ['click → go to far'] },
      star: { in: 'card', at: [0, 0, 200, 200] as const, lines: ['click → next state around'] },
    };
    expect(walked({ states: { Off: {}, On: {} }, layers }).claims).toEqual(['never-fires', 'unreachable-frame']);
  });
});
