import { describe, expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import { resolveScreen, type Shown } from './resolve.ts';
import { compose, layerId, stateId, type ComposeSpec } from '../compose/compose.ts';
import { advance, replay, start } from './run.ts';
import type { Advanced, RunEvent, RunState } from './state.ts';

const begin = (spec: ComposeSpec) => {
  const program = compile(compose(spec));
  return { program, run: start(program)! };
};

const play = (spec: ComposeSpec, events: readonly RunEvent[]): Advanced & { shown: (key: string) => Shown | undefined } => {
  const { program, run } = begin(spec);
  const done = replay(program, run, events);
  const all = resolveScreen(program, done.run).surfaces.flatMap((surface) => surface.all);
  return { ...done, shown: (key) => all.find((one) => one.node.key === key) };
};

const click = (layer: string): RunEvent => ({ type: 'click', layer });
const id = layerId;
const fired = ({ reports }: Advanced) => reports.flatMap((report) => report.fired.map((one) => one.thread));
const whys = ({ reports }: Advanced) => reports.flatMap((report) => report.whyNot);

describe('states', () => {
  const spec: ComposeSpec = {
    frames: {
      home: {
        states: { Closed: {}, Open: { menu: { hidden: false }, icon: { style: { fill: '#222222' }, pose: { rotation: 45 } } }, Done: {} },
        layers: {
          menu: { at: [0, 100, 200, 300], hidden: true },
          icon: { at: [0, 0, 40, 40], style: { fill: '#111111' }, lines: ['click → toggle this with Open'] },
          next: { at: [100, 0, 40, 40], lines: ['click → next state'] },
          round: { at: [200, 0, 40, 40], lines: ['click → next state around'] },
          done: { at: [300, 0, 40, 40], lines: ['click → put this in Done'] },
        },
        lines: ['state Open → send opened', 'leave state Open → send closed', 'after 300 ms in Done → put this in Closed'],
      },
    },
  };

  test('a state changes what its deltas say, and toggling brings it back', () => {
    const open = play(spec, [click(id('home', 'icon'))]);
    expect(open.shown(id('home', 'menu'))).toBeDefined();
    expect(open.shown(id('home', 'icon'))).toMatchObject({ style: { fill: '#222222' }, rotation: 45 });
    expect(open.reports.flatMap((report) => report.effects)).toContainEqual(expect.objectContaining({ type: 'signal', signal: 'opened' }));
    const closed = play(spec, [click(id('home', 'icon')), click(id('home', 'icon'))]);
    expect(closed.shown(id('home', 'menu'))).toBeUndefined();
    expect(closed.reports.flatMap((report) => report.effects)).toContainEqual(expect.objectContaining({ type: 'signal', signal: 'closed' }));
  });

  test('next stops at the last state, around goes on', () => {
    const next = id('home', 'next');
    const end = play(spec, [click(next), click(next), click(next)]);
    expect(end.run.roots['home']!.states['']).toBe(stateId('home', 'Done'));
    expect(whys(end).map((why) => why.code)).toContain('nowhere');
    expect(play(spec, [click(next), click(next), click(id('home', 'round'))]).run.roots['home']!.states['']).toBe(stateId('home', 'Closed'));
  });

  test('a timer of a state starts when it is entered and ends with it', () => {
    const done = id('home', 'done');
    expect(play(spec, [click(done), { type: 'wait', ms: 300 }]).run.roots['home']!.states['']).toBe(stateId('home', 'Closed'));
    const left = play(spec, [
      click(done),
      { type: 'wait', ms: 200 },
      click(id('home', 'round')),
      click(id('home', 'next')),
      { type: 'wait', ms: 200 },
    ]);
    expect(left.run.roots['home']!.states['']).toBe(stateId('home', 'Open'));
  });
});

describe('parts and placements', () => {
  const spec: ComposeSpec = {
    parts: {
      Stepper: {
        size: [120, 40],
        states: { Low: {}, High: { bar: { style: { fill: '#00ff00' } } } },
        variables: { Count: { type: 'number', initial: 1, min: 0, max: 3 } },
        layers: {
          bar: { at: [0, 0, 120, 40], style: { fill: '#ff0000' } },
          label: { at: [40, 0, 40, 40], type: 'text', text: '{Count}' },
          minus: { at: [0, 0, 40, 40], lines: ['click → set Count to Count - 1'] },
          plus: { at: [80, 0, 40, 40], lines: ['click → set Count to Count + 1', 'click → if Count >= 2 → put this in High'] },
        },
      },
    },
    frames: {
      home: {
        layers: {
          one: { part: 'Stepper', at: [10, 10, 120, 40], fills: { [id('Stepper', 'label')]: { text: 'A' } } },
          two: { part: 'Stepper', at: [10, 110, 240, 80], state: 'High', lines: ['any state → send moved', 'hover → send over'] },
        },
      },
    },
  };

  test('each placement has its own state and variables; fills and beginnings are its own', () => {
    const plus = `${id('home', 'one')}/${id('Stepper', 'plus')}`;
    const { run, shown } = play(spec, [click(plus), click(plus)]);
    expect(run.roots['home']!.variables).toEqual({ [`${id('home', 'one')}:Stepper_v_Count`]: 3 });
    expect(shown(`${id('home', 'one')}/${id('Stepper', 'label')}`)!.text).toBe('A');
    expect(shown(`${id('home', 'two')}/${id('Stepper', 'label')}`)!.text).toBe('1');
    expect(shown(`${id('home', 'one')}/${id('Stepper', 'bar')}`)!.style.fill).toBe('#00ff00');
    expect(shown(`${id('home', 'two')}/${id('Stepper', 'bar')}`)!.style.fill).toBe('#00ff00');
  });

  test('a variable keeps within its limits', () => {
    const minus = `${id('home', 'one')}/${id('Stepper', 'minus')}`;
    expect(play(spec, [click(minus), click(minus), click(minus)]).run.roots['home']!.variables).toEqual({
      [`${id('home', 'one')}:Stepper_v_Count`]: 0,
    });
  });

  test('a placement that is stretched takes presses where it is shown', () => {
    const at = play(spec, [
      { type: 'press', x: 10 + 200, y: 110 + 40 },
      { type: 'release', x: 10 + 200, y: 110 + 40 },
    ]);
    expect(at.run.roots['home']!.variables).toEqual({ [`${id('home', 'two')}:Stepper_v_Count`]: 2 });
  });

  test('conditions read the state as it was before the event', () => {
    const plus = `${id('home', 'one')}/${id('Stepper', 'plus')}`;
    expect(play(spec, [click(plus)]).run.roots['home']!.states).toEqual({});
  });

  test('a part in a part takes a press beside its layers before the part around it does', () => {
    const nested = (inner: readonly string[], around: readonly string[]): ComposeSpec => ({
      parts: {
        Chip: { size: [50, 50], layers: { dot: { at: [0, 0, 50, 50] } }, lines: inner },
        Card: { size: [60, 120], layers: { chip: { type: 'placement', part: 'Chip', at: [0, 60, 50, 50] } }, lines: around },
      },
      frames: { home: { layers: { card: { type: 'placement', part: 'Card', at: [0, 0, 60, 120] } } } },
    });
    const dot = click(`${id('home', 'card')}/${id('Card', 'chip')}/${id('Chip', 'dot')}`);
    expect(fired(play(nested(['click → send chip'], ['click → send card']), [dot]))).toEqual(['Chip-0']);
    expect(fired(play(nested(['hover → send chip'], ['click → send card']), [dot]))).toEqual(['Card-0']);
    expect(fired(play(nested([], ['click → send card']), [dot]))).toEqual(['Card-0']);
  });

  test('a placement hears the states of its part', () => {
    const { reports } = play(spec, []);
    expect(reports).toEqual([]);
    const { program } = begin(spec);
    const all = advance(program, start(program)!, { type: 'hover', layer: id('home', 'two') });
    expect(fired(all)).toHaveLength(1);
  });
});

describe('sheets', () => {
  const spec: ComposeSpec = {
    sheets: {
      nav: {
        states: { Plain: {}, Marked: {} },
        layers: { bar: { at: [0, 0, 390, 60], lines: ['click → put this in Marked'] }, go: { at: [300, 0, 60, 60], lines: ['click → go to next'] } },
      },
    },
    frames: { a: { over: ['nav'], layers: { below: { at: [0, 0, 390, 60], lines: ['click → send below'] } } }, b: { over: ['nav'] }, c: {} },
  };

  test('a sheet keeps its state from one frame that carries it to the next, and lies over it', () => {
    const { run } = play(spec, [click(id('nav', 'bar')), click(id('nav', 'go'))]);
    expect(run.frame).toBe('b');
    expect(run.roots['nav']!.states['']).toBe(stateId('nav', 'Marked'));
    expect(Object.keys(run.roots).sort()).toEqual(['b', 'nav']);
  });

  test('it ends where a frame does not carry it', () => {
    const { run } = play(spec, [click(id('nav', 'bar')), click(id('nav', 'go')), click(id('nav', 'go'))]);
    expect(Object.keys(run.roots)).toEqual(['c']);
  });

  test('what lies below a catching layer of the sheet is covered', () => {
    expect(whys(play(spec, [click(id('a', 'below'))]))[0]!.code).toBe('covered');
  });
});

describe('frames laid over', () => {
  const spec: ComposeSpec = {
    frames: {
      home: {
        layers: {
          open: { at: [0, 0, 100, 50], lines: ['click → lay closing over dialog at center scrim 40 %'] },
          plain: { at: [0, 60, 100, 50], lines: ['click → lay over dialog at top'] },
        },
        lines: ['key k → send home'],
      },
      dialog: {
        size: [200, 100],
        layers: {
          ok: { at: [10, 10, 80, 44], lines: ['click → lift'] },
          on: { at: [100, 10, 80, 44], lines: ['click → go to end'] },
          back: { at: [10, 60, 80, 30], lines: ['click → go to back'] },
        },
      },
      end: {},
    },
  };
  const center = { x: 95, y: 372 };

  test('it takes presses where it is, keeps them off what lies below, and closes at a press beside it', () => {
    const laid = play(spec, [click(id('home', 'open'))]);
    expect(laid.run.overlays).toEqual([{ frame: 'dialog', at: 'center', scrim: 0.4, closes: true }]);
    const inside = play(spec, [
      click(id('home', 'open')),
      { type: 'press', x: center.x + 20, y: center.y + 20 },
      { type: 'release', x: center.x + 20, y: center.y + 20 },
    ]);
    expect(inside.run.overlays).toEqual([]);
    const beside = play(spec, [click(id('home', 'open')), { type: 'press', x: 10, y: 70 }, { type: 'release', x: 10, y: 70 }]);
    expect(beside.run).toMatchObject({ frame: 'home', overlays: [] });
    expect(whys(play(spec, [click(id('home', 'open')), click(id('home', 'plain'))]))[0]!.code).toBe('covered');
  });

  test('without a scrim the frame below goes on taking presses and keys', () => {
    const { run } = play(spec, [click(id('home', 'plain')), { type: 'key', key: 'k' }, click(id('home', 'plain'))]);
    expect(run.overlays).toHaveLength(1);
    expect(fired(play(spec, [click(id('home', 'plain')), { type: 'key', key: 'k' }]))).toHaveLength(2);
    expect(fired(play(spec, [click(id('home', 'open')), { type: 'key', key: 'k' }]))).toHaveLength(1);
  });

  test('going on ends it, and back lifts it first', () => {
    expect(play(spec, [click(id('home', 'open')), click(id('dialog', 'on'))]).run).toMatchObject({ frame: 'end', overlays: [], back: ['home'] });
    expect(play(spec, [click(id('home', 'open')), click(id('dialog', 'back'))]).run).toMatchObject({ frame: 'home', overlays: [] });
  });
});

describe('selecting, enabling, showing', () => {
  const spec: ComposeSpec = {
    variables: { Day: { type: 'choice', initial: 'Fri', options: ['Fri', 'Sat', 'Sun'] } },
    frames: {
      home: {
        choices: { days: 'Day' },
        layers: {
          Fri: { at: [0, 0, 60, 44], choice: 'days', selected: true, lines: ['click → select Fri'] },
          Sat: { at: [70, 0, 60, 44], choice: 'days', lines: ['click → select Sat', 'selected → send sat', 'unselected → send no-sat'] },
          Sun: { at: [140, 0, 60, 44], choice: 'days', lines: ['click → select Sun'] },
          set: { at: [210, 0, 60, 44], lines: ['click → set Day to "Sat"'] },
          Terms: { at: [0, 100, 44, 44], type: 'field', field: { kind: 'checkbox' }, label: 'Terms' },
          Pay: {
            at: [0, 200, 100, 44],
            when: { enabled: 'Terms.selected and Day != "Sun"' },
            lines: ['click → send paid', 'enabled → send on', 'disabled → send off'],
            looks: { disabled: { style: { fill: '#cccccc' } } },
          },
          Note: { at: [0, 300, 100, 44], when: { shown: 'Day = "Sat"' }, type: 'text', text: 'On {Day} only' },
        },
      },
    },
  };
  const sent = (result: Advanced) =>
    result.reports.flatMap((report) => report.effects.flatMap((effect) => (effect.type === 'signal' ? [effect.signal] : [])));

  test('of a choice group one is selected, and the variable says which', () => {
    const { run, shown } = play(spec, [click(id('home', 'Sat'))]);
    expect(run.variables).toEqual({ Day: 'Sat' });
    expect([shown(id('home', 'Fri'))!.selected, shown(id('home', 'Sat'))!.selected, shown(id('home', 'Sun'))!.selected]).toEqual([
      false,
      true,
      false,
    ]);
  });

  test('setting the variable selects; the cue fires however it came about', () => {
    const result = play(spec, [click(id('home', 'set')), click(id('home', 'Fri'))]);
    expect(sent(result)).toEqual(['sat', 'no-sat']);
  });

  test('a binding wins, whoever changes what it reads, and says why not', () => {
    const off = play(spec, [click(id('home', 'Pay'))]);
    expect(whys(off)[0]).toMatchObject({ code: 'disabled', clause: 'Terms.selected', sentence: 'Pay was disabled: Terms.selected was no.' });
    expect(off.shown(id('home', 'Pay'))!.style.fill).toBe('#cccccc');
    const on = play(spec, [click(id('home', 'Terms')), click(id('home', 'Pay'))]);
    expect(sent(on)).toEqual(['on', 'paid']);
    expect(sent(play(spec, [{ type: 'value', layer: id('home', 'Terms'), value: true }, click(id('home', 'Sun'))]))).toEqual(['on', 'off']);
  });

  test('shown when, and a text that follows', () => {
    expect(play(spec, []).shown(id('home', 'Note'))).toBeUndefined();
    expect(play(spec, [click(id('home', 'set'))]).shown(id('home', 'Note'))!.text).toBe('On Sat only');
  });

  test('select, enable and show by steps, also as a toggle', () => {
    const steps: ComposeSpec = {
      frames: {
        home: {
          layers: {
            a: { at: [0, 0, 50, 50], lines: ['click → hide b; disable c; select a'] },
            d: { at: [60, 0, 50, 50], lines: ['click → show or hide b; enable or disable c; select or unselect a'] },
            b: { at: [0, 100, 50, 50] },
            c: { at: [0, 200, 50, 50], lines: ['click → send c'] },
          },
        },
      },
    };
    const once = play(steps, [click(id('home', 'a'))]);
    expect([once.shown(id('home', 'b')), once.shown(id('home', 'c'))!.enabled, once.shown(id('home', 'a'))!.selected]).toEqual([
      undefined,
      false,
      true,
    ]);
    const twice = play(steps, [click(id('home', 'a')), click(id('home', 'd'))]);
    expect([twice.shown(id('home', 'b')) !== undefined, twice.shown(id('home', 'c'))!.enabled, twice.shown(id('home', 'a'))!.selected]).toEqual([
      true,
      true,
      false,
    ]);
  });
});

describe('looks', () => {
  const spec: ComposeSpec = {
    frames: {
      home: {
        layers: {
          row: {
            type: 'group',
            selected: true,
            looks: {
              hover: { inside: { dot: { style: { fill: '#0000ff' } } } },
              selected: { inside: { dot: { style: { fill: '#00ff00' } } } },
              selectedHover: { inside: { dot: { style: { fill: '#00ffff' } } } },
            },
            lines: ['click → select or unselect row'],
          },
          dot: { in: 'row', at: [0, 0, 50, 50], style: { fill: '#ff0000' }, looks: { press: { style: { corner: 9 } } } },
        },
      },
    },
  };

  test('a look of a group changes what is in it: selected, hovered, and both', () => {
    const dot = id('home', 'dot');
    const at = { x: 10, y: 10 };
    expect(play(spec, []).shown(dot)!.style.fill).toBe('#00ff00');
    expect(play(spec, [{ type: 'move', ...at }]).shown(dot)!.style.fill).toBe('#00ffff');
    expect(
      play(spec, [
        { type: 'move', ...at },
        { type: 'press', ...at },
      ]).shown(dot)!.style
    ).toMatchObject({ corner: 9 });
    expect(
      play(spec, [
        { type: 'press', ...at },
        { type: 'release', ...at },
        { type: 'move', ...at },
      ]).shown(dot)!.style.fill
    ).toBe('#0000ff');
  });
});

describe('returning', () => {
  const frames = (onReturn: 'remember' | 'start over'): ComposeSpec => ({
    frames: {
      home: { onReturn, states: { A: {}, B: {} }, layers: { b: { lines: ['click → put this in B; go to other'] } } },
      other: { layers: { back: { lines: ['click → go to back'] } } },
    },
  });
  const events = [click(id('home', 'b')), click(id('other', 'back'))];

  test('a scene starts over unless it remembers', () => {
    expect(play(frames('start over'), events).run.roots['home']!.states).toEqual({});
    expect(play(frames('remember'), events).run.roots['home']!.states).toEqual({ '': stateId('home', 'B') });
  });
});

describe('endless loops', () => {
  test('threads that set each other off are stopped and named', () => {
    const spec: ComposeSpec = {
      variables: { n: { type: 'number', initial: 0 } },
      frames: { home: { layers: { go: { lines: ['click → set n to 1'] } }, lines: ['variable n → set n to n + 1'] } },
    };
    const result = play(spec, [click(id('home', 'go'))]);
    expect(
      whys(result)
        .filter((why) => why.code === 'endless-loop')
        .map((why) => why.thread)
    ).toContain('home-0');
    expect(result.run.frame).toBe('home');
  });

  test('bindings that chase each other are stopped too', () => {
    const spec: ComposeSpec = {
      frames: {
        home: {
          layers: { a: { when: { x: 'b.x + 1' } }, b: { when: { x: 'a.x + 1' } }, go: { at: [0, 200, 50, 50], lines: ['click → move a by 1, 1'] } },
        },
      },
    };
    expect(play(spec, [click(id('home', 'go'))]).run.frame).toBe('home');
  });
});

test('a change of one variable computes again what reads it and nothing else', () => {
  const texts = Object.fromEntries(
    Array.from({ length: 30 }, (_, i) => [`t${i}`, { at: [0, i * 20, 50, 18] as const, type: 'text' as const, text: `{v${i}}` }])
  );
  const variables = Object.fromEntries(Array.from({ length: 30 }, (_, i) => [`v${i}`, { type: 'number' as const, initial: 0 }]));
  const piece = compose({ variables, frames: { home: { layers: texts } } });
  let parsed = 0;
  const inner = compile(piece);
  const program = { ...inner, parse: (stored: string) => (parsed++, inner.parse(stored)) };
  const run: RunState = start(program)!;
  parsed = 0;
  const next = advance(program, run, { type: 'set', variable: 'v7', value: 5 });
  expect(parsed).toBe(1);
  const changed = Object.entries(next.run.roots['home']!.bound).filter(([key, value]) => run.roots['home']!.bound[key] !== value);
  expect(changed.map(([, value]) => value)).toEqual(['5']);
});
