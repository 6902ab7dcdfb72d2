import { describe, expect, test } from 'vitest';
import { layerId as id, stateId } from '../compose/compose.ts';
import type { ComposeSpec } from '../compose/compose.ts';
import { counting, told } from '../testing/told.ts';
import { runnerIn } from './machine.ts';
import { RecordingStore } from './recording.ts';
import { advanceIn } from './run.ts';
import { fitVariable, isWithin } from './runner.ts';
import type { RunEvent } from './state.ts';

/** What changes, and what follows from it: flags, choices, fields, variables, states, bindings, steps that wait. */

const here = (name: string) => id('home', name);
const key = (name: string): RunEvent => ({ type: 'key', key: name });
const wait = (ms: number): RunEvent => ({ type: 'wait', ms });
const box = (y: number, ...lines: string[]) => ({ at: [0, y, 50, 50] as const, lines });

describe('selecting and enabling', () => {
  const layers = { a: box(0, ...counting('selected', 'unselected', 'enabled', 'disabled')), b: { ...box(100), selected: true } };

  test('is told to the layer, and only when it was not so', () => {
    const { run } = told({}, layers, ['key s → select a', 'key u → unselect a', 'key e → enable a', 'key d → disable a']);
    expect(run(key('s'), key('s')).told.slice(1, 3)).toEqual(['a: selected', 'home: key']);
    expect(run(key('s')).run.roots['home']!.flags).toEqual({ [`${here('a')}.selected`]: true });
    expect(run(key('u')).told).toEqual(['home: key']);
    expect(run(key('s'), key('u')).told).toEqual(['home: key', 'a: selected', 'home: key', 'a: selected']);
    expect(run(key('e')).told).toEqual(['home: key']);
    expect(run(key('d')).told).toEqual(['home: key', 'a: enabled']);
    expect(run(key('d'), key('e'), key('e')).told).toEqual(['home: key', 'a: enabled', 'home: key', 'a: enabled', 'home: key']);
  });

  test('what reads it is worked out again: by what is in it too', () => {
    const bound = { c: { ...box(200), when: { shown: 'b.enabled', selected: 'b.selected' } as const } };
    const { run } = told({}, { ...layers, ...bound }, ['key d → disable b', 'key u → unselect b']);
    const now = (...events: RunEvent[]) => {
      const root = run(...events).run.roots['home']!;
      return [root.bound[`${here('c')}:shown`], root.bound[`${here('c')}:selected`]];
    };
    expect([now(), now(key('d')), now(key('u'))]).toEqual([
      [true, true],
      [false, true],
      [true, false],
    ]);
  });
});

