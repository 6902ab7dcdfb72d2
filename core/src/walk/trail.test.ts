import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compose, layerId } from '../compose/compose.ts';
import { framesAlone } from '../edit/commands/excerpt.ts';
import { readPiece } from '../piece/read.ts';
import { compile } from '../program/compile.ts';
import { unwrap } from '../result.ts';
import { advance, begin } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { followTrail, isReached, MOST_IN_TRAIL, readTrail, TrailKeeper, type Trail } from './trail.ts';

const button = (x: number, y: number, ...lines: string[]) => ({ at: [x, y, 100, 60] as const, text: 'Go', lines });

const harbour = compose({
  variables: { Seats: { type: 'number', initial: 0 } },
  frames: {
    home: {
      states: { shut: {}, open: {} },
      layers: {
        on: button(0, 0, 'click → go to shop'),
        menu: button(0, 100, 'click → toggle this with open'),
        more: button(0, 200, 'click → set Seats to Seats + 1'),
        ask: button(0, 300, 'click → wait 500 ms; then lay over card at center'),
        plain: { at: [200, 0, 100, 60] as const, text: 'No button' },
      },
    },
    shop: { layers: { back: button(0, 0, 'click → go to home') } },
    card: { size: [200, 200] as const, layers: { ok: button(0, 0, 'click → lift') } },
  },
});
const program = compile(harbour);

/** Somebody who does things in a running piece, with a keeper that looks on. */
class Person {
  run: RunState = begin(program, 'home')!.run;
  readonly keeper = new TrailKeeper('home');

  do(ms: number, event: RunEvent): this {
    if (ms > 0) ({ run: this.run } = advance(program, this.run, { type: 'wait', ms }));
    const next = advance(program, this.run, event);
    this.run = next.run;
    this.keeper.take(ms, event, next.run, next.reports);
    return this;
  }

  press(x: number, y: number, ms = 300): this {
    return this.do(ms, { type: 'move', x, y }).do(20, { type: 'press', x, y }).do(60, { type: 'release', x, y });
  }

  again(ms = 100): this {
    this.run = begin(program, 'home')!.run;
    this.keeper.take(ms, { type: 'again' }, this.run, []);
    return this;
  }
}

describe('what somebody did', () => {
  test('run again it ends exactly where it ended, steps that wait and starting over included', () => {
    const odd = new Person()
      .press(50, 120)
      .press(50, 220)
      .press(50, 320)
      .do(700, { type: 'wait', ms: 0 } as RunEvent)
      .again()
      .press(50, 220)
      .press(50, 30);
    const trail = unwrap(readTrail(JSON.parse(JSON.stringify(odd.keeper.trail))));
    const { end, steps, ms } = followTrail(program, trail)!;
    expect({ ...end, clock: 0 }).toEqual({ ...odd.run, clock: 0 });
    expect(end.frame).toBe('shop');
    expect(steps.map(({ layer, met, to }) => [layer, met, to])).toEqual([
      [layerId('home', 'menu'), true, 'home'],
      [layerId('home', 'more'), true, 'home'],
      [layerId('home', 'ask'), true, 'home'],
      [layerId('home', 'more'), true, 'home'],
      [layerId('home', 'on'), true, 'shop'],
    ]);
    expect(ms).toBe(5 * 380 + 700 + 100);
  });

  test('presses that met nothing are told, with where they were', () => {
    const odd = new Person().press(250, 30).press(350, 700).press(50, 30);
    const { steps } = followTrail(program, odd.keeper.trail)!;
    expect(steps.map(({ met, frame, point, under }) => [met, frame, point, under])).toEqual([
      [false, 'home', { x: 250, y: 30 }, layerId('home', 'plain')],
      [false, 'home', { x: 350, y: 700 }, null],
      [true, 'home', { x: 50, y: 30 }, null],
    ]);
  });

  test('a pointer that goes on over the same things is kept where it came to last', () => {
    const odd = new Person();
    for (let i = 0; i < 100; i++) odd.do(10, { type: 'move', x: 300 + (i % 7), y: 700 });
    odd.press(50, 30);
    expect(odd.keeper.trail.events.map(([, { type }]) => type)).toEqual(['move', 'move', 'press', 'release']);
    expect(odd.keeper.trail.events[0]![0]).toBe(1000);
    expect(followTrail(program, odd.keeper.trail)!.end).toEqual(odd.run);
  });

  test('a trail that is full holds no more, and says so', () => {
    const odd = new Person();
    for (let i = 0; i < MOST_IN_TRAIL + 5; i++) odd.keeper.take(1, { type: 'pad', button: i % 9 }, odd.run, []);
    expect(odd.keeper.isFull).toBe(true);
    expect(readTrail(odd.keeper.trail).ok).toBe(true);
    expect(odd.keeper.trail.events).toHaveLength(MOST_IN_TRAIL);
  });
});

