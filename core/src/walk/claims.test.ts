import { describe, expect, test } from 'vitest';
import { compose } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import { compile } from '../program/compile.ts';
import { unwrap } from '../result.ts';
import { insertStarter } from '../starters/insert.ts';
import { starters } from '../starters/table.ts';
import { audit, routeEnd } from './audit.ts';

type Spec = Parameters<typeof compose>[0];
type Layers = NonNullable<NonNullable<Spec['frames']>[string]['layers']>;

/** The rules that are looked at here; the others have tests of their own. */
const HERE = new Set(
  'dead-end no-way-home covered small-hit unreachable-frame looks-clickable bad-link missing-target label-clash runs-through out-of-time empty-section'.split(
    ' '
  )
);

function audited(spec: Spec) {
  const program = compile(compose(spec));
  const { findings, exploration } = audit(program);
  for (const one of findings) if (one.route) expect(routeEnd(program, one)).not.toBeNull();
  return { findings, exploration, told: findings.filter(({ rule }) => HERE.has(rule)).map(({ rule, sentence }) => `${rule}: ${sentence}`) };
}

const told = (spec: Spec) => audited(spec).told;

const button = (x: number, y: number, ...lines: string[]) => ({ at: [x, y, 100, 60] as const, lines });

const home = (lines: readonly string[], more = {}) => ({ layers: { on: button(0, 0, ...lines), ...more } });
const back = { layers: { back: button(0, 0, 'click → go to home') } };

describe('what is said of states', () => {
  test('one frame with a second state that nothing leads to, and nothing to press', () => {
    expect(told({ frames: { home: { states: { open: {}, shut: {} } } } })).toEqual(['dead-end: Nothing leads on from home.']);
  });

  test('a start all of whose buttons are hidden is no home then, and the state is named', () => {
    const layers = { on: button(0, 0, 'click → go to shop'), lock: button(0, 100, 'click → put this in none') };
    const frames = { home: { states: { all: {}, none: { on: { hidden: true }, lock: { hidden: true } } }, layers }, shop: back };
    expect(told({ frames })).toEqual(['dead-end: Nothing leads on from home while home is in none.']);
  });

  test('a dead end that is one only while a variable says so', () => {
    const frames = {
      home: home(['click → go to shop']),
      shop: {
        layers: {
          buy: button(0, 0, 'click → set Seats to Seats - 1'),
          back: { ...button(0, 100, 'click → go to home'), when: { shown: 'Seats > 0' } },
        },
      },
    };
    const seats = { type: 'number', initial: 2, min: 0 } as const;
    expect(told({ variables: { Seats: seats }, frames })).toEqual(['dead-end: Nothing leads on from shop while Seats is 0.']);
  });

  test('one frame on which a clip is played is no dead end, though nothing comes of it but what is seen', () => {
    const labels = { calm: [0, 'hold'], rough: [12, 'hold'] } as const;
    const parts = {
      wave: {
        size: [100, 60] as const,
        timeline: {
          length: 24,
          labels,
          tracks: [
            [
              'foam',
              'x',
              [
                [0, 0],
                [23, 40],
              ],
            ],
          ] as const,
        },
        layers: { foam: { at: [0, 0, 20, 20] as const } },
      },
    };
    const home = (line: string) => ({
      layers: { wave: { type: 'placement', part: 'wave', at: [0, 200, 100, 60] } as const, on: button(0, 0, line) },
    });
    expect(told({ parts, frames: { home: home('click → play wave from rough') } })).toEqual([]);
    expect(told({ parts, frames: { home: home('click → back') } })).toEqual(['dead-end: Nothing leads on from home.']);
    // Beside it a frame that has no such clip is one all the same.
    const lone = { home: { ...home('click → play wave from rough'), lines: ['swipe left → go to shop'] }, shop: {} };
    expect(told({ parts, frames: lone })).toEqual(['dead-end: Nothing leads on from shop.']);
  });

  test('states that are equal are one: a switch that was set back is as it began', () => {
    const switches = Array.from({ length: 5 }, (_, i) => [`s${i}`, button(0, i * 70, `click → set v${i} to not(v${i})`)] as const);
    const variables = Object.fromEntries(switches.map((_, i) => [`v${i}`, { type: 'yes/no', initial: false } as const]));
    const { exploration } = audited({ variables, frames: { home: { layers: Object.fromEntries(switches) } } });
    expect([exploration.states.length, exploration.cut]).toEqual([32, null]);
  });
});