describe('choice groups', () => {
  const choice = (y: number, more: object = {}) => ({
    ...box(y, 'click → select this', ...counting('selected', 'unselected')),
    choice: 'days',
    ...more,
  });
  const spec: Omit<ComposeSpec, 'frames'> = { variables: { day: { type: 'choice', initial: 'none', options: ['none', 'Fri', 'Sat'] } } };
  const frame = {
    choices: { days: 'day', others: null },
    layers: {
      Fri: choice(0),
      Sat: choice(100),
      other: { ...box(200, 'click → select this'), choice: 'others' },
    },
    lines: ['key f → set day to "Fri"', 'key u → unselect Fri', 'key n → set day to "none"'],
  };
  const { run } = told({ ...spec, frames: { home: frame } });
  const click = (name: string): RunEvent => ({ type: 'click', layer: here(name) });
  const flags = (...events: RunEvent[]) =>
    Object.entries(run(...events).run.roots['home']!.flags)
      .filter(([, on]) => on)
      .map(([name]) => name.replace(/^.*_|\.selected$/g, ''));

  test('have at most one selected, and their variable says which', () => {
    expect(flags(click('Fri'))).toEqual(['Fri']);
    expect(flags(click('Fri'), click('Sat'))).toEqual(['Sat']);
    expect(run(click('Fri'), click('Sat')).run.variables['day']).toBe('Sat');
    expect(run(click('Fri'), click('Sat')).told).toEqual(['Fri: click', 'Fri: selected', 'Sat: click', 'Sat: selected', 'Fri: selected']);
    expect(flags(click('Fri'), click('other')).sort()).toEqual(['Fri', 'other']);
  });

  test('follow their variable, and say none where none is left', () => {
    expect(flags(key('f'))).toEqual(['Fri']);
    expect(flags(click('Sat'), key('f'))).toEqual(['Fri']);
    expect(flags(click('Fri'), key('n'))).toEqual([]);
    expect(run(click('Fri'), key('u')).run.variables['day']).toBe('none');
    expect(run(click('Sat'), key('u')).run.variables['day']).toBe('Sat');
  });

  test('whose variable is a text say none by an empty one; one that has no word for it keeps its last', () => {
    const text = told({ variables: { day: { type: 'text', initial: '' } }, frames: { home: frame } });
    expect(text.run(click('Fri')).run.variables['day']).toBe('Fri');
    expect(text.run(click('Fri'), key('u')).run.variables['day']).toBe('');
    const strict = told({
      variables: { day: { type: 'choice', initial: 'Sat', options: ['Fri', 'Sat'] } },
      frames: { home: { ...frame, lines: ['key u → unselect Fri'] } },
    });
    expect(strict.run(click('Fri'), key('u')).run.variables['day']).toBe('Fri');
  });

  test('of a part are one group in each place', () => {
    const parts = {
      Pick: {
        size: [100, 100] as const,
        choices: { one: null },
        layers: { l: { ...box(0, 'click → select this'), choice: 'one' }, r: { ...box(50, 'click → select this'), choice: 'one' } },
      },
    };
    const placed = (x: number) => ({ type: 'placement' as const, part: 'Pick', at: [x, 0, 100, 100] as const });
    const two = told({ parts }, { a: placed(0), b: placed(200) });
    const pick = (place: string, name: string): RunEvent => ({ type: 'click', layer: `${here(place)}/${id('Pick', name)}` });
    const after = two.run(pick('a', 'l'), pick('b', 'r'), pick('a', 'r')).run.roots['home']!.flags;
    expect(Object.entries(after).flatMap(([name, on]) => (on ? [name] : []))).toEqual([
      `${here('b')}/${id('Pick', 'r')}.selected`,
      `${here('a')}/${id('Pick', 'r')}.selected`,
    ]);
  });

  test('stand for their own value where they have one', () => {
    const valued = { ...frame, layers: { Fri: choice(0, { choiceValue: 'Sat' }) }, lines: [] };
    expect(told({ ...spec, frames: { home: valued } }).run(click('Fri')).run.variables['day']).toBe('Sat');
  });
});