test('why nothing came of a press is told where something could have', () => {
  const shut = compile(
    compose({
      variables: { Terms: { type: 'yes/no', initial: false } },
      frames: { home: { layers: { book: { ...button(0, 0), lines: ['click → if Terms → go to paid'] } } }, paid: {} },
    })
  );
  const { steps } = followTrail(shut, {
    from: 'home',
    events: [
      [1, { type: 'press', x: 10, y: 10 }],
      [1, { type: 'release', x: 10, y: 10 }],
    ],
  })!;
  expect(steps.map(({ met, under }) => [met, under])).toEqual([[false, layerId('home', 'book')]]);
  expect(steps[0]!.whyNot).toMatch(/Terms/);
});

test('letters into one field are one thing done, and so is the press that ticks a box', () => {
  const form = compile(
    compose({
      frames: {
        home: {
          layers: {
            name: { type: 'field', at: [0, 0, 200, 40], field: { kind: 'text' } },
            terms: { type: 'field', at: [0, 100, 200, 40], field: { kind: 'checkbox' } },
          },
        },
      },
    })
  );
  const [name, terms] = [layerId('home', 'name'), layerId('home', 'terms')];
  const press = (y: number): Trail['events'] => [
    [300, { type: 'press', x: 20, y }],
    [60, { type: 'release', x: 20, y }],
  ];
  const { steps } = followTrail(form, {
    from: 'home',
    events: [
      [0, { type: 'press', x: 20, y: 20 }],
      [1, { type: 'focus', layer: name }],
      [60, { type: 'release', x: 20, y: 20 }],
      ...['O', 'Od', 'Odd'].map((value): Trail['events'][number] => [150, { type: 'value', layer: name, value }]),
      ...press(120),
      [2, { type: 'value', layer: terms, value: true }],
      ...press(300),
    ],
  })!;
  expect(steps.map(({ event: { type }, met, point, under }) => [type, met, point?.y, under])).toEqual([
    ['value', true, 20, null],
    ['value', true, 120, null],
    ['release', false, 300, null],
  ]);
});

describe('goals', () => {
  const to = (goal: Parameters<typeof isReached>[2], odd: Person) => followTrail(program, odd.keeper.trail, goal)!.reached;

  test('a frame, a frame in a state, a frame laid over, and something that holds', () => {
    const odd = new Person()
      .press(250, 30)
      .press(50, 120)
      .press(50, 220)
      .press(50, 220)
      .press(50, 320)
      .do(900, { type: 'move', x: 5, y: 5 })
      .press(150, 322);
    expect(to({ frame: 'home' }, odd)).toEqual({ steps: 0, at: 0 });
    expect(to({ frame: 'home', state: stateId() }, odd)).toEqual({ steps: 2, at: 760 });
    expect(to({ condition: `‹${variableId()}› >= 2` }, odd)).toEqual({ steps: 4, at: 4 * 380 });
    expect(to({ frame: 'card' }, odd)).toEqual({ steps: 5, at: 5 * 380 + 900 });
    expect(to({ frame: 'shop' }, odd)).toBeNull();
    expect(to({ condition: 'no such thing' }, odd)).toBeNull();
  });

  const stateId = () => Object.keys(harbour.scenes.get('home')!.states!).find((id) => harbour.scenes.get('home')!.states![id]!.name === 'open')!;
  const variableId = () => [...harbour.variables.keys()][0]!;
});