describe('what is tried', () => {
  const reached = (frames: Spec['frames'], more: Partial<Spec> = {}) => {
    const { exploration, told: all } = audited({ frames, ...more });
    expect(exploration.cut).toBeNull();
    return (
      [...exploration.reached.keys()].length === Object.keys(frames).length && all.filter((line) => line.startsWith('unreachable-frame')).length === 0
    );
  };
  const wired = (line: string, more = {}) =>
    reached({ home: { layers: { a: { ...button(0, 0, line), ...more } }, states: { one: {}, two: {} } }, shop: back });

  test.each(['press', 'release', 'double click', 'long press 500 ms', 'hover', 'leave', 'focus', 'blur', 'swipe left'])('%s on a layer', (cue) => {
    expect(wired(`${cue} → go to shop`)).toBe(true);
  });

  test.each(['click', 'press', 'release', 'double click', 'long press 500 ms', 'swipe up'])('%s on a frame', (cue) => {
    expect(reached({ home: { states: { one: {}, two: {} }, lines: [`${cue} → go to shop`] }, shop: back })).toBe(true);
  });

  test.each(['click', 'press', 'double click', 'long press 500 ms', 'swipe down'])('%s on a part, where it is placed', (cue) => {
    const parts = {
      card: {
        size: [100, 60] as const,
        layers: { word: { type: 'text' as const, text: 'Bay', at: [0, 0, 100, 20] as const } },
        lines: [`${cue} → go to shop`],
      },
    };
    expect(reached({ home: { layers: { card: { type: 'placement', part: 'card', at: [0, 0, 100, 60] } } }, shop: back }, { parts })).toBe(true);
  });

  test('what has to be scrolled to: in a frame, and in a group that scrolls across', () => {
    expect(reached({ home: { contentHeight: 3000, layers: { low: button(0, 2500, 'click → go to shop') } }, shop: back })).toBe(true);
    const row = { type: 'group', scroll: 'x', at: [0, 0, 390, 100] } as const;
    expect(reached({ home: { layers: { row, far: { ...button(900, 0, 'click → go to shop'), in: 'row' } } }, shop: back })).toBe(true);
    const column = { type: 'group', scroll: 'y', at: [0, 100, 390, 300] } as const;
    const deep = { row: { ...row, in: 'column', at: [0, 800, 390, 100] as const }, far: { ...button(900, 0, 'click → go to shop'), in: 'row' } };
    expect(reached({ home: { layers: { column, ...deep } }, shop: back })).toBe(true);
  });

  test('scrolling by itself makes no state, unless something listens to it', () => {
    const rows = Object.fromEntries(Array.from({ length: 8 }, (_, i) => [`r${i}`, button(0, i * 900, `click → set n to ${i}`)]));
    const variables = { n: { type: 'number', initial: 0 } } as const;
    expect(audited({ variables, frames: { home: { contentHeight: 9000, layers: rows } } }).exploration.states.length).toBe(8);
    expect(reached({ home: { contentHeight: 3000, layers: { low: { at: [0, 2500, 100, 60], lines: ['in view → go to shop'] } } }, shop: back })).toBe(
      true
    );
    expect(reached({ home: { contentHeight: 3000, lines: ['scroll down 900 → go to shop'] }, shop: back })).toBe(true);
  });

  test('a press beside a frame laid over, which is reached and judged', () => {
    const frames = {
      home: home(['click → lay closing over card at center'], { far: button(0, 700, 'click → go to shop') }),
      shop: back,
      card: { size: [200, 200] as const },
    };
    expect(reached(frames)).toBe(true);
    expect(told({ frames })).toEqual([]);
    const held = { ...frames, home: home(['click → lay over card at center scrim 40%'], { far: button(0, 700, 'click → go to shop') }) };
    expect(told({ frames: held })).toEqual(['dead-end: Nothing leads on from home while card lies over it.']);
  });

  test('values that conditions can tell apart, by comparing and by length', () => {
    const field = (kind: 'text' | 'number', condition: string) => ({
      home: {
        layers: {
          f: { type: 'field' as const, at: [0, 0, 200, 60] as const, field: { kind } },
          go: button(0, 100, `click → if ${condition} → go to shop`),
        },
      },
      shop: back,
    });
    expect(reached(field('number', 'f.value > 3 and f.value < 4'))).toBe(true);
    expect(reached(field('text', 'f.value = "Bay"'))).toBe(true);
    expect(reached(field('text', 'string length(f.value) = 7'))).toBe(true);
  });

  test('what cannot be tried is said, and then nothing is claimed that it could refute', () => {
    const frames = {
      home: {
        layers: {
          name: { type: 'field' as const, at: [0, 0, 200, 60] as const, field: { kind: 'text' as const } },
          go: button(0, 100, 'click → if substring(name.value, 2, 3) = "bay" → go to shop'),
        },
      },
      shop: { layers: { end: button(0, 0, 'click → if contains(name.value, "z") → go to home') } },
    };
    const { exploration, told: all } = audited({ frames: { home: frames.home, shop: {} } });
    expect(exploration.cut).toBe('not tried: all that can be put into name');
    expect(all).toEqual([]);
  });

  test('what is not tried in one place keeps nothing from being said of another that it leads nowhere near', () => {
    const name = { type: 'field' as const, at: [0, 300, 200, 60] as const, field: { kind: 'text' as const } };
    const asks = button(0, 100, 'click → if substring(name.value, 2, 3) = "bay" → go to home');
    const spec = (cellar: Layers, more: Layers = {}): Spec => ({
      frames: {
        home: home(['click → go to shop'], { down: button(0, 200, 'click → go to cellar'), ...more }),
        shop: back,
        cellar: { layers: cellar },
      },
    });
    const asked = { name, asks };
    const lost = spec({}, asked);
    expect(audited(lost).exploration.cut).toBe('not tried: all that can be put into name');
    expect(told(lost)).toEqual(['dead-end: Nothing leads on from cellar.']);
    // Where it stands on the frame itself, it could lead on.
    expect(told(spec(asked))).toEqual([]);
  });

  test('no way home is told of all its frames together: where one of them has a way at times, it is said when it has none', () => {
    const frames = {
      home: {
        layers: { down: button(0, 0, 'click → set lit to false; go to cellar'), lamp: button(0, 100, 'click → set lit to true; go to vault') },
      },
      cellar: { layers: { on: button(0, 0, 'click → go to vault') } },
      vault: { layers: { on: button(0, 0, 'click → if lit → go to home; otherwise → go to cellar') } },
    };
    const variables = { lit: { type: 'yes/no', initial: false } } as const;
    expect(told({ variables, frames })).toEqual(['no-way-home: From cellar and vault no start frame can be reached any more, while lit is no.']);
  });

  test('a dead end is told from what leads on, though that is no way home either', () => {
    const hall = { layers: { down: button(0, 0, 'click → if lit → go to cellar'), lamp: button(0, 100, 'key l → set lit to true') } };
    const frames = {
      home: { layers: { on: button(0, 0, 'click → go to hall'), lamp: button(0, 100, 'click → set lit to true') } },
      cellar: { layers: {} },
    };
    const variables = { lit: { type: 'yes/no', initial: false } } as const;
    const dark = { layers: { down: hall.layers.down } };
    expect(told({ variables, frames: { ...frames, hall: dark } })).toEqual([
      'dead-end: Nothing leads on from cellar.',
      'dead-end: Nothing leads on from hall while lit is no.',
    ]);
    expect(told({ variables, frames: { ...frames, hall } })).toEqual(['dead-end: Nothing leads on from cellar.']);
  });

  test('values of sliders that something is computed with are tried one by one', () => {
    const slider = (y: number, field: object) => ({
      type: 'field' as const,
      at: [0, y, 200, 40] as const,
      field: { kind: 'slider' as const, ...field },
    });
    const piece = (condition: string, field: object = { min: 0, max: 10, step: 1 }, more: object = {}) => ({
      home: { layers: { a: slider(0, field), b: slider(50, field), go: button(0, 100, `click → if ${condition} → go to shop`) }, ...more },
      shop: back,
    });
    for (const [condition, isMet] of [
      ['a.value + b.value = 17', true],
      ['a.value * b.value = 35', true],
      ['a.value * b.value = 11', false],
      ['a.value - b.value > 10', false],
    ] as const)
      expect([condition, told({ frames: piece(condition) })]).toEqual([
        condition,
        isMet ? [] : ['unreachable-frame: What leads to it never comes about: go on home.'],
      ]);
    // What goes by fives is never 3.
    const fives = { min: 0, max: 20, step: 5 };
    expect(told({ frames: piece('a.value = 3', fives) })).toHaveLength(1);
    expect(told({ frames: piece('a.value > 3 and a.value < 8', fives) })).toEqual([]);
    // Of very many some are tried, which takes no longer.
    expect(audited({ frames: piece('a.value * b.value < 0', { min: 0, max: 1e12, step: 0.001 }) }).exploration.cut).toMatch(/^not tried/);
    // Where something is multiplied, one that goes anywhere cannot be tried whole, but what is found is found.
    const smooth = audited({ frames: piece('a.value * b.value > 17', { min: 0, max: 10 }) });
    expect([smooth.exploration.cut, smooth.told]).toEqual(['not tried: all that can be put into a and b', []]);
    expect(smooth.exploration.reached.has('shop')).toBe(true);
  });

  test('a variable that is computed of a slider is what it can be', () => {
    const sum = (condition: string) => ({
      variables: { Seats: { type: 'number' as const, initial: 1, min: 1, max: 6 }, Price: { type: 'number' as const, initial: 0 } },
      frames: {
        home: {
          layers: {
            a: {
              type: 'field' as const,
              at: [0, 0, 200, 40] as const,
              field: { kind: 'slider' as const, min: 1, max: 6, step: 1, variable: 'Seats' },
            },
            count: button(0, 100, 'click → set Price to Seats * 12'),
            go: button(0, 200, `click → if ${condition} → go to shop`),
          },
        },
        shop: back,
      },
    });
    expect(told(sum('Price = 48'))).toEqual([]);
    expect(told(sum('Price = 50'))).toEqual(['unreachable-frame: What leads to it never comes about: go on home.']);
  });

  test('what is computed of one number with given ones is held against what that comes to', () => {
    const field = (condition: string, field: object = {}) => ({
      home: {
        layers: {
          t: { type: 'field' as const, at: [0, 0, 200, 40] as const, field: { kind: 'number' as const, min: 1, max: 9, ...field } },
          go: button(0, 100, `click → if ${condition} → go to shop`),
        },
      },
      shop: back,
    });
    const says = (condition: string) => {
      const { exploration, told } = audited({ frames: field(condition) });
      return [exploration.cut, told.length];
    };
    expect(says('t.value * 12.5 > 100')).toEqual([null, 0]);
    expect(says('100 < 2 * (3 - t.value) / -0.1')).toEqual([null, 0]);
    expect(says('t.value * 12.5 > 113')).toEqual([null, 1]);
    expect(says('t.value * 3 = 22')).toEqual([null, 0]);
    expect(says('t.value * t.value > 50')).toEqual(['not tried: all that can be put into t', 0]);
  });

  test('numbers below nothing are tried where nobody forbids them', () => {
    const field = (field: object) => ({
      home: {
        layers: {
          t: { type: 'field' as const, at: [0, 0, 200, 40] as const, field: { kind: 'number' as const, ...field } },
          go: button(0, 100, 'click → if t.value < -5 → go to shop'),
        },
      },
      shop: back,
    });
    expect(told({ frames: field({}) })).toEqual([]);
    expect(told({ frames: field({ min: 0 }) })).toHaveLength(1);
  });

  test('texts that contain, start and end with what is asked for are tried together, and nothing is left where that is all', () => {
    const field = (...conditions: string[]) => ({
      home: {
        layers: {
          t: { type: 'field' as const, at: [0, 0, 200, 40] as const, field: { kind: 'text' as const } },
          ...Object.fromEntries(conditions.map((one, i) => [`go${i}`, button(0, 100 + i * 70, `click → if ${one} → go to ${['shop', 'end'][i]}`)])),
        },
      },
      shop: back,
      ...(conditions.length > 1 ? { end: back } : {}),
    });
    const never = ['unreachable-frame: What leads to it never comes about: go0 on home.'];
    const mail = 'contains(t.value, "@") and ends with(t.value, ".no")';
    for (const [condition, wanted] of [
      [mail, []],
      [`${mail} and not(starts with(t.value, "info"))`, []],
      ['starts with(t.value, "A") and starts with(t.value, "B")', never],
      ['starts with(t.value, "AB") and not(starts with(t.value, "A"))', never],
      ['contains(t.value, "bay") and not(contains(t.value, "ay"))', never],
      ['t.value = "Bay" and contains(t.value, "q")', never],
      ['contains(t.value, "a") and contains(t.value, "q") and t.value != ""', []],
      ['t.value in ("Bay", "Bird")', []],
      ['t.value = "Bay" and t.value = "Bird"', never],
    ] as const) {
      const { exploration, told } = audited({ frames: field(condition) });
      expect([condition, exploration.cut, told]).toEqual([condition, null, wanted]);
    }
    // Which of two texts comes first is not tried whole.
    expect(audited({ frames: field('t.value > "m"') }).exploration.cut).toBe('not tried: all that can be put into t');
    const long = audited({ frames: field('string length(t.value) >= 8 and contains(t.value, "1")', mail) });
    expect([long.told, [...long.exploration.reached.keys()].sort()]).toEqual([[], ['end', 'home', 'shop']]);
  });
});

