import { advance, compile, start, type Program, type Report, type RunEvent, type RunState } from '@zany/core';
import { compose, layerId } from '@zany/core/testing';
import { expect, test } from 'vitest';
import { Recorder } from './recorder';

const button = (y: number, ...lines: string[]) => ({ at: [0, y, 100, 60] as const, text: 'Go', lines });

const program = compile(
  compose({
    frames: {
      home: {
        layers: {
          on: button(0, 'click → go to shop'),
          slow: button(100, 'click → wait 500 ms; then go to shop'),
          twice: button(200, 'double click → go to shop'),
          knob: { ...button(300, 'drop → go to shop'), drag: { axis: 'x' } },
        },
      },
      shop: { layers: { back: button(0, 'click → go to home') } },
    },
  })
);

/** Does things in a run that begins on home, and gives the recorder what comes of them. */
function done(program: Program, ...events: RunEvent[]): { recorder: Recorder; run: RunState } {
  const recorder = new Recorder();
  let run = start(program)!;
  recorder.begin('home');
  for (const event of events) {
    const before = run;
    const next = advance(program, before, event);
    run = next.run;
    recorder.take(program, before, next.reports as Report[]);
  }
  return { recorder, run };
}

const at = (x: number, y: number): RunEvent[] => [
  { type: 'move', x, y },
  { type: 'press', x, y },
  { type: 'release', x, y },
];

const kept = (program: Program, ...events: RunEvent[]) => {
  const { recorder, run } = done(program, ...events);
  const walk = recorder.walk(program, run);
  return 'why' in walk ? walk.why : walk.steps.map(({ event, frame }) => [event, frame]);
};

test('presses are kept by what was pressed, and waiting only where it matters', () => {
  expect(kept(program, ...at(50, 30), { type: 'wait', ms: 900 }, ...at(50, 30))).toEqual([
    [{ type: 'click', layer: layerId('home', 'on') }, 'shop'],
    [{ type: 'click', layer: layerId('shop', 'back') }, 'home'],
  ]);
  expect(kept(program, ...at(50, 130), { type: 'wait', ms: 700 })).toEqual([
    [{ type: 'click', layer: layerId('home', 'slow') }, 'home'],
    [{ type: 'wait', ms: 700 }, 'shop'],
  ]);
});

test('two clicks are one double click where that was waited for', () => {
  expect(kept(program, ...at(50, 230), { type: 'wait', ms: 100 }, ...at(50, 230))).toEqual([
    [{ type: 'double-click', layer: layerId('home', 'twice') }, 'shop'],
  ]);
});

test('a drag is kept as one, from where it was pressed to where it was let go', () => {
  const dragged = [{ type: 'drag', layer: layerId('home', 'knob'), dx: 60, dy: 4 }, 'shop'];
  const move = (x: number, y: number): RunEvent => ({ type: 'move', x, y });
  expect(kept(program, move(50, 330), { type: 'press', x: 50, y: 330 }, move(70, 331), move(100, 333), { type: 'release', x: 110, y: 334 })).toEqual([
    dragged,
  ]);
  expect(kept(program, { type: 'drag', layer: layerId('home', 'knob'), dx: 60, dy: 4 })).toEqual([dragged]);
  // What was not moved far enough for a drag is a click.
  expect(kept(program, move(50, 330), { type: 'press', x: 50, y: 330 }, move(51, 330), { type: 'release', x: 51, y: 330 })).toEqual([
    [{ type: 'click', layer: layerId('home', 'knob') }, 'home'],
  ]);
});

test('what is held is kept as that, where something comes about before it is let go; else it is a click', () => {
  const bell = { at: [0, 0, 100, 60] as const, text: 'Go', lines: ['press → put this in Down', 'release → put this in Up'] };
  const ask = button(100, 'press → lay closing over sure at bottom');
  const held = compile(
    compose({
      size: [300, 400],
      frames: {
        home: {
          states: { Up: {}, Down: {} },
          layers: { bell, ask },
          lines: ['after 1 s in Down → go to shop', 'key k → if home.state = "Down" → go to shop'],
        },
        shop: { layers: { back: button(0, 'click → go to home') } },
        sure: { size: [300, 100], layers: { yes: button(0, 'click → go to shop') } },
      },
    })
  );
  const layer = layerId('home', 'bell');
  const [down, up]: RunEvent[] = [
    { type: 'press', x: 50, y: 30 },
    { type: 'release', x: 50, y: 30 },
  ];
  const hold = [{ type: 'hold', layer }, 'home'];
  expect(kept(held, down!, { type: 'wait', ms: 300 }, up!)).toEqual([[{ type: 'click', layer }, 'home']]);
  expect(kept(held, down!, { type: 'wait', ms: 1100 }, up!)).toEqual([hold, [{ type: 'wait', ms: 1100 }, 'shop']]);
  expect(kept(held, down!, { type: 'release', x: 250, y: 300 })).toEqual([hold, [{ type: 'let-go', where: 'elsewhere' }, 'home']]);
  expect(kept(held, down!, { type: 'wait', ms: 1100 }, { type: 'move', x: 60, y: 30 }, { type: 'wait', ms: 300 }, up!)).toEqual([
    hold,
    [{ type: 'wait', ms: 1400 }, 'shop'],
  ]);
  expect(kept(held, down!, { type: 'key', key: 'k' })).toEqual([hold, [{ type: 'key', key: 'k' }, 'shop']]);
  expect(kept(held, down!, { type: 'focus', layer: null }, up!, down!, { type: 'wait', ms: 1100 })).toEqual([
    [{ type: 'click', layer }, 'home'],
    hold,
    [{ type: 'wait', ms: 1100 }, 'shop'],
  ]);
  // What led away ends the hold: the next press is one by itself.
  expect(kept(held, down!, { type: 'wait', ms: 1100 }, up!, down!, up!)).toEqual([
    hold,
    [{ type: 'wait', ms: 1100 }, 'shop'],
    [{ type: 'click', layer: layerId('shop', 'back') }, 'home'],
  ]);
  // It closes where it is let go beside it.
  const press: RunEvent[] = [
    { type: 'press', x: 50, y: 130 },
    { type: 'release', x: 50, y: 130 },
  ];
  expect(kept(held, ...press)).toEqual([
    [{ type: 'hold', layer: layerId('home', 'ask') }, 'home'],
    [{ type: 'beside' }, 'home'],
  ]);
});

test('what cannot be kept is said: nothing done, a jump', () => {
  expect(kept(program)).toBe('Nothing was done yet.');
  expect(kept(program, { type: 'jump', frame: 'shop' })).toBe('It jumped to a frame. Start over to walk from a beginning.');
  const { recorder, run } = done(program, ...at(50, 30));
  expect(recorder.length).toBe(1);
  recorder.begin('home');
  expect(recorder.length).toBe(0);
  expect(recorder.walk(program, run)).toEqual({ why: 'Nothing was done yet.' });
});