describe('fields', () => {
  const field = (kind: object, ...lines: string[]) => ({ type: 'field' as const, at: [0, 0, 50, 20] as const, field: kind as never, lines });
  const value = (layer: string, to: string | number | boolean): RunEvent => ({ type: 'value', layer: here(layer), value: to });

  test('hold what fits them: numbers within their limits, one of their options, texts of a length', () => {
    const { run } = told(
      {},
      {
        num: field({ kind: 'number', min: 2, max: 8 }, ...counting('change')),
        free: field({ kind: 'slider' }),
        pick: field({ kind: 'choice', options: ['Ebb', 'Flood'] }),
        word: field({ kind: 'text' }),
      }
    );
    const holds = (layer: string, to: string | number | boolean) => run(value(layer, to)).run.roots['home']!.values[here(layer)];
    expect([1, 5, 9, '6', 'many'].map((to) => holds('num', to))).toEqual([undefined, 5, 8, 6, undefined]);
    expect([-1e9, 1e9].map((to) => holds('free', to))).toEqual([-1e9, 1e9]);
    expect(['Ebb', 'Slack'].map((to) => holds('pick', to))).toEqual(['Ebb', undefined]);
    expect(holds('word', 'x'.repeat(20_000))).toHaveLength(2000);
    expect(run(value('num', 5), value('num', 5)).told).toEqual(['num: change']);
    expect(run(value('num', 5), value('num', 6)).told).toEqual(['num: change', 'num: change']);
  });

  test('mirror a variable in both directions, where it is theirs', () => {
    const spec = {
      variables: { name: { type: 'text' as const, initial: '' }, ok: { type: 'yes/no' as const, initial: false } },
      frames: {
        home: {
          layers: {
            f: field({ kind: 'text', variable: 'name' }, ...counting('change')),
            t: field({ kind: 'checkbox', variable: 'ok' }, ...counting('change')),
            s: { ...field({ kind: 'switch' }, ...counting('change')), at: [0, 300, 50, 20] as const },
          },
          lines: ['key n → set name to "Ebb"', 'key o → set ok to true', ...counting('variable name')],
        },
      },
    };
    const { run } = told(spec);
    expect(run(value('f', 'Flood'))).toMatchObject({ run: { variables: { name: 'Flood' } }, told: ['f: change', 'home: variable'] });
    expect(run(key('n')).run.roots['home']!.values).toEqual({ [here('f')]: 'Ebb' });
    expect(run(key('n')).told).toEqual(['home: key', 'home: variable', 'f: change']);
    expect(run(value('t', true))).toMatchObject({ run: { variables: { ok: true } }, told: ['t: change'] });
    expect(run(key('o')).run.roots['home']!.flags).toEqual({ [`${here('t')}.selected`]: true });
    expect(run(value('s', true)).told).toEqual(['s: change']);
    expect(run(value('s', false)).told).toEqual([]);
  });

  test('of parts mirror the variable of their own place', () => {
    const parts = {
      Count: {
        size: [50, 50] as const,
        variables: { c: { type: 'number' as const, initial: 0 } },
        layers: { f: field({ kind: 'number', variable: 'Count_v_c' }) },
        lines: ['key c → set c to c + 1', ...counting('variable c')],
      },
    };
    const { run } = told(
      { parts },
      { a: { type: 'placement', part: 'Count', at: [0, 0, 50, 50] }, b: { type: 'placement', part: 'Count', at: [100, 0, 50, 50] } }
    );
    const inner = (place: string) => `${here(place)}/${id('Count', 'f')}`;
    const done = run({ type: 'value', layer: inner('a'), value: 4 });
    expect(Object.values(done.run.roots['home']!.variables)).toEqual([4]);
    expect(done.run.roots['home']!.values).toEqual({ [inner('a')]: 4 });
    expect(done.told).toEqual(['Count: variable']);
  });
});

describe('variables', () => {
  const fit = (type: string, value: string | number | boolean, more = {}) => fitVariable({ name: 'v', type, ...more }, value);

  test('hold what is of their type, within their limits, one of their options', () => {
    expect([fit('number', 5), fit('number', -1, { min: 0 }), fit('number', 9, { max: 3 }), fit('number', -1e9), fit('number', 1e9)]).toEqual([
      5, 0, 3, -1e9, 1e9,
    ]);
    expect([fit('yes/no', true), fit('text', 'Ebb'), fit('choice', 'Ebb', { options: ['Ebb'] })]).toEqual([true, 'Ebb', 'Ebb']);
    expect(fit('number', 'x')).toEqual({ why: 'v is of type number, so it cannot be x.' });
    expect(fit('text', 1.5)).toEqual({ why: 'v is of type text, so it cannot be 1.5.' });
    expect(fit('number', true)).toEqual({ why: 'v is of type number, so it cannot be yes.' });
    expect(fit('text', false)).toEqual({ why: 'v is of type text, so it cannot be no.' });
    expect(fit('number', Infinity)).toEqual({ why: 'v cannot be that large.' });
    expect(fit('choice', 'Slack', { options: ['Ebb'] })).toEqual({ why: '“Slack” is none of the options of v.' });
    expect(fit('choice', 'Slack')).toEqual({ why: '“Slack” is none of the options of v.' });
    expect(fit('text', 'x'.repeat(2000))).toHaveLength(2000);
    expect(fit('text', 'x'.repeat(2001))).toEqual({ why: 'v holds at most 2000 signs.' });
  });

  test('tell of a change, not of being set to what they are', () => {
    const { run } = told({}, {}, ['key a → set n to 0', 'key b → set n to 5', 'variable n → send told']);
    expect(run(key('a')).told).toEqual(['home: key']);
    expect(run(key('b'), key('b')).told).toEqual(['home: key', 'home: variable', 'home: key']);
  });

  test('that cannot take a value say why, and stay', () => {
    const { run } = told({ variables: { t: { type: 'text', initial: '' } } }, {}, [
      'key t → set t to string(1) ; set n to n + 1',
      'key x → set n to number("x")',
    ]);
    expect(run(key('t')).run.variables).toEqual({ t: '1', n: 1 });
    expect(run(key('x')).whys).toContain('expression-error');
    expect(run(key('x')).run.variables).toEqual({});
  });
});