describe('what follows from itself', () => {
  const circle = (p: object, q: object) =>
    audited({ frames: { home: home(['click → go to shop'], { p: { ...button(0, 200), when: p }, q: { ...button(0, 300), when: q } }), shop: back } })
      .findings.filter(({ rule }) => rule === 'expression-error')
      .map(({ title, sentence }) => `${title}. ${sentence}`);

  test('is told where it never comes to rest, with what it is and what it would be', () => {
    const told = 'It goes round in a circle: it is 1, and worked out again it would be 3.';
    expect(circle({ x: 'q.x + 1' }, { x: 'p.x + 1' })[0]).toBe(`p.x follows from itself. ${told}`);
    expect(circle({ x: 'p.x + 1' }, {})).toHaveLength(1);
    expect(circle({ shown: 'not(q.shown)' }, { shown: 'p.shown' })).toHaveLength(1);
  });

  test('is told where it comes to rest at first, and no more once something was set', () => {
    const frames = (source: string) => ({
      variables: { Step: { type: 'number' as const, initial: 0 } },
      frames: {
        home: home(['click → go to shop'], {
          more: { ...button(0, 100, 'click → set Step to 4') },
          p: { ...button(0, 200), when: { x: source } },
          q: { ...button(0, 300), when: { x: 'p.x' } },
        }),
        shop: back,
      },
    });
    const told = (source: string) => audited(frames(source)).findings.filter(({ rule }) => rule === 'expression-error');
    const all = told('q.x + Step');
    expect(all.map(({ title }) => title).sort()).toEqual(['p.x follows from itself', 'q.x follows from itself']);
    expect(all.every(({ route }) => route!.events.length > 0)).toBe(true);
    expect(told('q.x + Step * 0')).toEqual([]);
  });

  test('is let be where it comes to rest, and where nothing goes round', () => {
    expect(circle({ enabled: 'not(q.enabled)' }, { enabled: 'not(p.enabled)' })).toEqual([]);
    expect(circle({ x: 'q.x' }, { x: 'p.x' })).toEqual([]);
    expect(circle({ x: 'q.x + 1' }, { x: '40' })).toEqual([]);
  });
});