describe('trails from elsewhere', () => {
  const good: Trail = { from: 'home', events: [[5, { type: 'press', x: 1, y: 2 }]] };

  test.each([
    ['nothing', null],
    ['an event that there is not', { ...good, events: [[5, { type: 'explode' }]] }],
    ['a place that is no number', { ...good, events: [[5, { type: 'press', x: 'a', y: 2 }]] }],
    ['time that goes back', { ...good, events: [[-5, { type: 'press', x: 1, y: 2 }]] }],
    ['more than it may have', { ...good, more: 1 }],
    ['too many', { ...good, events: Array.from({ length: MOST_IN_TRAIL + 1 }, () => good.events[0]) }],
  ])('%s is refused', (_what, value) => {
    expect(readTrail(value).ok).toBe(false);
  });

  test('of 1,000 that were damaged each is refused, or runs to an end', () => {
    const odd = new Person().press(250, 30).press(50, 120).press(50, 220).do(5, { type: 'value', layer: 'x', value: 'y' }).again().press(50, 30);
    const whole = JSON.stringify(odd.keeper.trail);
    const junk: unknown[] = [null, -1, 1e300, '', '‹x›', {}, [], true, 'home', { type: 'release' }, '__proto__', [[]]];
    const random = fc.tuple(fc.nat(), fc.nat(), fc.nat(2));
    let [refused, ran] = [0, 0];
    fc.assert(
      fc.property(random, ([where, what, how]) => {
        const trail = JSON.parse(whole) as Record<string, unknown>;
        const spots: [object, string][] = [];
        const visit = (value: unknown) => {
          if (typeof value !== 'object' || value === null) return;
          for (const key of Object.keys(value)) {
            spots.push([value, key]);
            visit((value as Record<string, unknown>)[key]);
          }
        };
        visit(trail);
        const [holder, key] = spots[where % spots.length]! as [Record<string, unknown>, string];
        if (how === 0) delete holder[key];
        else if (how === 1) holder[key] = junk[what % junk.length];
        else holder[`${key}x`] = junk[what % junk.length];
        const read = readTrail(trail);
        if (!read.ok) return void refused++;
        followTrail(program, read.value, { frame: 'shop' });
        ran++;
      }),
      { numRuns: 1000 }
    );
    expect([refused > 300, ran > 20]).toEqual([true, true]);
  });

  test('one that would take for ever is stopped, also within one long wait', () => {
    const ticking = compile(
      compose({ frames: { home: { lines: ['after 100 ms → go to there'] }, there: { lines: ['after 100 ms → go to home'] } } })
    );
    let asked = 0;
    expect(followTrail(ticking, { from: 'home', events: [[1, { type: 'wait', ms: 86_000_000 }]] }, null, () => ++asked > 5)).toBeNull();
    expect(asked).toBe(6);
  });

  test('on a piece without its first frame there is nothing to follow', () => {
    expect(followTrail(program, { from: 'gone', events: [] })).toBeNull();
  });
});

describe('some frames alone', () => {
  test('go with their threads and nothing of the others; what leads out leads nowhere', () => {
    const alone = unwrap(readPiece({ ...framesAlone(harbour, new Set(['home', 'card'])), threads: {} }));
    expect([...alone.scenes.keys()].sort()).toEqual(['card', 'home']);
    const json = framesAlone(harbour, new Set(['home', 'card']));
    expect(JSON.stringify(json)).not.toContain('shop-back');
    expect(json.start).toEqual(['home']);
    expect(framesAlone(harbour, new Set(['shop', 'home']), 'shop').start).toEqual(['shop']);
    expect(framesAlone(harbour, new Set(['shop'])).start).toEqual(['shop']);
  });
});