describe('states', () => {
  const parts = {
    Lamp: {
      size: [50, 50] as const,
      states: { Off: {}, On: {}, Dim: {} },
      layers: { glow: box(0, 'click → next state around', ...counting('after 1 s in On')) },
      lines: counting('state On', 'leave state Off', 'any state', 'after 2 s in On'),
    },
  };
  const lamp = { type: 'placement' as const, part: 'Lamp', at: [0, 0, 50, 50] as const };
  const { run } = told({ parts }, { a: { ...lamp, lines: counting('state On') }, b: { ...lamp, at: [100, 0, 50, 50] } });
  const glow = (place: string): RunEvent => ({ type: 'click', layer: `${here(place)}/${id('Lamp', 'glow')}` });

  test('that are come into and left are told to their scene and to the placement that shows it', () => {
    const begun = run();
    expect(begun.told).toEqual([]);
    const on = run(glow('a'));
    expect([...on.told].sort()).toEqual(['Lamp: state', 'Lamp: state', 'Lamp: state', 'a: state', 'glow: click'].sort());
    expect(run(glow('b')).told).not.toContain('a: state');
    expect(on.run.roots['home']!.states).toEqual({ [here('a')]: stateId('Lamp', 'On') });
  });

  test('have timers, which end with them', () => {
    expect(run(glow('a'), wait(999)).told).toHaveLength(5);
    expect(run(glow('a'), wait(1000)).told.slice(5)).toEqual(['glow: after']);
    expect(run(glow('a'), wait(2000)).told.slice(5)).toEqual(['glow: after', 'Lamp: after']);
    expect(run(glow('a'), wait(1500), glow('a'), wait(5000)).told.filter((one) => one.endsWith('after'))).toEqual(['glow: after']);
    // Those of another place go on.
    expect(run(glow('a'), glow('b'), wait(500), glow('a'), wait(5000)).told.filter((one) => one.endsWith('after'))).toEqual([
      'glow: after',
      'Lamp: after',
    ]);
  });

  test('of what is around ask for those of what is in it', () => {
    const around = {
      states: { Day: {}, Night: { a: { state: stateId('Lamp', 'On') } } },
      layers: { a: lamp },
      lines: ['key n → put home in Night', 'key d → put home in Day', ...counting('state Night')],
    };
    const spec = { parts: { Lamp: { ...parts.Lamp, lines: counting('state On', 'leave state On') } }, frames: { home: around } };
    const nested = told({ ...spec, frames: { home: { ...around, lines: around.lines.map((line) => line.replace('put home in', 'put this in')) } } });
    expect(nested.run(key('n')).told.sort()).toEqual(['Lamp: state', 'home: key', 'home: state'].sort());
    expect(nested.run(key('n'), key('d')).told.filter((one) => one === 'Lamp: state')).toHaveLength(2);
    expect(nested.run(key('n'), key('n')).told.filter((one) => one === 'home: state')).toHaveLength(1);
  });

  test('that a binding names are come into when what it reads changes', () => {
    const spec = {
      parts,
      variables: { mode: { type: 'text' as const, initial: 'Off' } },
      frames: {
        home: {
          stateIs: 'mode',
          states: { Off: {}, On: { a: { pose: { x: 9 } } } },
          layers: { a: { ...lamp, when: { state: 'mode' } as const, lines: counting('state On', 'leave state Off') } },
          lines: ['key o → set mode to "On"', 'key d → set mode to "Dim"', ...counting('state On', 'leave state Off')],
        },
      },
    };
    const bound = told(spec);
    const on = bound.run(key('o'));
    expect(on.told.filter((one) => one === 'a: state')).toHaveLength(2);
    expect(on.told.filter((one) => one === 'home: state')).toHaveLength(2);
    expect(bound.run(key('o'), key('o')).told.filter((one) => one === 'a: state')).toHaveLength(2);
    expect(bound.run(key('d')).told.filter((one) => one === 'a: state')).toEqual(['a: state']);
    expect(bound.run(key('d')).told.filter((one) => one === 'home: state')).toEqual([]);
  });
});