describe('what divides by zero', () => {
  const divided = (layers: Layers, variables: Spec['variables']) =>
    audited({
      variables,
      frames: { home: home(['click → go to shop'], { ...layers, add: button(0, 100, 'click → set Seats to Seats + 1') }), shop: back },
    }).findings.filter(({ rule }) => rule === 'expression-error');
  const seats = { Seats: { type: 'number', initial: 0 } } as const;
  const says = (found: ReturnType<typeof divided>) => found.map(({ title, sentence, route }) => [title, sentence, route!.events.length]);
  const dots = 'It divides by zero, which has no value: “…” stands in its place.';
  const unbound = 'It divides by zero, which has no value: it is as if it was not bound.';
  const price = (text: string): Layers => ({ price: { type: 'text', text, at: [0, 300, 200, 20] } });

  test('is told of texts, and of what follows something, with a route', () => {
    expect(says(divided(price('each {60 / Seats}'), seats))).toEqual([['The text of price cannot be computed', dots, 0]]);
    expect(says(divided(price('each {60 / (Seats - 2)}'), seats))).toEqual([['The text of price cannot be computed', dots, 2]]);
    expect(says(divided(price('{modulo(7, Seats - 1)} left'), seats))).toEqual([['The text of price cannot be computed', dots, 1]]);
    const wide: Layers = { bar: { at: [0, 300, 200, 20], when: { width: '200 / (3 - Seats)' } } };
    expect(says(divided(wide, { Seats: { ...seats.Seats, max: 5 } }))).toEqual([['What width of bar follows cannot be computed', unbound, 3]]);
    const slid: Layers = { Bags: { at: [0, 500, 300, 40], field: { kind: 'slider', min: -4, max: 4, step: 1 } } };
    expect(says(divided({ ...slid, ...price('{12 / Bags.value}') }, seats))).toEqual([['The text of price cannot be computed', dots, 1]]);
    expect(divided({ ...slid, ...price('{12 / (Bags.value + 9)}') }, seats)).toEqual([]);
  });

  test('is told in a part, of a placement of its own', () => {
    const parts = {
      Till: {
        size: [200, 60] as const,
        layers: { sum: { type: 'text', text: '{60 / Seats}', at: [0, 0, 90, 20] } as const },
      },
    };
    const frames = { home: home(['click → go to shop'], { till: { type: 'placement', part: 'Till', at: [0, 300, 200, 60] } }), shop: back };
    const found = audited({ variables: seats, parts, frames }).findings.filter(({ rule }) => rule === 'expression-error');
    expect(found.map(({ place }) => place.scene)).toEqual(['Till']);
  });

  test('is let be where nobody can come to it', () => {
    expect(divided(price('each {60 / Seats}'), { Seats: { type: 'number', initial: 1, min: 1, max: 4 } })).toEqual([]);
    expect(divided(price('each {60 / (Seats + 1)}'), seats)).toEqual([]);
    expect(divided(price('each {if Seats > 0 then 60 / Seats else 0}'), seats)).toEqual([]);
    expect(divided(price('half {60 / 2}'), seats)).toEqual([]);
  });

  test('is told once, where what is written can never be computed', () => {
    expect(divided(price('each {60 / 0}'), seats)).toHaveLength(1);
  });
});

describe('what is dragged', () => {
  const dragged = (knob: object) =>
    told({ frames: { home: { layers: { bin: { at: [200, 400, 120, 120] }, knob: { at: [0, 400, 60, 60], ...knob } } }, shop: back } });

  test('stays where it can be taken again, unless it may be pulled further', () => {
    expect(dragged({ drag: { axis: 'both' }, lines: ['drop on bin → go to shop'] })).toEqual([]);
    const far = { drag: { axis: 'x', bounds: { left: -80, right: 0, top: 0, bottom: 0 } }, lines: ['click → go to shop'] };
    expect(dragged(far)).toEqual(['dead-end: Nothing leads on from home in the state that its route leads to.']);
  });
});

describe('what a timeline has moved', () => {
  const z = { at: [20, 300, 120, 48] as const, text: 'Go', lines: ['click → go to b'] };
  const moved = (
    property: 'scale' | 'opacity' | 'x',
    to: number,
    labels: Record<string, readonly [number, 'hold' | 'go on']> = { one: [0, 'hold'] }
  ) =>
    audited({
      frames: {
        a: {
          timeline: {
            length: 120,
            autoplay: true,
            labels,
            tracks: [
              [
                'z',
                property,
                [
                  [0, property === 'x' ? 20 : 1],
                  [110, to],
                ],
              ],
            ],
          },
          layers: { z },
        },
        b: { layers: { back: button(0, 0, 'click → go to a') } },
      },
    })
      .findings.filter(({ rule }) => ['small-hit', 'unseen-hit', 'off-frame', 'dead-end'].includes(rule))
      .map(({ rule, severity, route }) => [rule, severity, route?.events.at(-1)?.type]);

  test('is judged where it has come to rest, by a route there', () => {
    expect(moved('scale', 0.3)).toEqual([['small-hit', 'must', 'wait']]);
    expect(moved('opacity', 0)).toEqual([['unseen-hit', 'look', 'wait']]);
    expect(moved('x', 900)).toEqual([['dead-end', 'must', 'wait']]);
  });

  test('not on its way, nor where it never rests', () => {
    expect(moved('scale', 1)).toEqual([]);
    expect(moved('opacity', 1)).toEqual([]);
    const spec = (loop: boolean) => ({
      frames: {
        a: {
          timeline: {
            length: 120,
            autoplay: true,
            loop,
            tracks: [
              [
                'z',
                'scale',
                [
                  [0, 0.2],
                  [60, 0.1],
                  [110, 1],
                ],
              ] as const,
            ],
          },
          layers: { z },
        },
        b: { layers: { back: button(0, 0, 'click → go to a') } },
      },
    });
    for (const loop of [false, true]) expect(audited(spec(loop)).findings.filter(({ rule }) => rule === 'small-hit')).toEqual([]);
  });
});

