import { describe, expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import { resolveScreen } from './resolve.ts';
import { compose, layerId as id, type ComposeSpec } from '../compose/compose.ts';
import { advance, replay, start } from './run.ts';
import type { RunEvent } from './state.ts';

/** What came of events: the signals sent, in order, and where layers are. */
function play(spec: ComposeSpec, events: readonly RunEvent[]) {
  const program = compile(compose(spec));
  const done = replay(program, start(program)!, events);
  const sent = done.reports.flatMap((report) => report.effects.flatMap((effect) => (effect.type === 'signal' ? [effect.signal] : [])));
  const shown = resolveScreen(program, done.run).surfaces.flatMap((surface) => surface.all);
  const at = (layer: string) => {
    const one = shown.find((each) => each.node.key === id('home', layer));
    return one && [one.x, one.y];
  };
  return { ...done, program, sent, at, shown, why: done.reports.flatMap((report) => report.whyNot.map((why) => why.code)) };
}

const one = (lines: string[], more = {}): ComposeSpec => ({ frames: { home: { layers: { box: { at: [0, 0, 100, 100], lines, ...more } } } } });
const press = (x: number, y: number): RunEvent => ({ type: 'press', x, y });
const move = (x: number, y: number): RunEvent => ({ type: 'move', x, y });
const release = (x: number, y: number): RunEvent => ({ type: 'release', x, y });
const wait = (ms: number): RunEvent => ({ type: 'wait', ms });
const box = id('home', 'box');

describe('pointer cues', () => {
  test.each<[string, RunEvent[], string[]]>([
    ['click', [press(5, 5), release(6, 6)], ['it']],
    ['press', [press(5, 5)], ['it']],
    ['release', [press(5, 5), release(6, 6)], ['it']],
    ['hover', [move(5, 5), move(6, 6)], ['it']],
    ['leave', [move(5, 5), move(200, 200)], ['it']],
    ['double click', [press(5, 5), release(5, 5), wait(100), press(5, 5), release(5, 5)], ['it']],
    ['double click', [press(5, 5), release(5, 5), wait(900), press(5, 5), release(5, 5)], []],
    ['long press 500 ms', [press(5, 5), wait(600), release(5, 5)], ['it']],
    ['long press 500 ms', [press(5, 5), wait(300), release(5, 5), wait(900)], []],
    ['long press 500 ms', [press(5, 5), wait(100), move(60, 60), wait(900)], []],
    ['swipe left', [press(90, 5), wait(100), release(10, 8)], ['it']],
    ['swipe left', [press(90, 5), wait(2000), release(10, 8)], []],
    ['swipe up', [press(50, 90), release(50, 10)], ['it']],
  ])('%s after %j', (cue, events, sent) => {
    expect(play(one([`${cue} → send it`]), events).sent).toEqual(sent);
  });

  test('a long press is no click, and a swipe that somebody waits for is none either', () => {
    const lines = ['click → send click', 'long press 500 ms → send long', 'swipe right → send swipe'];
    expect(play(one(lines), [press(5, 5), wait(600), release(5, 5)]).sent).toEqual(['long']);
    expect(play(one(lines), [press(5, 5), release(90, 5)]).sent).toEqual(['swipe']);
    expect(play(one(lines), [press(5, 5), release(30, 5)]).sent).toEqual(['click']);
  });

  test('events on named layers do the same as hands', () => {
    const lines = [
      'click → send click',
      'double click → send double',
      'long press 1 s → send long',
      'swipe down → send swipe',
      'hover → send hover',
      'focus → send focus',
      'blur → send blur',
    ];
    const events: RunEvent[] = [
      { type: 'double-click', layer: box },
      { type: 'long-press', layer: box },
      { type: 'swipe', layer: box, direction: 'down' },
      { type: 'hover', layer: box },
      { type: 'focus', layer: box },
      { type: 'focus', layer: null },
    ];
    expect(play(one(lines), events).sent).toEqual(['click', 'click', 'double', 'long', 'swipe', 'hover', 'focus', 'blur']);
  });
});

describe('presses whose answer takes away what was pressed', () => {
  const frames = (lines: string[]): ComposeSpec => ({ frames: { home: { layers: { box: { at: [0, 0, 300, 100], lines } } }, pay: {} } });
  const laid: ComposeSpec = {
    frames: {
      home: { layers: { box: { at: [0, 0, 100, 100], lines: ['click → lay over card at center; send laid'] } } },
      card: { layers: { away: { at: [0, 0, 390, 800], lines: ['click → lift', 'double click → send twice'] } } },
    },
  };
  const tap = [press(5, 5), release(5, 5)];
  test.each<[string, ComposeSpec, RunEvent[], string]>([
    [
      'a double click whose click leads on',
      frames(['click → go to pay', 'double click → send twice']),
      [{ type: 'double-click', layer: box }],
      'pay',
    ],
    ['the same by a real pointer', frames(['click → go to pay', 'double click → send twice']), [...tap, ...tap], 'pay'],
    ['letting go that leads on', frames(['release → go to pay', 'click → send late']), tap, 'pay'],
    ['letting go after a swipe that leads on', frames(['release → go to pay', 'swipe left → send late']), [press(250, 5), release(5, 5)], 'pay'],
    ['a double click that lifts what is laid over', laid, [...tap, wait(900), { type: 'double-click', layer: id('card', 'away') }], 'home'],
  ])('%s', (_, spec, events, frame) => {
    const { run, sent } = play(spec, events);
    expect(run.frame).toBe(frame);
    expect(run.overlays).toEqual([]);
    expect(sent.filter((signal) => signal !== 'laid')).toEqual([]);
  });

  test('a long press of a frame, and of a part by its placement', () => {
    const held = [press(5, 5), wait(600), release(5, 5)];
    expect(play({ frames: { home: { lines: ['long press 500 ms → send it', 'click → send click'] } } }, held).sent).toEqual(['it']);
    const part: ComposeSpec = {
      parts: { Card: { layers: { dot: { at: [0, 0, 80, 80], lines: ['hover → send over'] } }, lines: ['long press 500 ms → send it'] } },
      frames: { home: { layers: { one: { part: 'Card', at: [0, 0, 80, 80] } } } },
    };
    expect(play(part, held).sent.filter((signal) => signal !== 'over')).toEqual(['it']);
  });
});

describe('dragging', () => {
  const drag: ComposeSpec = {
    frames: {
      home: {
        layers: {
          target: { at: [200, 200, 100, 100] },
          box: {
            at: [100, 100, 50, 50],
            drag: { axis: 'x', bounds: { left: -50, right: 120, top: 0, bottom: 0 } },
            lines: ['drag start → send start', 'drop → send drop', 'drop on target → send on', 'click → send click'],
          },
          free: {
            at: [0, 300, 50, 50],
            drag: {
              axis: 'both',
              snap: [
                { x: 0, y: 0 },
                { x: 200, y: -100 },
              ],
            },
            lines: ['drop on target → send on'],
          },
        },
      },
    },
  };

  test('keeps its axis and its bounds, and is no click', () => {
    const dragged = play(drag, [press(110, 110), move(140, 300), move(400, 300), release(400, 300)]);
    expect(dragged.at('box')).toEqual([220, 100]);
    expect(dragged.sent).toEqual(['start', 'drop']);
    expect(play(drag, [press(110, 110), move(10, 110), release(10, 110)]).at('box')).toEqual([50, 100]);
    expect(play(drag, [press(110, 110), move(111, 110), release(111, 110)]).sent).toEqual(['click']);
  });

  test('snaps to the nearest place, and knows what it is dropped on', () => {
    expect(play(drag, [press(10, 310), move(50, 320), release(50, 320)]).at('free')).toEqual([0, 300]);
    const dropped = play(drag, [press(10, 310), move(215, 230), release(215, 230)]);
    expect(dropped.at('free')).toEqual([200, 200]);
    expect(dropped.sent).toEqual(['on']);
    expect(play(drag, [{ type: 'drag', layer: id('home', 'free'), dx: 205, dy: -80 }]).sent).toEqual(['on']);
  });

  test('with inertia it goes on a little', () => {
    const spec: ComposeSpec = { frames: { home: { layers: { box: { at: [0, 0, 50, 50], drag: { axis: 'x', inertia: true } } } } } };
    expect(play(spec, [press(5, 5), wait(100), move(105, 5), release(105, 5)]).at('box')).toEqual([300, 0]);
  });
});

describe('scrolling', () => {
  const spec: ComposeSpec = {
    size: [300, 400],
    frames: {
      home: {
        contentHeight: 1000,
        layers: {
          bar: { at: [0, 0, 300, 50], pin: ['top'], lines: ['click → send bar', 'scroll up 30 → send hide', 'scroll down 30 → send show'] },
          far: { at: [0, 900, 100, 50], lines: ['click → send far', 'in view → send seen'] },
          to: { at: [0, 100, 100, 50], lines: ['click → scroll to far · 300 ms ease'] },
          row: { type: 'group', at: [0, 200, 300, 80], scroll: 'x', clip: true },
          wide: { in: 'row', at: [0, 0, 900, 80] },
        },
      },
    },
  };
  const scroll = (y: number): RunEvent => ({ type: 'scroll', layer: null, x: 0, y });

  test('stops at its ends; pinned layers stay where they are', () => {
    expect(play(spec, [scroll(5000)]).run.roots['home']!.scroll['']!.y).toBe(600);
    expect(play(spec, [scroll(600), press(10, 10), release(10, 10)]).sent).toContain('bar');
    expect(play(spec, [scroll(600), press(10, 320), release(10, 320)]).sent).toContain('far');
  });

  test('cues by direction fire once until it turns', () => {
    expect(play(spec, [scroll(20), scroll(40), scroll(60), scroll(20), scroll(80)]).sent).toEqual(['show', 'hide', 'show']);
  });

  test('scrolled into view, also by a step', () => {
    expect(play(spec, [scroll(400), scroll(560), scroll(600)]).sent).toEqual(['show', 'seen']);
    const stepped = play(spec, [{ type: 'click', layer: id('home', 'to') }]);
    expect(stepped.run.roots['home']!.scroll['']!.y).toBe(600);
    expect(stepped.sent).toContain('seen');
  });

  test('a group scrolls by itself', () => {
    const row = id('home', 'row');
    expect(play(spec, [{ type: 'scroll', layer: row, x: 5000, y: 90 }]).run.roots['home']!.scroll[row]).toMatchObject({ x: 600, y: 0 });
  });
});

describe('keys, pad, signals, fields, media', () => {
  test('keys with their modifiers, pad buttons and signals', () => {
    const spec: ComposeSpec = {
      frames: { home: { lines: ['key Ctrl+K → send k', 'pad 3 → send pad; set Last to pad.button', 'signal hello → send heard'] } },
      variables: { Last: { type: 'number', initial: -1 } },
      lines: ['pad 4 → send piece', 'variable Last → send changed'],
    };
    const result = play(spec, [
      { type: 'key', key: 'ctrl+k' },
      { type: 'pad', button: 3 },
      { type: 'pad', button: 4 },
      { type: 'signal', signal: 'hello' },
      { type: 'pad', button: 9 },
    ]);
    expect(result.sent).toEqual(['k', 'pad', 'changed', 'piece', 'heard']);
    expect(result.run.variables).toEqual({ Last: 3 });
    expect(result.why).toEqual(['no-thread']);
  });

  test('fields hold values, mirror variables, and are refused what they cannot hold', () => {
    const spec: ComposeSpec = {
      variables: { Seats: { type: 'number', initial: 1, min: 0, max: 6 }, Name: { type: 'text', initial: '' } },
      frames: {
        home: {
          layers: {
            seats: { type: 'field', field: { kind: 'number', min: 0, max: 9, variable: 'Seats' }, lines: ['change → send seats'] },
            name: { at: [0, 60, 100, 40], type: 'field', field: { kind: 'text', variable: 'Name' } },
            pick: { at: [0, 120, 100, 40], type: 'field', field: { kind: 'choice', options: ['a', 'b'] } },
            go: {
              at: [0, 200, 100, 44],
              when: { enabled: 'string length(Name) >= 2 and seats.value > 0' },
              lines: ['click → set Seats to Seats + 1'],
            },
          },
        },
      },
    };
    const put = (layer: string, value: string | number): RunEvent => ({ type: 'value', layer: id('home', layer), value });
    const result = play(spec, [
      put('seats', 5),
      put('name', 'Ina'),
      { type: 'click', layer: id('home', 'go') },
      { type: 'click', layer: id('home', 'go') },
      put('pick', 'zzz'),
      put('pick', 'b'),
    ]);
    expect(result.run.variables).toEqual({ Seats: 6, Name: 'Ina' });
    expect(result.run.roots['home']!.values).toMatchObject({ [id('home', 'seats')]: 6, [id('home', 'pick')]: 'b' });
    expect(result.sent).toEqual(['seats', 'seats']);
  });

  test('video starts and ends', () => {
    const asset = { id: 'a'.repeat(64), name: 'crossing.webm', mediaType: 'video/webm', size: 10, width: 100, height: 50, ms: 900 } as const;
    const spec: ComposeSpec = {
      assets: [asset],
      frames: {
        home: {
          layers: {
            film: { type: 'video', asset: asset.id, lines: ['media started → send started', 'media ended → go to end'] },
            go: { at: [0, 100, 50, 50], lines: ['click → play film'] },
            stop: { at: [0, 200, 50, 50], lines: ['click → pause film'] },
          },
        },
        end: {},
      },
    };
    const film = id('home', 'film');
    const played = play(spec, [{ type: 'click', layer: id('home', 'go') }]);
    expect(played.sent).toEqual(['started']);
    expect(played.run.roots['home']!.media).toEqual({ [film]: 'playing' });
    expect(
      play(spec, [
        { type: 'click', layer: id('home', 'go') },
        { type: 'click', layer: id('home', 'stop') },
      ]).run.roots['home']!.media
    ).toEqual({ [film]: 'paused' });
    expect(
      play(spec, [
        { type: 'click', layer: id('home', 'go') },
        { type: 'media', layer: film, what: 'ended' },
      ]).run.frame
    ).toBe('end');
  });
});

describe('steps one after the other', () => {
  const spec = (line: string): ComposeSpec => ({
    variables: { n: { type: 'number', initial: 0 } },
    frames: {
      home: { layers: { box: { at: [0, 0, 50, 50], lines: [line] }, out: { at: [100, 0, 50, 50], lines: ['click → go to end'] } } },
      end: { layers: { mark: {} } },
    },
  });
  const clicked: RunEvent = { type: 'click', layer: box };

  test('what follows waits for what takes time; with starts together', () => {
    const line = 'click → move box by 10, 0 · 300 ms linear; with tween opacity of box to 0 · 500 ms linear; send moved; wait 200 ms; send waited';
    expect(play(spec(line), [clicked, wait(499)]).sent).toEqual([]);
    expect(play(spec(line), [clicked, wait(500)]).sent).toEqual(['moved']);
    expect(play(spec(line), [clicked, wait(699)]).sent).toEqual(['moved']);
    expect(play(spec(line), [clicked, wait(700)]).sent).toEqual(['moved', 'waited']);
  });

  test('steps that outlive their scene are cancelled unless they last', () => {
    const leave: RunEvent[] = [clicked, { type: 'click', layer: id('home', 'out') }, wait(1000)];
    expect(play(spec('click → wait 500 ms; send late'), leave).sent).toEqual([]);
    expect(play(spec('click → lasting wait 500 ms; send late'), leave).sent).toEqual(['late']);
  });

  test('what follows a go to belongs to the frame gone to', () => {
    expect(play(spec('click → go to end · push left 300 ms linear; send there'), [clicked, wait(299)]).sent).toEqual([]);
    expect(play(spec('click → go to end · push left 300 ms linear; send there'), [clicked, wait(300)]).sent).toEqual(['there']);
  });

  test('branches are tried in order, and the failing clauses are told', () => {
    const line = 'click → if n > 5 → send high; otherwise if n > 2 and n < 4 → send three; otherwise → set n to n + 1';
    const result = play(spec(line), [clicked, clicked, clicked, clicked]);
    expect(result.sent).toEqual(['three']);
    const only = play(spec('click → if n > 5 → send high'), [clicked]);
    expect(only.reports.at(-1)!.whyNot[0]).toMatchObject({ code: 'condition', clause: 'n > 5', sentence: 'n > 5 did not hold: n was 0.' });
  });

  test('go replacing leaves no trace', () => {
    expect(play(spec('click → go replacing to end'), [clicked]).run.back).toEqual([]);
    expect(play(spec('click → go to end'), [clicked]).run.back).toEqual(['home']);
  });

  test('a link with an id for those who measure', () => {
    const { reports } = play(spec('click → open https://kittiwake.example/ in new tab as "summer"'), [clicked]);
    expect(reports[0]!.effects[0]).toMatchObject({ type: 'open', tab: 'new', measure: 'summer' });
  });
});

describe('timelines', () => {
  const spec: ComposeSpec = {
    fps: 10,
    parts: {
      Bird: {
        size: [50, 50],
        timeline: {
          length: 5,
          tracks: [
            [
              'wing',
              'y',
              [
                [0, 0],
                [4, 40],
              ],
            ],
          ],
        },
        layers: { wing: { at: [0, 0, 10, 10] } },
      },
    },
    frames: {
      home: {
        timeline: {
          length: 40,
          labels: { Intro: [0, 'hold'], Main: [10, 'loop'], End: [20, { goTo: 'Intro' }], Rest: [30, 'go on'] },
          tracks: [
            [
              'ball',
              'x',
              [
                [0, 0],
                [10, 100, 'ease-in'],
              ],
            ],
            [
              'ball',
              'fill',
              [
                [0, '#000000'],
                [10, '#ffffff'],
              ],
            ],
          ],
          spans: [
            ['late', 10, 19],
            ['bird', 20, 29],
          ],
        },
        layers: {
          ball: { at: [0, 0, 10, 10] },
          late: { at: [0, 50, 50, 50], lines: ['click → send late'] },
          bird: { part: 'Bird', at: [0, 100, 50, 50] },
          main: { at: [100, 0, 50, 50], lines: ['click → play from Main; send again'] },
          end: { at: [160, 0, 50, 50], lines: ['click → play from End'] },
          show: { at: [220, 0, 50, 50], lines: ['click → show label Main'] },
          rest: { at: [280, 0, 50, 50], lines: ['click → play from Rest; send rested'] },
          on: { at: [100, 100, 50, 50], lines: ['click → play on'] },
          stop: { at: [160, 100, 50, 50], lines: ['click → pause'] },
          over: { at: [220, 100, 50, 50], lines: ['click → start over'] },
          next: { at: [0, 200, 50, 50], lines: ['click → play next section; send turned'] },
          back: { at: [60, 200, 50, 50], lines: ['click → play previous section'] },
        },
        lines: ['label Main → send main', 'label Intro → send intro'],
      },
    },
  };
  const tap = (layer: string): RunEvent => ({ type: 'click', layer: id('home', layer) });
  const frameOf = (events: RunEvent[]) => {
    const { run } = play(spec, events);
    const head = run.roots['home']!.heads['']!;
    return head.playing ? head.at + Math.floor((run.clock - head.since) / 100) : head.at;
  };

  test('plays at the speed of the piece, exact at its keyframes, and holds at the end of its section', () => {
    expect(play(spec, []).at('ball')).toEqual([0, 0]);
    expect(play(spec, [wait(500)]).at('ball')![0]).toBeCloseTo(50, 9);
    expect(frameOf([wait(899)])).toBe(8);
    expect(frameOf([wait(60_000)])).toBe(9);
    expect(play(spec, [wait(60_000)]).sent).toEqual([]);
  });

  test('loops, goes to another label, goes on, shows a moment', () => {
    expect(frameOf([tap('main'), wait(1500)])).toBe(15);
    expect(frameOf([tap('main'), wait(12_300)])).toBe(13);
    expect(frameOf([tap('end'), wait(1250)])).toBe(2);
    expect(frameOf([tap('show'), wait(5000)])).toBe(10);
    expect(frameOf([tap('rest'), wait(5000)])).toBe(39);
    expect(play(spec, [tap('main')]).sent).toEqual(['main']);
    expect(play(spec, [tap('end'), wait(1000)]).sent).toEqual(['intro']);
  });

  test('loops so many times, then holds; whoever comes again has all rounds before them', () => {
    const home = {
      timeline: { length: 20, labels: { Intro: [0, 'go on'], Ring: [10, { rounds: 3 }] } as const },
      layers: { ring: { at: [0, 0, 50, 50] as const, lines: ['click → play from Ring; send rung'] } },
    };
    const ringing = (events: RunEvent[]) => play({ ...spec, frames: { home } }, events);
    const head = (events: RunEvent[]) => {
      const { run } = ringing(events);
      const { at, since, playing } = run.roots['home']!.heads['']!;
      return [playing ? at + Math.floor((run.clock - since) / 100) : at, playing];
    };
    expect(head([wait(1000 + 2950)])).toEqual([19, true]);
    expect(head([wait(1000 + 3000)])).toEqual([19, false]);
    expect(head([wait(60_000)])).toEqual([19, false]);
    expect(head([wait(1000 + 2500), tap('ring'), wait(2950)])).toEqual([19, true]);
    expect(head([wait(60_000), tap('ring'), wait(2050)])).toEqual([10, true]);
    expect(ringing([tap('ring'), wait(1000)]).sent).toEqual(['rung']);
  });

  test('what is turned along its way looks where it goes, and rests as it came', () => {
    const home = {
      timeline: {
        length: 60,
        tracks: [
          [
            'boat',
            'x',
            [
              [0, 0],
              [10, 100],
              [40, 100],
              [50, 0],
            ],
          ],
          [
            'boat',
            'y',
            [
              [0, 0],
              [10, 0],
              [20, 80],
              [50, 80],
            ],
          ],
          [
            'still',
            'x',
            [
              [0, 5],
              [9, 5],
            ],
          ],
        ] as const,
      },
      layers: {
        boat: { at: [0, 0, 10, 10] as const, turnsAlong: true, pose: { rotation: 10 } },
        still: { at: [0, 0, 9, 9] as const, turnsAlong: true },
      },
    };
    const turned = (ms: number, layer = 'boat') =>
      play({ ...spec, frames: { home } }, [wait(ms)]).shown.find(({ node }) => node.key === id('home', layer))!.rotation;
    expect(turned(500)).toBeCloseTo(10, 6);
    expect(turned(1500)).toBeCloseTo(100, 6);
    expect(turned(3000)).toBeCloseTo(100, 6);
    expect(turned(4500)).toBeCloseTo(190, 6);
    expect(turned(5900)).toBeCloseTo(190, 6);
    expect(turned(500, 'still')).toBe(0);
  });

  test('a step after a section waits for its end', () => {
    expect(play(spec, [tap('main'), wait(999)]).sent).toEqual(['main']);
    expect(play(spec, [tap('main'), wait(1000)]).sent).toEqual(['main', 'main', 'again']);
    expect(play(spec, [tap('rest'), wait(1000)]).sent).toEqual(['rested']);
  });

  test('playing on leaves a section that holds; pausing and starting over do what they say', () => {
    expect(frameOf([wait(2000), tap('on'), wait(300)])).toBe(13);
    expect(frameOf([wait(450), tap('stop'), wait(5000)])).toBe(4);
    expect(frameOf([wait(450), tap('over'), wait(250)])).toBe(2);
  });

  test('turning to the next or previous section is at once, and comes round', () => {
    expect(frameOf([wait(250), tap('next'), wait(100)])).toBe(11);
    expect(frameOf([tap('next'), tap('next'), tap('next')])).toBe(30);
    expect(frameOf([tap('next'), tap('next'), tap('next'), tap('next'), wait(150)])).toBe(1);
    expect(frameOf([tap('back')])).toBe(30);
    expect(frameOf([wait(60_000), tap('next'), tap('back')])).toBe(0);
    expect(play(spec, [tap('back'), wait(100), tap('next'), tap('next')]).sent).toEqual(['intro', 'main']);
    expect(play({ frames: { home: { layers: { box: { at: [0, 0, 9, 9], lines: ['click → play next section'] } } } } }, [tap('box')]).why).toEqual([
      'no-timeline',
    ]);
  });

  test('layers are there in their spans only', () => {
    expect(play(spec, [tap('late')]).why).toEqual(['unreachable']);
    expect(play(spec, [tap('main'), wait(100), tap('late')]).sent).toEqual(['main', 'late']);
  });

  test('a clip has a playhead of its own that starts over at every entry, or as it is told to', () => {
    const wing = (spec2: ComposeSpec, events: RunEvent[]) => {
      const program = compile(compose(spec2));
      const { run } = replay(program, start(program)!, events);
      return resolveScreen(program, run).surfaces[0]!.all.find((shown) => shown.node.key.endsWith('Bird_wing'))?.y;
    };
    const twice = [tap('end'), wait(200), tap('main'), wait(100), tap('end'), wait(100)];
    const with_ = (reentry: 'start over' | 'go on' | 'once'): ComposeSpec => ({
      ...spec,
      frames: { home: { ...spec.frames['home'], layers: { ...spec.frames['home']!.layers, bird: { part: 'Bird', at: [0, 100, 50, 50], reentry } } } },
    });
    expect(wing(spec, [tap('end'), wait(200)])).toBe(20);
    expect(wing(with_('start over'), twice)).toBe(10);
    expect(wing(with_('go on'), twice)).toBe(30);
    expect(wing(with_('once'), twice)).toBe(40);
  });

  test('the settled state does not depend on how time is cut', () => {
    const program = compile(compose(spec));
    const begun = advance(program, start(program)!, tap('end')).run;
    const whole = advance(program, begun, wait(7777)).run;
    let cut = begun;
    for (let ms = 7777; ms > 0; ms -= 37) cut = advance(program, cut, wait(Math.min(37, ms))).run;
    expect(cut).toEqual(whole);
  });
});