describe('bindings', () => {
  test('tell of what they select, enable, show and move', () => {
    const layers = {
      a: { ...box(0, 'selected → send on', 'disabled → send off'), when: { selected: 'n > 0', enabled: 'n < 2', x: 'n * 10' } as const },
      r: { ...box(100), when: { x: 'a.x', shown: 'a.selected', selected: 'a.enabled' } as const },
      g: { type: 'group' as const, at: [0, 200, 50, 50] as const, when: { shown: 'n < 3' } as const },
      i: { in: 'g', at: [0, 0, 9, 9] as const },
      s: { ...box(300), when: { shown: 'i.shown' } as const },
    };
    const { run } = told({}, layers, ['key a → set n to n + 1']);
    const at = (times: number) => run(...Array.from({ length: times }, () => key('a')));
    const bound = (times: number) => {
      const { bound: all } = at(times).run.roots['home']!;
      return [all[`${here('r')}:x`], all[`${here('r')}:shown`], all[`${here('r')}:selected`], all[`${here('s')}:shown`]];
    };
    expect([bound(0), bound(1), bound(2), bound(3)]).toEqual([
      [0, false, true, true],
      [10, true, true, true],
      [20, true, false, true],
      [30, true, false, false],
    ]);
    expect(at(1).told).toEqual(['home: key', 'a: selected']);
    expect(at(2).told).toEqual(['home: key', 'a: selected', 'home: key', 'a: enabled']);
  });

  test('read what steps and drags do to layers', () => {
    const layers = {
      a: { ...box(0), drag: { axis: 'both' as const } },
      b: { ...box(200), when: { x: 'a.x', y: 'a.y' } as const },
      c: { ...box(400), hidden: true, when: { x: 'a.y' } as const },
    };
    const { run } = told({}, layers, ['key m → move a by 5, 0', 'key h → hide a', 'key w → tween width of a to 9']);
    const b = (...events: RunEvent[]) => {
      const { bound } = run(...events).run.roots['home']!;
      return [bound[`${here('b')}:x`], bound[`${here('b')}:y`]];
    };
    expect([b(), b(key('m')), b({ type: 'drag', layer: here('a'), dx: 7, dy: 8 }), b(key('w'))]).toEqual([
      [0, 0],
      [5, 0],
      [7, 8],
      [0, 0],
    ]);
  });

  test('what cannot be worked out is nothing, and says so', () => {
    const { run, begun } = told({}, { a: { ...box(0), when: { x: '1 / n' } }, t: { type: 'text', at: [0, 100, 50, 50], text: 'x {1 / n} {n}' } }, [
      'key a → set n to 4',
    ]);
    expect(begun.roots['home']!.bound[`${here('a')}:x`]).toBeNull();
    expect(Object.values(begun.roots['home']!.bound)).toContain('x ? 0');
    expect(run(key('a')).run.roots['home']!.bound[`${here('a')}:x`]).toBe(0.25);
    expect(Object.values(run(key('a')).run.roots['home']!.bound)).toContain('x 0.25 4');
  });

  test('of texts say numbers without what adding up leaves, and yes or no', () => {
    const { begun } = told(
      { variables: { yes: { type: 'yes/no', initial: true }, no: { type: 'yes/no', initial: false } } },
      { t: { type: 'text', at: [0, 0, 9, 9], text: '{0.1 + 0.2} {yes} {no}' } }
    );
    expect(Object.values(begun.roots['home']!.bound)).toEqual(['0.3 yes no']);
  });
});