describe('what lies in front', () => {
  const lid = { type: 'box', at: [0, 0, 390, 844], hit: { how: 'block' } } as const;

  test('a veil that goes away covers nothing; one that stays does, with a route to it', () => {
    const veil = (line: string) => ({ home: { ...home(['click → go to shop'], { veil: { ...lid, lines: [line] } }) }, shop: back });
    expect(told({ frames: veil('click → hide this') })).toEqual([]);
    expect(told({ frames: veil('click → set n to n + 1'), variables: { n: { type: 'number', initial: 0, max: 2 } } })).toContain(
      'covered: All of on lies behind veil, which takes the press.'
    );
  });

  test('what a drag moves away covers nothing', () => {
    const card = { at: [0, 0, 390, 300], drag: { axis: 'both' } } as const;
    expect(told({ frames: { home: home(['click → go to shop'], { card }), shop: back } })).toEqual([]);
  });

  test.each([
    ['of whole steps', { step: 1 }],
    ['without steps', {}],
  ])('what comes too near to something only between the ends of a slider %s is found', (_, steps) => {
    const slider = { at: [20, 700, 350, 40], field: { kind: 'slider', min: 0, max: 100, ...steps } } as const;
    const moved = { at: [0, 300, 30, 30], when: { x: 'slider.value * 3' }, lines: ['click → go to inn'] } as const;
    const still = { at: [150, 332, 30, 30], lines: ['click → go to shop'] } as const;
    const { findings, exploration } = audited({ frames: { home: { layers: { slider, moved, still } }, shop: back, inn: back } });
    expect(exploration.cut).toBeNull();
    expect(findings.filter(({ rule }) => rule === 'crowded-hit')).toHaveLength(1);
  });

  test('in a part, where it is placed', () => {
    const parts = {
      bar: { size: [390, 100] as const, layers: { go: button(0, 0, 'click → go to shop'), over: { ...lid, at: [0, 0, 390, 100] as const } } },
    };
    const frames = { home: home(['click → go to shop'], { bar: { type: 'placement', part: 'bar', at: [0, 700, 390, 100] } }), shop: back };
    expect(told({ parts, frames })).toEqual(['covered: All of go in bar lies behind over, which takes the press.']);
  });

  test('something covered is not, where what is in it can be pressed beyond its box', () => {
    const knob = (x: number) => ({ at: [x, 0, 50, 50] as const, lines: ['double click → send twice'] });
    const placed = (part: string) => ({
      home: {
        layers: {
          on: { type: 'placement' as const, part, at: [10, 10, 60, 60] as const, lines: ['click → go to shop'] },
          lid: { at: [0, 0, 90, 90] as const, lines: ['click → go to home'] },
        },
      },
      shop: back,
    });
    const parts = { Short: { size: [60, 60], layers: { knob: knob(5) } }, Long: { size: [60, 60], layers: { knob: knob(150) } } } as const;
    const covered = (part: string) => told({ parts, frames: placed(part) }).filter((line) => line.startsWith('covered'));
    expect(covered('Short')).toHaveLength(2);
    expect(covered('Long')).toEqual([]);
  });

  test('something out of view or small is not, where what is in it can be pressed beyond its box', () => {
    const rules = (at: readonly [number, number, number, number], knob: readonly [number, number, number, number]) =>
      audited({
        parts: { Knob: { size: [at[2], at[3]], layers: { knob: { at: knob, lines: ['double click → send twice'] } } } },
        frames: { home: { layers: { on: { type: 'placement', part: 'Knob', at, lines: ['click → go to shop'] } } }, shop: back },
      }).findings.flatMap(({ rule, place }) => (/^(off-frame|small-hit)/.test(rule) ? `${rule} ${place.layer}` : []));
    expect(rules([400, 10, 60, 60], [0, 0, 60, 60])).toEqual(['off-frame home_on', 'off-frame Knob_knob']);
    expect(rules([400, 10, 60, 60], [-120, 0, 60, 60])).toEqual([]);
    expect(rules([100, 10, 10, 10], [0, 0, 10, 10])).toEqual(['small-hit home_on', 'small-hit Knob_knob']);
    expect(rules([100, 10, 10, 10], [0, 0, 80, 80])).toEqual([]);
  });

  /** What is so of anything that is not wired to the rest yet. */
  const UNWIRED = new Set('dead-end looks-clickable unreachable-state never-fires no-effect one-way'.split(' '));

  test.each(starters.map(({ id }) => [id]))('the starter %s has no loose end of its own', (id) => {
    const blank = compose({ frames: { home: {} } });
    let n = 0;
    const { operations } = insertStarter(
      blank,
      starters.find((one) => one.id === id)!,
      'home',
      () => `new${n++}`,
      { x: 195, y: 422 }
    );
    const { findings } = audit(compile(unwrap(apply(blank, operations)).piece), { maxStates: 300 });
    expect(findings.filter(({ rule }) => !UNWIRED.has(rule)).map(({ rule, sentence }) => `${rule}: ${sentence}`)).toEqual([]);
  });
});

