import { expect, test } from 'vitest';
import { compose, type PlacedSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import type { Program } from '../program/program.ts';
import { standingScreen } from '../run/resolve.ts';
import { branchKey } from '../run/runner.ts';
import { advance, start } from '../run/run.ts';
import { generator } from '../testing/large.ts';
import { timesOver } from '../testing/runs.ts';
import { judge } from './audit.ts';
import { eventsIn } from './events-in.ts';
import { explore } from './explore.ts';
import { tellingOf } from './telling.ts';

/** What counts, is shown, is computed or is written is told apart only as far as it counts; and then all of it is tried. */

const number = (initial = 0) => ({ type: 'number' as const, initial });
const word = (initial = '') => ({ type: 'text' as const, initial });
const button = (y: number, ...lines: string[]): PlacedSpec => ({ at: [0, y, 200, 40], text: 'Go', lines });
const field = (y: number, field: NonNullable<PlacedSpec['field']>): PlacedSpec => ({ type: 'field', at: [0, y, 200, 40], field });

type Variables = NonNullable<Parameters<typeof compose>[0]['variables']>;

/** A piece of one frame, and one that `go` leads to; what is found there. */
function found(variables: Variables, layers: Readonly<Record<string, PlacedSpec>>) {
  const shop = { layers: { back: button(0, 'click → go to home') } };
  const program = compile(compose({ variables, frames: { home: { layers }, shop } }));
  const exploration = explore(program, { maxStates: 900 });
  const { findings } = judge(program, exploration);
  const told = findings.filter(({ rule }) => ['no-effect', 'dead-end', 'unreachable-frame'].includes(rule));
  return { cut: exploration.cut, count: exploration.count, told: told.map(({ rule, sentence }) => `${rule}: ${sentence}`) };
}

const NEVER = 'unreachable-frame: What leads to it never comes about: go on home.';

test('what is only shown tells nothing apart: a counter, a sum, a greeting', () => {
  const counter = found(
    { n: number(), sum: number() },
    {
      on: button(0, 'click → set n to n + 1; then set sum to n * 12'),
      off: button(60, 'click → set n to 0'),
      says: { type: 'text', text: '{n} {sum}', at: [0, 300, 200, 40] },
      go: button(120, 'click → go to shop'),
    }
  );
  expect(counter).toEqual({ cut: null, count: 2, told: [] });
  const greeting = found(
    { name: word(), says: word() },
    { name: field(0, { kind: 'text', variable: 'name' }), go: button(60, 'click → set says to "Hello " + name', 'click → go to shop') }
  );
  expect([greeting.cut, greeting.told]).toEqual([null, []]);
});

test('what only looks as if it were shown is told: read by way of another, held to limits, heard, chosen by, computed where that can fail', () => {
  const told = (layers: Readonly<Record<string, PlacedSpec>>, more: Variables = {}) =>
    found({ n: number(), m: number(), ...more }, { on: button(0, 'click → set n to n + 1'), ...layers }).told;
  expect(told({ copy: button(60, 'click → set m to n'), go: button(120, 'click → if m = 3 → go to shop') })).toEqual([
    'dead-end: Nothing leads on from home while m is more than 3.',
  ]);
  expect(told({ copy: button(60, 'click → set m to 6 / (n - 2)'), go: button(120, 'click → if m = 6 → go to shop') })).toEqual([]);
  expect(told({ go: { ...button(60), lines: ['variable n → go to shop'] } })).toEqual([]);
  const limits = { n: { type: 'number' as const, initial: 0, max: 3 } };
  expect(told({ go: button(60, 'click → if n = 4 → go to shop') }, limits)).toContain(NEVER);
});

test('a counter is followed to the last that it is held against, up or down, and what is beyond is all one', () => {
  const counted = (step: string, condition: string) =>
    found(
      { n: number() },
      { on: button(0, `click → set n to n ${step}`), off: button(60, 'click → set n to 0'), go: button(120, `click → if ${condition} → go to shop`) }
    );
  expect(counted('+ 1', 'n > 7')).toEqual({ cut: null, count: 10, told: [] });
  expect(counted('+ 2', 'n = 7')).toEqual({ cut: null, count: 5, told: [expect.stringMatching(/^unreachable-frame/)] });
  expect(counted('- 1', 'n < -2').told).toEqual([]);
  expect(counted('- 1', 'n > 0').told).toEqual([NEVER]);
  // Beyond the last one it counts on: that is an effect.
  const late = found(
    { n: number() },
    { on: button(0, 'click → if n > 3 → set n to n + 1; otherwise → set n to 4'), go: button(60, 'click → go to shop') }
  );
  expect(late).toEqual({ cut: null, count: 6, told: [] });
});

test('what is counted up and down without end is followed some steps beyond, and that is all where nothing else can come there', () => {
  const both = (condition: string, more: Readonly<Record<string, PlacedSpec>> = {}, minus = 'click → if q > 0 → set q to q - 1') =>
    found(
      { q: number(), m: number() },
      {
        plus: button(0, 'click → set q to q + 1; then set m to 0'),
        minus: button(60, minus),
        go: button(120, `click → if ${condition} → go to shop`),
        ...more,
      }
    );
  expect([both('q > 3').cut, both('q > 3').told]).toEqual([null, []]);
  expect([both('q < 0').cut, both('q < 0').told]).toEqual([null, [NEVER]]);
  expect(both('q < -2', {}, 'click → set q to q - 1').told).toEqual([]);
  expect(both('q = 0.5', {}, 'click → set q to q - 1')).toMatchObject({ cut: null, told: [NEVER] });
  // How often it can be taken from depends on how far it had come: further than it is followed.
  const far = both('m > 20', {}, 'click → if q > 2 → set q to q - 1; then set m to m + 1');
  expect([far.cut, far.told]).toEqual(['not tried: how far q can count', []]);
});

test('a text that is spelt key by key is followed as far as it can still be what is asked for, and as long', () => {
  const spelt = (condition: string) => {
    const keys = {
      one: button(0, 'click → set pin to pin + "1"'),
      two: button(60, 'click → set pin to pin + "2"'),
      off: button(180, 'click → set pin to ""'),
    };
    return found({ pin: word() }, { ...keys, go: button(120, `click → if ${condition} → go to shop`) });
  };
  // Nothing, 1, 2, 12, 122 and whatever else; and the shop.
  expect(spelt('pin = "122"')).toEqual({ cut: null, count: 7, told: [] });
  expect(spelt('pin = "132"')).toMatchObject({ cut: null, told: [NEVER] });
  expect(spelt('string length(pin) = 4')).toEqual({ cut: null, count: 8, told: [] });
  expect(spelt('string length(pin) = 4 and pin = "122"')).toMatchObject({ cut: null, told: [NEVER] });
  expect(spelt('string length(pin) = 3 and pin != "122" and pin != "1"')).toMatchObject({ cut: null, told: [] });
});

test('words say of a counter that it is beyond, not where it was met first', () => {
  const { told } = found({ n: number() }, { on: button(0, 'click → set n to n + 2'), go: button(60, 'click → if n < 5 → go to shop') });
  expect(told).toEqual(['dead-end: Nothing leads on from home while n is more than 5.']);
});

test('what is asked of a text in capitals is tried in both', () => {
  const word = (condition: string) => {
    const { cut, told } = found(
      { word: { type: 'text', initial: '' } },
      { word: field(0, { kind: 'text', variable: 'word' }), go: button(120, `click → if ${condition} → go to shop`) }
    );
    return [cut, told];
  };
  expect(word('upper case(word) = "TIDE"')).toEqual([null, []]);
  expect(word('lower case(word) = "tide" and word != "tide"')).toEqual([null, []]);
  expect(word('contains(lower case(word), "ebb") and string length(word) > 8')).toEqual([null, []]);
  expect(word('upper case(word) = "Tide"')).toEqual([null, [NEVER]]);
  expect(word('lower case(word) = "tide" and upper case(word) = "EBB"')).toEqual([null, [NEVER]]);
});

test('two texts are held against each other, and against given ones', () => {
  const words = (condition: string, again: NonNullable<PlacedSpec['field']> = { kind: 'text', variable: 'again' }, begins = '') => {
    const { cut, told } = found(
      { first: word(), again: word(begins) },
      { one: field(0, { kind: 'text', variable: 'first' }), two: field(60, again), go: button(120, `click → if ${condition} → go to shop`) }
    );
    return [cut, told];
  };
  expect(words('first = again and first != ""')).toEqual([null, []]);
  expect(words('first != again and first != "" and again != ""')).toEqual([null, []]);
  expect(words('first = again and first = "tide" and again != "tide"')).toEqual([null, [NEVER]]);
  expect(words('first = "tide" and again = first and again != "" and first != "ebb"')).toEqual([null, []]);
  // What one begins with, the other can be, though nothing else ever is written there.
  expect(words('first = again and first != ""', { kind: 'checkbox' }, 'Tolm')).toEqual([null, []]);
  expect(words('first + again = "ebb"')[0]).toBe('not tried: all that can be put into one and two');
});

test('what is computed of one slider is asked of each of its values, and one for each way is tried', () => {
  const seats = (condition: string, more: Readonly<Record<string, PlacedSpec>> = {}) => {
    const { cut, told, count } = found(
      { seats: number(1), price: number(12), sum: number() },
      {
        seats: field(0, { kind: 'slider', min: 0, max: 5000, step: 1, variable: 'seats' }),
        go: button(120, `click → if ${condition} → go to shop`),
        ...more,
      }
    );
    if (cut === null) expect(count).toBeLessThan(60);
    return [cut, told];
  };
  expect(seats('seats * price = 3588')).toEqual([null, []]);
  expect(seats('seats * price = 3590')).toEqual([null, [NEVER]]);
  expect(seats('modulo(seats, 7) = 3 and seats > 4990')).toEqual([null, []]);
  expect(seats('seats * seats = 4900')).toEqual([null, []]);
  const set = { sets: button(60, 'click → set sum to seats * seats') };
  expect(seats('sum = 4900', set)).toEqual([null, []]);
  expect(seats('sum = 4901', set)).toEqual([null, [NEVER]]);
  // What it was set to and what is there by now are two.
  expect(seats('sum > seats * seats', set)[0]).toBe('not tried: all that can be put into seats');
  expect(seats('sum = 7', { sets: button(60, 'click → set sum to sum + seats') })[0]).toContain('not tried: all that can be put into seats');
});

function chances(seed: number) {
  const next = generator(seed);
  const whole = (below: number) => Math.floor(next() * below);
  return { whole, among: <T>(list: readonly T[]): T => list[whole(list.length)]! };
}

/** Lines with all that is told apart less, put together anyhow. */
function anyPiece(seed: number): Program {
  const { among, whole } = chances(seed);
  const values = () => among(['0', '1', '3', '5']);
  const sets = () =>
    among([
      `set n to n + ${values()}`,
      `set n to n + 1`,
      `set m to m - 1`,
      `set m to m - ${values()}`,
      `set n to ${values()}`,
      `set m to n`,
      `set k to n * 2`,
      `set k to k + m`,
      `set k to seats * 12`,
      `set k to seats * price`,
      `set says to first`,
      `set says to first + "!"`,
      `set again to "tide"`,
      `set n to seats - 40`,
      `set q to q + 1`,
      `set q to q + 1`,
      `set q to q - 1`,
      `set q to q - 1`,
      `set pin to pin + "1"`,
      `set pin to pin + "12"`,
      `set pin to ""`,
    ]);
  const asks = () =>
    among([
      `n > ${values()}`,
      `n = ${values()}`,
      `m < ${values()}`,
      `m = 0 - ${values()}`,
      `k > 36`,
      `k = 24`,
      `first = again`,
      `first = says`,
      `again = "tide"`,
      `first != "" and again != first`,
      `seats > 7`,
      `seats * price > 100`,
      `says = "tide!"`,
      `n between 2 and 4`,
      `q > 1`,
      `q < 0`,
      `q > 0`,
      `pin = "112"`,
      `string length(pin) > 3`,
      `pin = "" and n > 1`,
    ]);
  const does = () => among([sets, sets, sets, () => 'go to shop', () => 'go to home', () => 'put this in open', () => 'put this in shut'])();
  const line = () => (whole(2) ? `click → if ${asks()} → ${does()}` : `click → ${does()}; then ${sets()}`);
  const buttons = () => Object.fromEntries(Array.from({ length: 2 + whole(3) }, (_, i) => [`b${i}`, button(i * 50, line())]));
  const states = { shut: {}, open: {} };
  const fields = {
    first: field(400, { kind: 'text', variable: 'first' }),
    ...(whole(2) ? { again: field(460, { kind: 'text', variable: 'again' }) } : {}),
    seats: field(520, { kind: among(['slider', 'number'] as const), min: 0, max: 60, step: 1, variable: 'seats' }),
  };
  const variables = {
    n: number(),
    m: number(),
    k: number(),
    q: number(),
    pin: word(),
    seats: number(1),
    price: number(12),
    first: word(),
    again: word(among(['', 'tide'])),
    says: word(),
  };
  const lines = whole(3) ? [] : [`variable n → if ${asks()} → ${sets()}`];
  return compile(
    compose({ variables, frames: { home: { states, layers: { ...buttons(), ...fields }, lines }, shop: { states, layers: buttons() } } })
  );
}

test('whoever tries anything, and writes anything, comes to nothing that exploring says nobody comes to', () => {
  let whole = 0;
  for (let seed = 0; seed < timesOver(18); seed++) {
    const program = anyPiece(seed);
    const { cut, reached, branches, acted } = explore(program, { maxStates: 400 });
    if (cut !== null) continue;
    whole++;
    const { among, whole: upTo } = chances(seed + 5000);
    const telling = tellingOf(program);
    const initial = Object.fromEntries([...program.variables.values()].map((one) => [one.id, one.initial]));
    const anything = () => among<string | number>(['', 'tide', 'tide!', 'ebb', 'Skarra', 'a', 'b', upTo(61), upTo(61), upTo(61)]);
    for (let walk = 0; walk < 6; walk++) {
      let run = start(program, 'home')!;
      for (let step = 0; step < 60; step++) {
        const event = among([...eventsIn(program, run, standingScreen(program, run), telling)]);
        const value = anything();
        const isText = event.type === 'value' && program.piece.layers.get(event.layer)?.field?.kind === 'text';
        const own = event.type === 'value' && isText === (typeof value === 'string') ? { ...event, value } : event;
        const { run: now, reports } = advance(program, run, own);
        const [before, after] = [run, now].map(({ frame, roots, variables }) => JSON.stringify([frame, roots, { ...initial, ...variables }]));
        const fired = reports.flatMap((report) => report.fired.map((one) => branchKey(one.thread, one.branch)));
        expect([seed, fired.filter((key) => !branches.has(key))]).toEqual([seed, []]);
        const idle = fired.length === 1 && own.type === 'click' && before !== after ? fired.filter((key) => !acted.has(key)) : [];
        expect([seed, idle]).toEqual([seed, []]);
        expect([seed, reached.has(now.frame)]).toEqual([seed, true]);
        run = now;
      }
    }
  }
  expect(whole).toBeGreaterThan(10);
});