describe('steps that take their time', () => {
  test('end with their scene, unless they are lasting or the thread is of the piece', () => {
    const frames = (line: string, of: 'layer' | 'scene' | 'piece') => ({
      ...(of === 'piece' && { lines: [`key w → ${line}`] }),
      frames: {
        home: {
          layers: { a: box(0, ...(of === 'layer' ? [`click → ${line}`] : [])) },
          lines: ['key g → go to shop', ...(of === 'scene' ? [`key w → ${line}`] : [])],
        },
        shop: {},
      },
    });
    const after = (line: string, of: 'layer' | 'scene' | 'piece') => {
      const { run } = told(frames(line, of));
      const begin: RunEvent = of === 'layer' ? { type: 'click', layer: here('a') } : key('w');
      const left = run(begin, key('g'), wait(2000)).run;
      const stayed = run(begin, wait(999)).run;
      const done = run(begin, wait(1000)).run;
      return [stayed.variables['n'], done.variables['n'], left.variables['n'], left.activities.length];
    };
    const plain = 'wait 1 s; set n to 7';
    expect(after(plain, 'layer')).toEqual([undefined, 7, undefined, 0]);
    expect(after(plain, 'scene')).toEqual([undefined, 7, undefined, 0]);
    expect(after(plain, 'piece')).toEqual([undefined, 7, 7, 0]);
    expect(after('lasting wait 1 s; set n to 7', 'layer')).toEqual([undefined, 7, 7, 0]);
  });

  test('what would wait in a scene that was left by the same thread waits where it led', () => {
    const { run } = told({ frames: { home: { lines: ['key g → go to shop; wait 1 s; go to last'] }, shop: {}, end: {} } });
    expect(run(key('g')).run.frame).toBe('shop');
    expect(run(key('g'), wait(1000)).run.frame).toBe('end');
  });

  test('those joined begin together, and the next ones when the longest has ended', () => {
    const { run } = told({}, {}, ['key a → wait 300 ms; with wait 100 ms; set n to 1; with set n to n + 1; wait 50 ms; set n to 5']);
    const n = (ms: number) => run(key('a'), wait(ms)).run.variables['n'];
    expect([n(299), n(300), n(349), n(350)]).toEqual([undefined, 2, 2, 5]);
    expect(run(key('a'), key('a'), wait(300)).run.activities).toHaveLength(2);
  });

  test('a thread that is gone meanwhile does not go on, and its report names what it is of', () => {
    const { run, from, made } = told({}, { a: box(0, 'click → wait 1 s; set n to 3') });
    const waiting = run({ type: 'click', layer: here('a') }).run;
    expect(from(waiting, wait(1000)).reports.at(-1)).toMatchObject({ layer: here('a'), fired: [{ branch: 0 }] });
    const [activity] = waiting.activities;
    const gone = { ...waiting, activities: [{ ...activity!, thread: 'gone' }] };
    expect(from(gone, wait(1000)).run.variables['n']).toBeUndefined();
    const cut = { ...waiting, activities: [{ ...activity!, branch: 4 }] };
    expect(from(cut, wait(1000)).run.variables['n']).toBeUndefined();
    expect(made.threads.has(activity!.thread)).toBe(true);
  });
});

describe('without end', () => {
  test('threads that set each other off are stopped, and named', () => {
    const { run } = told({ variables: { m: { type: 'number', initial: 0 } } }, {}, [
      'key a → set n to 1',
      'variable n → set m to m + 1',
      'variable m → set n to n + 1',
    ]);
    const done = run(key('a'));
    expect(done.whys).toEqual(['endless-loop', 'endless-loop', 'endless-loop'].slice(0, done.whys.length));
    expect(done.whys.length).toBeGreaterThan(1);
    expect(done.run.variables['n']).toBeLessThan(2000);
    // What comes after is as good as ever.
    const after = run(key('a'), key('q'));
    expect(after.whys.at(-1)).toBe('no-thread');
  });

  test('bindings that read each other are stopped too', () => {
    const { run } = told({}, { a: { ...box(0), when: { x: 'b.x + n' } }, b: { ...box(100), when: { x: 'a.x + 1' } } }, ['key a → set n to 1']);
    expect(run(key('a')).whys).toContain('endless-loop');
  });
});