describe('what is found where it stands', () => {
  const part = (layers: NonNullable<NonNullable<Spec['parts']>[string]['layers']>, width: number) =>
    told({
      parts: { card: { size: [200, 200], layers } },
      frames: { home: home(['click → go to shop'], { card: { type: 'placement', part: 'card', at: [0, 300, width, width] } }), shop: back },
    });

  test('something small in a part, by the size it has on screen', () => {
    const dot = { at: [0, 0, 30, 30] as const, lines: ['click → go to shop'] };
    expect(part({ dot }, 200)).toEqual(['small-hit: 30 × 30 on card, seen on home; a thumb wants 44.']);
    expect(part({ dot }, 100)).toEqual(['small-hit: 15 × 15 on card, seen on home; at least 24 is needed, and a thumb wants 44.']);
    expect(part({ dot }, 400)).toEqual([]);
  });

  test('a margin and a scale make it as large as it is', () => {
    const small = (more: object) =>
      told({ frames: { home: { layers: { on: { at: [100, 100, 24, 24], lines: ['click → go to shop'], ...more } } }, shop: back } });
    expect(small({})).toHaveLength(1);
    expect(small({ hit: { how: 'own', grow: 10 } })).toEqual([]);
    expect(small({ pose: { scale: 2 } })).toEqual([]);
  });

  test('something unwired in a part, unless a placement answers for it', () => {
    const lit = { at: [0, 0, 100, 60] as const, looks: { hover: {} } };
    const wired = { at: [0, 100, 100, 60] as const, lines: ['click → go to shop'] };
    expect(part({ lit, wired }, 200)).toEqual(['looks-clickable: It has a look of its own for the pointer, and nothing happens when it is pressed.']);
    const card = { type: 'placement', part: 'card', at: [0, 300, 200, 200], lines: ['click → go to shop'] } as const;
    expect(told({ parts: { card: { size: [200, 200], layers: { lit } } }, frames: { home: { layers: { card } }, shop: back } })).toEqual([]);
  });

  test('what is drawn under a hit area that is wired; not under one that is smaller, lies behind, or is not wired either', () => {
    const drawn = { at: [100, 300, 100, 60] as const, looks: { hover: { style: { fill: '#30405a' } } } };
    const area = (at: readonly [number, number, number, number], ...lines: string[]) => ({ type: 'hit', label: 'To the shop', at, lines }) as const;
    const says = (layers: object) =>
      told({ frames: { home: { layers: { on: button(0, 0, 'click → go to shop'), ...layers } }, shop: back } }).filter((one) =>
        one.startsWith('looks-clickable: It has a look')
      );
    expect(says({ drawn, area: area([90, 290, 120, 80], 'click → go to shop') })).toEqual([]);
    expect(says({ drawn, area: area([100, 300, 60, 60], 'click → go to shop') })).toHaveLength(1);
    expect(says({ area: area([90, 290, 120, 80], 'click → go to shop'), drawn })).toHaveLength(1);
    expect(says({ drawn, area: area([90, 290, 120, 80]) })).toHaveLength(1);
  });

  test('a frame that takes the click itself makes its hit areas and looks no loose ends', () => {
    const area = { type: 'hit', at: [0, 300, 100, 60] } as const;
    expect(told({ frames: { home: { layers: { area }, lines: ['click → go to shop'] }, shop: back } })).toEqual([]);
  });

  test('what is gone: the part of a placement, a carried sheet, the label of an ending', () => {
    const piece = compose({
      parts: { card: { size: [100, 100], timeline: { length: 10, labels: { One: [0, { goTo: 'Two' }], Two: [5, 'hold'] } } } },
      sheets: { bar: {} },
      frames: {
        home: { ...home(['click → go to shop'], { card: { type: 'placement', part: 'card', at: [0, 300, 100, 100] } }), over: ['bar'] },
        shop: back,
      },
    });
    const gone = (...operations: Parameters<typeof apply>[1][number][]) =>
      audit(compile(unwrap(apply(piece, operations)).piece))
        .findings.filter(({ rule }) => rule === 'missing-target')
        .map(({ sentence }) => sentence);
    expect(gone()).toEqual([]);
    expect(gone({ op: 'remove', table: 'scenes', id: 'card' })).toEqual(['The part it showed has been deleted.']);
    expect(gone({ op: 'remove', table: 'scenes', id: 'bar' })).toEqual(['A sheet it carried has been deleted.']);
    const cues = { first: { time: 4, layer: 'card_gone', do: 'play' } };
    expect(gone({ op: 'set', table: 'scenes', id: 'card', path: ['timeline', 'cues'], value: cues })).toEqual([
      'A layer that it plays or pauses in time has been deleted.',
    ]);
    const label = Object.keys(piece.scenes.get('card')!.timeline!.labels!)[1]!;
    expect(gone({ op: 'set', table: 'scenes', id: 'card', path: ['timeline', 'labels', label] })).toEqual([
      'One ends by going to a label that is gone or not chosen yet.',
    ]);
  });

  test('what is gone: the variable that a field fills or a choice tells, the state that a look or a state puts a placement in', () => {
    const field = (variable?: string) => ({ type: 'field', at: [0, 500, 200, 60], field: { kind: 'text', ...(variable && { variable }) } }) as const;
    const lamp = { type: 'placement', part: 'lamp', at: [0, 300, 100, 100], looks: { hover: { state: 'lamp_s_Lit' } } } as const;
    const piece = compose({
      variables: { Name: { type: 'text', initial: '' }, Note: { type: 'text', initial: '' }, Day: { type: 'text', initial: '' } },
      parts: { lamp: { size: [100, 100], states: { Out: {}, Lit: {} } } },
      frames: {
        home: {
          ...home(['click → go to shop'], { lamp, name: field('Name'), note: field('Note'), free: { ...field(), at: [0, 600, 200, 60] } }),
          states: { Day: {}, Night: { lamp: { state: 'lamp_s_Lit' } } },
        },
        shop: back,
      },
    });
    const withChoice = unwrap(
      apply(piece, [{ op: 'set', table: 'scenes', id: 'home', path: ['choices', 'days'], value: { name: 'days', variable: 'Day' } }])
    ).piece;
    const gone = (...operations: Parameters<typeof apply>[1][number][]) =>
      audit(compile(unwrap(apply(withChoice, operations)).piece))
        .findings.filter(({ rule }) => rule === 'missing-target')
        .map(({ place, title, sentence }) => [place.layer ?? place.scene, title, sentence].join(' | '));
    expect(gone()).toEqual([]);
    expect(gone({ op: 'remove', table: 'variables', id: 'Name' })).toEqual([
      'home_name | name fills nothing | The variable it fills has been deleted.',
    ]);
    expect(gone({ op: 'remove', table: 'variables', id: 'Day' })).toEqual([
      'home | home has lost something | The variable that says what is chosen of days has been deleted.',
    ]);
    expect(gone({ op: 'set', table: 'scenes', id: 'lamp', path: ['states', 'lamp_s_Lit'] })).toEqual([
      'home_lamp | lamp is in no state | The state of lamp it is in while hovered has been deleted.',
      'home | home has lost something | In Night, lamp is in a state that has been deleted.',
    ]);
  });

  test('texts in states and fills whose expression cannot be computed', () => {
    const wrong = '{‹gone1›}';
    const piece = compose({
      parts: { card: { size: [100, 100], layers: { word: { type: 'text', text: 'Bay', at: [0, 0, 100, 20] } } } },
      frames: {
        home: {
          states: { one: {}, two: {} },
          layers: { word: { type: 'text', text: 'Bay', at: [0, 0, 100, 20] }, card: { type: 'placement', part: 'card', at: [0, 300, 100, 100] } },
        },
      },
    });
    const state = Object.keys(piece.scenes.get('home')!.states!)[1]!;
    const faults = (...operations: Parameters<typeof apply>[1][number][]) =>
      audit(compile(unwrap(apply(piece, operations)).piece)).findings.filter(({ rule }) => rule === 'expression-error').length;
    expect(faults()).toBe(0);
    expect(faults({ op: 'set', table: 'scenes', id: 'home', path: ['states', state, 'deltas', 'home_word'], value: { text: wrong } })).toBe(1);
    expect(faults({ op: 'set', table: 'layers', id: 'home_card', path: ['fills'], value: { card_word: { text: wrong } } })).toBe(1);
  });

  test.each([
    ['http://[2001:db8::1]/', true],
    ['https://[::1]:8080/tide', true],
    ['http://[2001:db8::1::2]/', false],
    ['http://[2001:db8]/', false],
  ])('addresses of the sixth version: %s', (address, good) => {
    expect(told({ frames: { home: { layers: { on: button(0, 0, `click → open ${address} in new tab`) }, ending: true } } })).toHaveLength(
      good ? 0 : 1
    );
  });
});

