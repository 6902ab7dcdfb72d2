import { describe, expect, test } from 'vitest';
import { compose, layerId, type ComposeSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { explore } from '../walk/explore.ts';
import { replay, start } from './run.ts';
import type { RunEvent } from './state.ts';

/** What is easily got wrong and seldom seen: each of these fails where the engine or the explorer does the likely other thing. */

const after = (spec: ComposeSpec, ...events: RunEvent[]) => {
  const program = compile(compose(spec));
  return replay(program, start(program)!, events);
};

describe('what follows from something inside the piece', () => {
  test('is decided by what is so when it happens, not by what was so before the event that led to it', () => {
    const { run } = after(
      {
        variables: { seats: { type: 'number', initial: 0 }, said: { type: 'text', initial: '' } },
        frames: {
          home: {
            layers: { more: { at: [0, 0, 40, 40], lines: ['click → set seats to seats + 1'] } },
            lines: ['variable seats → if seats > 0 → set said to "some"; otherwise → set said to "none"'],
          },
        },
      },
      { type: 'click', layer: layerId('home', 'more') }
    );
    expect(run.variables['said']).toBe('some');
  });
});

describe('telling runs apart', () => {
  test('what waits for its time counts: one press leads on at once, the other after the timer that it starts', () => {
    const program = compile(
      compose({
        frames: {
          home: {
            states: { Calm: {}, Storm: {} },
            layers: { stir: { at: [0, 0, 40, 40], lines: ['click → put this in Storm'] } },
            lines: ['after 2 s in Storm → go to wreck'],
          },
          wreck: {},
        },
      })
    );
    const exploration = explore(program);
    expect([...exploration.reached.keys()]).toEqual(['home', 'wreck']);
    expect(exploration.routeTo(exploration.reached.get('wreck')!)).toEqual([
      { type: 'click', layer: 'home_stir' },
      { type: 'wait', ms: 2000 },
    ]);
  });

  test('the same frame before and after its timer has fired is two states', () => {
    const program = compile(
      compose({ frames: { home: { layers: { a: { at: [0, 0, 40, 40], lines: ['click → hide a'] } }, lines: ['after 1 s → send off'] } } })
    );
    const exploration = explore(program);
    expect(exploration.states.length).toBe(4);
    const waits = exploration.edges.states.flatMap((at) => exploration.edges.of(at)).filter(({ event }) => event.type === 'wait');
    expect(waits.map(({ event }) => event)).toEqual([
      { type: 'wait', ms: 1000 },
      { type: 'wait', ms: 1000 },
    ]);
  });
});

describe('dragging', () => {
  test('is tried: what only a drag leads to is reached', () => {
    const program = compile(
      compose({
        frames: {
          home: {
            layers: {
              basket: { at: [200, 200, 80, 80], hit: { how: 'block' } },
              fish: { at: [0, 0, 40, 40], drag: { axis: 'both' }, lines: ['drop on basket → go to full'] },
            },
          },
          full: {},
        },
      })
    );
    const exploration = explore(program);
    expect(exploration.reached.has('full')).toBe(true);
    expect(exploration.routeTo(exploration.reached.get('full')!).map(({ type }) => type)).toEqual(['drag']);
  });

  test('that leads elsewhere as it begins ends with it', () => {
    const { run } = after(
      {
        frames: {
          home: {
            layers: {
              knob: {
                at: [0, 0, 40, 40],
                drag: { axis: 'x', bounds: { left: 0, right: 90, top: 0, bottom: 0 } },
                lines: ['drag start → go to other'],
              },
            },
          },
          other: {},
        },
      },
      { type: 'drag', layer: layerId('home', 'knob'), dx: 60, dy: 0 }
    );
    expect([run.frame, run.pressed]).toEqual(['other', null]);
  });
});

describe('a section that goes on at the end of its timeline', () => {
  const piece = (loop: boolean): ComposeSpec => ({
    frames: {
      home: {
        timeline: { length: 24, loop, labels: { Ebb: [0, 'go on'], Flood: [12, 'go on'] } },
        lines: ['label Ebb → send round'],
      },
    },
  });
  test('begins again where the timeline loops, and holds where it does not', () => {
    const rounds = (loop: boolean) =>
      after(piece(loop), { type: 'wait', ms: 3500 }).reports.filter(({ fired }) => fired.some(({ thread }) => thread === 'home-0')).length;
    expect(rounds(true)).toBe(3);
    expect(rounds(false)).toBe(0);
    const { run } = after(piece(false), { type: 'wait', ms: 3500 });
    expect(run.roots['home']!.heads['']).toMatchObject({ at: 23, playing: false });
  });
});

describe('clicks, hovering and focus as whole events', () => {
  const spec: ComposeSpec = {
    variables: { n: { type: 'number', initial: 0 } },
    frames: {
      home: {
        layers: {
          a: { at: [0, 0, 40, 40], lines: ['double click → set n to n + 100', 'click → set n to n + 1'] },
          b: { at: [0, 60, 40, 40], lines: ['hover → set n to n + 1'] },
          c: { at: [0, 120, 40, 40], lines: ['focus → set n to n + 1'] },
        },
      },
    },
  };
  const n = (...events: RunEvent[]) => after(spec, ...events).run.variables['n'];
  const [a, b, c] = ['a', 'b', 'c'].map((name) => layerId('home', name)) as [string, string, string];

  test('two clicks are no double click, whatever came before', () => {
    expect(n({ type: 'click', layer: a }, { type: 'click', layer: a })).toBe(2);
    expect(n({ type: 'double-click', layer: a })).toBe(102);
    expect(n({ type: 'click', layer: a }, { type: 'double-click', layer: a })).toBe(103);
  });

  test('who comes onto a layer again, or gives it the focus again, has left it', () => {
    expect(n({ type: 'hover', layer: b }, { type: 'hover', layer: b })).toBe(2);
    expect(n({ type: 'focus', layer: c }, { type: 'focus', layer: c })).toBe(2);
  });
});