describe('leaving', () => {
  test('a scene gives up its focus, timers and what plays; one that remembers keeps what it was like', () => {
    const film = { type: 'video' as const, at: [0, 100, 50, 50] as const };
    const home = {
      layers: { a: box(0, 'click → select this', ...counting('focus')), film },
      lines: ['key g → go to shop', ...counting('after 1 s')],
    };
    const shop = { lines: ['key b → go to home'], layers: {} };
    const events: RunEvent[] = [
      { type: 'focus', layer: here('a') },
      { type: 'click', layer: here('a') },
      { type: 'media', layer: here('film'), what: 'started' },
      key('g'),
    ];
    const forgets = told({ frames: { home, shop } });
    const left = forgets.run(...events);
    expect(left.run.focus).toBeNull();
    expect(Object.keys(left.run.roots)).toEqual(['shop']);
    expect(left.reports.at(-1)!.effects).toContainEqual({ type: 'media', node: here('film'), do: 'pause' });
    expect(forgets.run(...events, wait(3000)).told).not.toContain('home: after');
    expect(forgets.run(...events, key('b')).run.roots['home']!.flags).toEqual({});
    expect(forgets.run(...events, key('b'), wait(1000)).told.at(-1)).toBe('home: after');
    const keeps = told({ frames: { home: { ...home, onReturn: 'remember' }, shop } });
    expect(keeps.run(...events, key('b')).run.roots['home']!.flags).toEqual({ [`${here('a')}.selected`]: true });
    expect(keeps.run(...events).run.roots['home']).toMatchObject({ timers: [], media: {} });
    expect(keeps.run(...events, wait(3000)).told).not.toContain('home: after');
    // The focus of what stays is kept.
    const sheet = told({
      sheets: { bar: { layers: { s: box(300) } } },
      frames: { home: { ...home, over: ['bar'] }, shop: { ...shop, over: ['bar'] } },
    });
    expect(sheet.run({ type: 'focus', layer: id('bar', 's') }, key('g')).run.focus).toBe(id('bar', 's'));
  });

  test('a frame is one step to go back, however often it was led on within one event', () => {
    const { run } = told({ frames: { home: { lines: ['key g → go to shop; go to end'] }, shop: {}, end: { lines: ['key b → go to back'] } } });
    expect(run(key('g')).run).toMatchObject({ frame: 'end', back: ['home'] });
    expect(run(key('g'), key('b')).run).toMatchObject({ frame: 'home', back: [] });
  });
});

test('what is told is reported with what set it off', () => {
  const { run } = told({}, { a: box(0, 'selected → set n to 1') }, ['key s → select a', 'key e → send hello']);
  const { reports } = run(key('s'));
  expect(reports.map(({ cause, layer, fired }) => [cause, layer, fired.length])).toEqual([
    [undefined, null, 1],
    ['a is selected', here('a'), 1],
  ]);
  expect(run({ type: 'move', x: 300, y: 700 }, wait(10)).reports).toEqual([]);
  expect(run(key('q')).reports).toHaveLength(1);
  expect(run(key('e')).reports[0]!.effects).toMatchObject([{ type: 'signal', signal: 'hello' }]);
});