describe('what is found in time', () => {
  const inTime = (timeline: NonNullable<Spec['frames']['home']['timeline']>, lines: string[] = []) =>
    told({
      frames: {
        home: {
          timeline,
          ending: true,
          layers: { boat: { at: [0, 0, 100, 60] }, ...Object.fromEntries(lines.map((line, i) => [`b${i}`, button(0, 100 + i * 80, line)])) },
        },
      },
    }).filter((line) => !line.startsWith('looks-clickable'));
  const tracks = [
    [
      'boat',
      'x',
      [
        [0, 0],
        [9, 50],
        [19, 90],
        [29, 10],
      ],
    ],
  ] as const;
  const play = ['click → play from Ebb', 'click → play from Flood', 'click → play from Slack'];

  test('a section that runs through into one that is played by itself, where the others hold', () => {
    const labels = (ebb: 'hold' | 'go on') => ({ Ebb: [0, ebb], Flood: [10, 'hold'], Slack: [20, 'hold'] }) as const;
    expect(inTime({ length: 30, labels: labels('hold'), tracks }, play)).toEqual([]);
    expect(inTime({ length: 30, labels: labels('go on'), tracks }, play)).toEqual([
      'runs-through: Ebb goes on into Flood, which is played by itself elsewhere.',
    ]);
    expect(inTime({ length: 30, labels: labels('go on'), tracks }, play.slice(1))).toEqual([]);
  });

  test('a section in which nothing happens, unless something plays or comes in it', () => {
    const still = [
      [
        'boat',
        'x',
        [
          [0, 0],
          [9, 50],
        ],
      ],
    ] as const;
    const labels = { Ebb: [0, 'hold'], Flood: [10, 'hold'] } as const;
    expect(inTime({ length: 20, labels, tracks: still })).toEqual(['empty-section: Flood looks all along as what comes before it.']);
    expect(inTime({ length: 20, labels, tracks: still, spans: [['boat', 0, 9]] })).toEqual([]);
    expect(inTime({ length: 20, labels, tracks })).toHaveLength(1);
  });

  test('labels that clash, and what stands beyond the end', () => {
    expect(inTime({ length: 30, labels: { Ebb: [0, 'hold'], ebb: [10, 'hold'] }, tracks })).toEqual([
      'label-clash: There are two labels called ebb.',
    ]);
    expect(inTime({ length: 15, tracks })).toEqual(['out-of-time: Its time ends at frame 15; beyond it stands a key of boat.']);
    expect(inTime({ length: 15, spans: [['boat', 9, 4]] })).toEqual(['out-of-time: Its span begins at frame 10 and ends at frame 5, before that.']);
    const boats: [string, number, number][] = [
      ['boat', 9, 4],
      ['boat', 5, 8],
    ];
    expect(inTime({ length: 15, spans: boats })).toEqual([]);
  });

  test('cues on what has no time of its own; not on a clip, a film, or a group with one in it', () => {
    const clip = { size: [40, 40], timeline: { length: 10, autoplay: false }, layers: { dot: { at: [0, 0, 40, 40] } } } as const;
    const cued = (layer: string) =>
      told({
        parts: { clip, still: { size: [40, 40], layers: { dot: { at: [0, 0, 40, 40] } } } },
        frames: {
          home: {
            timeline: { length: 20, cues: [[5, layer, 'play']] },
            ending: true,
            layers: {
              box: { at: [0, 100, 40, 40] },
              clip: { type: 'placement', part: 'clip', at: [0, 200, 40, 40] },
              still: { type: 'placement', part: 'still', at: [0, 300, 40, 40] },
              full: { type: 'group', at: [0, 400, 40, 40] },
              inner: { type: 'placement', part: 'clip', in: 'full', at: [0, 0, 40, 40] },
              bare: { type: 'group', at: [0, 500, 40, 40] },
              plain: { in: 'bare', at: [0, 0, 40, 40] },
            },
          },
        },
      }).filter((line) => line.startsWith('out-of-time'));
    for (const layer of ['box', 'still', 'bare'])
      expect(cued(layer)).toEqual(['out-of-time: At frame 6 it is to play, and it has no time of its own.']);
    for (const layer of ['clip', 'full']) expect(cued(layer)).toEqual([]);
  });
});

test.each([{ kind: 'text' }, { kind: 'number', min: 0, max: 9 }, { kind: 'slider', min: 0, max: 9 }] as const)(
  'a field that leads on as it is changed is no dead end, whatever it is changed to: $kind',
  (field) => {
    const program = compile(
      compose({
        frames: { home: { layers: { box: { type: 'field', at: [0, 0, 90, 44], field, lines: ['change → go to end'] } } }, end: { ending: true } },
      })
    );
    const { findings, exploration } = audit(program);
    expect([...exploration.reached.keys()]).toEqual(['home', 'end']);
    expect(findings.map(({ rule }) => rule)).not.toContain('never-fires');
  }
);

test('into a field that waits for the focus something is put once it has it', () => {
  const seats = { type: 'number', initial: 0, min: 0, max: 3 } as const;
  const field = { kind: 'slider', min: 0, max: 3, step: 1, variable: 'seats' } as const;
  const home = (line: string) => ({
    layers: {
      seats: { type: 'field' as const, at: [10, 10, 200, 40] as const, field, lines: [line] },
      on: button(0, 100, 'click → if seats = 2 and asked → go to end'),
    },
  });
  const variables = { seats, asked: { type: 'yes/no', initial: false } } as const;
  const reached = (line: string) => audited({ variables, frames: { home: home(line), end: { layers: {} } } }).exploration.reached.has('end');
  expect([reached('focus → set asked to true'), reached('focus → send asked')]).toEqual([true, false]);
});

test('a hidden part hears keys, a hidden layer does not', () => {
  const Menu = { size: [100, 100] as const, layers: { tile: button(0, 0, 'key k → send tile') }, lines: ['key m → send part'] };
  const home = { layers: { menu: { part: 'Menu', at: [10, 10, 100, 100] as const, hidden: true } } };
  const { exploration } = audited({ parts: { Menu }, frames: { home } });
  expect([...exploration.fired]).toEqual(['Menu-0']);
});

