import { describe, expect, test } from 'vitest';
import { compose } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { audit, routeEnd } from './audit.ts';
import { explore } from './explore.ts';

type Spec = Parameters<typeof compose>[0];

const button = (x: number, ...lines: string[]) => ({ at: [x, 0, 60, 60] as const, lines });

/** The frames that are come to; every route of a finding ends where the finding is. */
function reached(frames: Spec['frames'], more: Partial<Spec> = {}) {
  const program = compile(compose({ frames, ...more }));
  const { exploration, findings } = audit(program);
  expect(exploration.cut).toBeNull();
  for (const found of findings) if (found.route && found.place.scene) expect(routeEnd(program, found)).toBe(found.place.scene);
  return [...exploration.reached.keys()].sort();
}

describe('what a person does at any moment', () => {
  // The notice is there from 2 s on, and gone 1 s after the button was pressed: both orders can be had.
  const frames = (press: string, notice: string): Spec['frames'] => ({
    home: {
      states: { quiet: {}, noticed: {}, pressed: {} },
      layers: { on: button(0, `click → wait ${press}; set pressed to true`) },
      lines: [`after ${notice} → if pressed → go to late; otherwise → go to early`],
    },
    early: {},
    late: {},
  });
  const variables = { pressed: { type: 'yes/no', initial: false } } as const;

  test('a press can be made so late that what it starts ends behind a timer that is longer', () => {
    expect(reached(frames('1 s', '2 s'), { variables })).toEqual(['early', 'home', 'late']);
  });

  test('what takes longer than a timer does not end before it', () => {
    expect(reached(frames('3 s', '2 s'), { variables })).toEqual(['early', 'home']);
  });

  test('of two that were pressed the shorter one ends first, however late it was pressed, or the longer one', () => {
    const on = (a: string, b: string): Spec['frames'] => ({
      home: { layers: { a: button(0, `click → wait ${a}; go to one`), b: button(100, `click → wait ${b}; go to other`) } },
      one: {},
      other: {},
    });
    expect(reached(on('1 s', '5 s'))).toEqual(['home', 'one', 'other']);
  });

  test('three in a row: what the third depends on is found, with the waiting that it takes', () => {
    const spec: Spec = {
      variables: { n: { type: 'number', initial: 0, min: 0, max: 3 } },
      frames: {
        home: {
          layers: {
            a: button(0, 'click → if n = 0 → wait 1 s; set n to 1'),
            b: button(100, 'click → if n = 0 → wait 300 ms; set n to n + 2'),
          },
          // Only if b was pressed late, and ended after a.
          lines: ['variable n → if n = 3 → go to end'],
        },
        end: {},
      },
    };
    const program = compile(compose(spec));
    const exploration = explore(program);
    expect([...exploration.reached.keys()]).toContain('end');
    const events = exploration.routeTo(exploration.reached.get('end')!);
    expect(events.filter(({ type }) => type === 'wait').length).toBeGreaterThan(1);
  });
});

describe('what nothing comes of', () => {
  const clip = {
    size: [40, 40] as const,
    timeline: {
      length: 24,
      loop: true,
      tracks: [
        [
          'wing',
          'x',
          [
            [0, 0],
            [12, 9],
          ],
        ],
      ],
    },
    layers: { wing: { at: [0, 0, 9, 9] } },
  };
  const withClip = (lines: string[]): Spec =>
    ({
      parts: { Gull: clip },
      frames: {
        home: { layers: { gull: { part: 'Gull', at: [0, 100, 40, 40] }, stop: button(0, ...lines) }, lines: ['after 7 s → go to end'] },
        end: {},
      },
    }) as unknown as Spec;

  test('a clip that is only looked at stands, though it is paused and played', () => {
    const { exploration, findings } = audit(compile(compose(withClip(['click → pause gull', 'key p → play gull']))));
    expect([exploration.cut, exploration.states.length]).toEqual([null, 2]);
    // It is seen to stop.
    expect(findings.filter(({ rule }) => rule === 'no-effect')).toEqual([]);
  });

  test('one whose end is waited for does not', () => {
    const exploration = explore(compile(compose(withClip(['click → play gull; go to end']))));
    expect(exploration.states.length).toBeGreaterThan(2);
  });
});
