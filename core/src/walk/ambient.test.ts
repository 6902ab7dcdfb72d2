import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec, type TimelineSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { audit, routeEnd } from './audit.ts';

/** What only moves before one's eyes does not make a piece larger to walk; what does more than that is walked. */

function walked(spec: ComposeSpec) {
  const program = compile(compose({ fps: 10, ...spec }));
  const { exploration, findings } = audit(program);
  for (const one of findings) if (one.route) expect(routeEnd(program, one)).not.toBeNull();
  const reached = [...exploration.reached.keys()].map((id) => program.scenes.get(id)!.scene.name);
  return { states: exploration.states.length, cut: exploration.cut, reached: reached.sort() };
}

const loop = (length: number, more: Partial<TimelineSpec> = {}): TimelineSpec => ({
  length,
  loop: true,
  tracks: [
    [
      'dot',
      'x',
      [
        [0, 0],
        [length - 1, 300],
      ],
    ],
  ],
  ...more,
});
const dot = { at: [0, 0, 20, 20] as const, style: { fill: '#1f4e5f' } };
const on = (...lines: string[]) => ({ at: [0, 0, 80, 60] as const, lines });
const end = { ending: true, layers: { end: { at: [0, 0, 9, 9] as const } } };
const placed = (part: string) => ({ type: 'placement' as const, part, at: [0, 200, 100, 100] as const });

describe('timelines that only move what is looked at', () => {
  test('loops of many lengths beside a switch are as few states as the switch alone', () => {
    const parts = Object.fromEntries([7, 11, 13].map((length) => [`Loop ${length}`, { timeline: loop(length), layers: { dot } }]));
    const clips = Object.fromEntries([7, 11, 13].map((length) => [`clip ${length}`, placed(`Loop ${length}`)]));
    const home = (more: object) => ({
      timeline: loop(17),
      layers: { dot, lamp: on('click → set Lit to not(Lit)'), go: { ...on('click → go to end'), at: [0, 90, 80, 60] as const }, ...more },
    });
    const variables = { Lit: { type: 'yes/no', initial: false } } as const;
    const plain = walked({ variables, frames: { home: { layers: { lamp: home({}).layers.lamp, go: home({}).layers.go } }, end } });
    const moving = walked({ variables, parts, frames: { home: home(clips), end } });
    expect(moving).toEqual(plain);
    expect(moving.cut).toBeNull();
  });

  test('what can be pressed in a clip is where the clip has brought it', () => {
    // The button in the clip lies off the page but for its end.
    const part = {
      size: [100, 100] as const,
      timeline: {
        length: 20,
        loop: true,
        tracks: [
          [
            'go',
            'x',
            [
              [0, -400],
              [9, -400],
              [10, 0],
              [19, 0],
            ],
          ],
        ],
      } satisfies TimelineSpec,
      layers: { go: { at: [-400, 0, 90, 60] as const, lines: ['click → send off'] } },
    };
    const spec: ComposeSpec = {
      parts: { Clip: part },
      frames: { home: { layers: { clip: placed('Clip') }, lines: ['signal off → go to end'] }, end },
    };
    expect(walked(spec).reached).toEqual(['end', 'home']);
  });

  test('a section that something asks for is come to', () => {
    const timeline = { length: 20, loop: true, labels: { Up: [0, 'go on'], Down: [10, 'go on'] } } as const;
    const frames = (line: string): ComposeSpec['frames'] => ({ home: { layers: { gull: placed('Gull'), try: on(line) } }, end });
    const parts = { Gull: { timeline, layers: { dot } } };
    expect(walked({ parts, frames: frames('click → if gull.section = "Down" → go to end; otherwise → send no') }).reached).toEqual(['end', 'home']);
    expect(walked({ parts, frames: frames('click → play gull from Down; go to end') }).reached).toEqual(['end', 'home']);
  });

  test('a label that sets something off, a span and a cue on the way are not looked over', () => {
    const inPart = (timeline: TimelineSpec, lines: string[]): ComposeSpec => ({
      parts: { Gull: { timeline, layers: { dot }, lines } },
      frames: { home: { layers: { gull: placed('Gull') }, lines: ['signal off → go to end'] }, end },
    });
    expect(walked(inPart(loop(20, { labels: { Up: [0, 'go on'], Down: [10, 'go on'] } }), ['label Down → send off'])).reached).toEqual([
      'end',
      'home',
    ]);
    const late: ComposeSpec = {
      frames: { home: { timeline: { length: 30, spans: [['go', 10, 29]] }, layers: { go: on('click → go to end') } }, end },
    };
    expect(walked(late).reached).toEqual(['end', 'home']);
  });
});