describe('films', () => {
  const film = (media: object, ...lines: string[]) => ({
    type: 'video' as const,
    at: [0, 0, 300, 200] as const,
    media,
    lines: ['media ended → go to end', ...lines],
  });
  const reached = (...[spec]: Parameters<typeof audited>) => [...audited(spec).exploration.reached.keys()];
  const end = { layers: { back: button(0, 0, 'click → go to home') } };

  test('end where they are played: by themselves, by a step, by a cue on the timeline; never where nothing plays them', () => {
    expect(reached({ frames: { home: { layers: { film: film({ autoplay: true }) } }, end } })).toEqual(['home', 'end']);
    expect(reached({ frames: { home: { layers: { film: film({}), on: button(0, 300, 'click → play film') } }, end } })).toEqual(['home', 'end']);
    const cued = { length: 48, cues: [[10, 'film', 'play']] as const };
    expect(reached({ frames: { home: { timeline: cued, layers: { film: film({}) } }, end } })).toEqual(['home', 'end']);
    const idle = audited({ frames: { home: { layers: { film: film({}, 'media started → go to end') } }, end } });
    expect([...idle.exploration.reached.keys()]).toEqual(['home']);
    expect(idle.findings.filter(({ rule }) => rule === 'never-fires')).toHaveLength(2);
    expect(idle.told).toContain('unreachable-frame: What leads to it never comes about: film on home.');
  });

  test('not where they go round, or have been paused', () => {
    expect(reached({ frames: { home: { layers: { film: film({ autoplay: true, loop: true }) } }, end } })).toEqual(['home']);
    const paused = { film: film({}), on: button(0, 300, 'click → play film; pause film') };
    expect(reached({ frames: { home: { layers: paused }, end } })).toEqual(['home']);
  });

  test('in parts too, each where it is placed', () => {
    const parts = {
      clip: {
        size: [300, 200] as const,
        layers: { film: { type: 'video' as const, at: [0, 0, 300, 200] as const, lines: ['media ended → send over'] } },
        lines: ['key p → play film'],
      },
    };
    const placed = (lines: string[]) => ({
      parts,
      frames: { home: { layers: { clip: { type: 'placement' as const, part: 'clip', at: [0, 0, 300, 200] as const } }, lines }, end },
    });
    expect(reached(placed(['signal over → go to end']))).toEqual(['home', 'end']);
  });
});

test('of a frame that is never reached it says which threads would lead there', () => {
  const off = (y: number) => ({ ...button(0, y, 'click → go to end'), disabled: true });
  const says = (layers: object, more: object = {}) =>
    told({ frames: { home: { layers: { on: button(0, 0, 'click → go to shop'), ...layers }, ...more }, shop: back, end: back } }).filter((one) =>
      one.startsWith('unreachable-frame')
    );
  expect(says({})).toEqual(['unreachable-frame: No thread leads to it from a start frame.']);
  expect(says({ a: off(100) })).toEqual(['unreachable-frame: What leads to it never comes about: a on home.']);
  expect(says({ a: off(100), b: off(200) })).toEqual(['unreachable-frame: What leads to it never comes about: a on home and b on home.']);
  const four = { a: off(100), b: off(200), c: off(300), d: off(400) };
  expect(says(four)).toEqual(['unreachable-frame: What leads to it never comes about: a on home, b on home and 2 others.']);
  expect(says({}, { lines: ['click → if 1 > 2 → go to end'] })).toEqual(['unreachable-frame: What leads to it never comes about: home.']);
  const passes = { at: [0, 100, 100, 60] as const, text: 'Go', lines: ['click → go to end; go to home'] };
  expect(says({ passes })).toEqual(['unreachable-frame: What leads to it leads elsewhere at once, or in another branch: passes on home.']);
  // Where a piece begins nothing has to lead to.
  const begins = told({ frames: { home: { states: { on: {} }, lines: ['any state → go to shop'] }, shop: back } });
  expect(begins).toContain('unreachable-frame: The piece begins there, and leads elsewhere at once.');
});

test('where not everything can be tried, a frame that nothing could lead to whatever holds is still told, and no other', () => {
  const button = (y: number, line: string) => ({ at: [0, y, 100, 60] as const, text: 'Go', lines: [line] });
  const field = { type: 'field', at: [0, 100, 200, 48], field: { kind: 'text' } } as const;
  const asks = 'click → if substring(field.value, 2, 3) = "bay" → go to sent; otherwise if 1 > 2 → go to home';
  const says = (home: string[], more: Parameters<typeof compose>[0]['frames'] = {}, spec: Partial<Parameters<typeof compose>[0]> = {}) => {
    const layers = { field, ...Object.fromEntries(home.map((line, i) => [`b${i}`, button(200 + i * 80, line)])) };
    const back = { layers: { back: button(0, 'click → go to home') } };
    const { findings, exploration } = audit(compile(compose({ ...spec, frames: { home: { layers }, sent: back, lost: back, ...more } })));
    return { cut: exploration.cut, told: findings.filter(({ rule }) => rule === 'unreachable-frame').map(({ title }) => title) };
  };
  const cut = 'not tried: all that can be put into field';
  expect(says([asks])).toEqual({ cut, told: ['lost is never reached'] });
  expect(says([asks, 'click → if 1 > 2 → go to lost'])).toEqual({ cut, told: [] });
  const far = { layers: { on: button(0, 'click → go to farther') } };
  expect(says([asks, 'click → go to lost'], { far, farther: far }).told).toEqual(['far is never reached', 'farther is never reached']);
  for (const line of ['click → next', 'swipe left → last']) expect(says([asks, line]).told).toEqual([]);
  expect(
    says(
      [asks],
      { sent: { layers: { p: { type: 'placement', part: 'card', at: [0, 0, 100, 60] } } } },
      { parts: { card: { layers: { k: button(0, 'click → previous') } } } }
    ).told
  ).toEqual(['lost is never reached']);
  expect(says([asks], { sent: { layers: {}, over: ['bar'] } }, { sheets: { bar: { layers: { k: button(0, 'click → go to lost') } } } }).told).toEqual(
    []
  );
  expect(says([asks], {}, { lines: ['key l → go to lost'] }).told).toEqual([]);
  // What stands on a frame that is never there keeps nothing from being told.
  const away = { layers: { field: { ...field }, b: button(200, 'click → if substring(field.value, 2, 3) = "bay" → go to home') } };
  expect(says(['click → go to sent'], { lost: away })).toEqual({ cut: null, told: ['lost is never reached'] });
});