describe('what steps come to', () => {
  test('threads that act are told apart from those that only fire', () => {
    const { program, begun, made } = told({}, { a: box(0) }, ['key a → select a', 'key b → unselect a', 'key c → send gull', 'key d → wait 1 s']);
    const acts = (name: string) => {
      const event = key(name);
      const runner = runnerIn(program, RecordingStore.on(begun), event);
      advanceIn(runner, event);
      return [...runner.acted.keys()].map((branch) => made.threads.get(branch.split(/[ :#/]/)[0]!)?.cue);
    };
    expect(acts('a')).toHaveLength(1);
    expect(acts('b')).toEqual([]);
    expect(acts('c')).toHaveLength(1);
    expect(acts('d')).toEqual([]);
  });
});

describe('what is read of layers', () => {
  test('is worked out again when a state of what is around moves, hides or shows them', () => {
    const layers = {
      a: box(0),
      b: { ...box(100), hidden: true },
      c: { ...box(200), when: { x: 'a.x', y: 'a.y + 200', shown: 'b.shown', selected: 'home.state = "Night"' } as const },
    };
    const frame = {
      layers,
      states: { Day: {}, Night: { a: { pose: { x: 7, y: 9 } }, b: { hidden: false } } },
      lines: ['key n → put this in Night', 'key d → put this in Day'],
    };
    const { run } = told({ frames: { home: frame } });
    const c = (...events: RunEvent[]) => {
      const { bound } = run(...events).run.roots['home']!;
      return ['x', 'y', 'shown', 'selected'].map((what) => bound[`${here('c')}:${what}`]);
    };
    expect([c(), c(key('n')), c(key('n'), key('d'))]).toEqual([
      [0, 200, false, false],
      [7, 209, true, true],
      [0, 200, false, false],
    ]);
  });

  test('also of layers in parts, of their own place', () => {
    const parts = {
      Lamp: {
        size: [50, 50] as const,
        states: { Off: {}, On: { glow: { pose: { x: 5 } } } },
        layers: { glow: box(0, 'click → next state around'), mark: { ...box(20), when: { x: 'glow.x' } as const } },
      },
    };
    const placed = (x: number) => ({ type: 'placement' as const, part: 'Lamp', at: [x, 0, 50, 50] as const });
    const { run } = told({ parts }, { a: placed(0), ab: placed(100), t: { ...box(300), when: { selected: 'a.state = "On"' } as const } });
    const after = run({ type: 'click', layer: `${here('a')}/${id('Lamp', 'glow')}` }).run.roots['home']!.bound;
    const mark = (place: string) => after[`${here(place)}/${id('Lamp', 'mark')}:x`];
    expect([mark('a'), mark('ab'), after[`${here('t')}:selected`]]).toEqual([5, 0, true]);
  });

  test('of a great many at once, each is worked out', () => {
    const many = Object.fromEntries(Array.from({ length: 450 }, (_, i) => [`l${i}`, { ...box(0), when: { x: `n * ${i}` } as const }]));
    const { run } = told({}, many, ['key a → set n to 2']);
    const done = run(key('a'));
    expect(done.whys).toEqual([]);
    expect([0, 225, 449].map((i) => done.run.roots['home']!.bound[`${here(`l${i}`)}:x`])).toEqual([0, 450, 898]);
  });

  test('instances lie within others by their keys', () => {
    const at = (name: string) => ({ key: name }) as Parameters<typeof isWithin>[0];
    const one = at('a');
    expect([
      isWithin(one, one),
      isWithin(at('a/b'), at('a')),
      isWithin(at('ab'), at('a')),
      isWithin(at('a'), at('a/b')),
      isWithin(at('x'), at('')),
    ]).toEqual([true, true, false, false, true]);
  });
});

test('timers of a scene go on whatever state it comes into; a choice keeps its variable while another one is selected', () => {
  const parts = {
    Lamp: {
      size: [50, 50] as const,
      states: { Off: {}, On: {} },
      layers: { glow: box(0, 'click → next state around') },
      lines: counting('after 2 s'),
    },
  };
  const timed = told({ parts }, { a: { type: 'placement', part: 'Lamp', at: [0, 0, 50, 50] } });
  expect(timed.run(wait(1000), { type: 'click', layer: `${here('a')}/${id('Lamp', 'glow')}` }, wait(1000)).told).toEqual([
    'glow: click',
    'Lamp: after',
  ]);
  const choice = (y: number) => ({ ...box(y), choice: 'days' });
  const days = told({
    variables: { day: { type: 'text', initial: 'Fri' } },
    frames: {
      home: {
        choices: { days: 'day' },
        layers: { Fri: { ...choice(0), selected: true }, Sat: { ...choice(100), selected: true } },
        lines: ['key u → unselect Sat', 'key f → unselect Fri'],
      },
    },
  });
  expect(days.run(key('u')).run.variables['day']).toBeUndefined();
  expect(days.run(key('u'), key('f')).run.variables['day']).toBe('');
});
