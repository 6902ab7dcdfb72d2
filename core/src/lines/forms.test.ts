import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { cueKinds } from '../vocabulary/cues/all.ts';
import { ThreadSchema } from '../piece/schema.ts';
import { schemaFault } from '../piece/read.ts';
import { stepKinds } from '../vocabulary/steps/all.ts';
import type { StepType } from '../vocabulary/steps/all.ts';
import { compose } from '../compose/compose.ts';
import { generator } from '../testing/large.ts';
import { randomCondition, randomCueOf, randomStepOf } from '../testing/steps.ts';
import { completions } from './complete.ts';
import { parseLine, printLine, type LineThread } from './line.ts';
import { scopeOf } from './scope.ts';
import { sentence } from './sentence.ts';

const piece = compose({
  variables: { 'Seats left': { type: 'number', initial: 3 }, Seats: { type: 'number', initial: 1 }, to: { type: 'number', initial: 0 } },
  parts: {
    Notice: {
      states: { Hidden: {}, 'Sold out': {}, 'in stock': {} },
      timeline: { length: 10, labels: { Begin: [0, 'hold'], 'The end': [5, 'hold'] } },
    },
  },
  frames: {
    home: {
      states: { Open: {}, 'Open wide': {}, next: {} },
      timeline: { length: 20, labels: { Intro: [0, 'hold'], 'Intro 2': [10, 'loop'] } },
      layers: { Box: {}, 'Box 2': {}, by: {}, 'a, b': {}, 'Notice box': { part: 'Notice' }, Row: { type: 'group' }, 'from here': { part: 'Notice' } },
    },
    Pay: {},
    'Pay later': {},
    '3 Seats': {},
    'at sea': {},
  },
});
const scope = scopeOf(piece, 'home');

describe('every cue and every step', () => {
  test.each(Object.keys(stepKinds) as StepType[])('%s is written and read back, and is what the schema says', (type) => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = generator(seed);
        const thread: LineThread = { cue: { type: 'click' }, branches: [{ steps: [randomStepOf(random, scope, type)] }] };
        const line = printLine(thread, scope);
        const parsed = parseLine(line, scope);
        expect(parsed.ok ? parsed.value : `${line} — ${parsed.error.message}`).toEqual(thread);
        expect(schemaFault(ThreadSchema, { id: 't', on: 'scene', owner: 'home', order: 'a0', enabled: true, ...thread }, []), line).toBeNull();
        expect(sentence(thread, scope).length).toBeGreaterThan(5);
      }),
      { numRuns: 150 }
    );
  });

  test.each(Object.keys(cueKinds) as (keyof typeof cueKinds)[])('%s is written and read back', (type) => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const thread: LineThread = { cue: randomCueOf(generator(seed), scope, type), branches: [{ steps: [{ do: 'send', signal: 'x' }] }] };
        const line = printLine(thread, scope);
        const parsed = parseLine(line, scope);
        expect(parsed.ok ? parsed.value : `${line} — ${parsed.error.message}`).toEqual(thread);
      }),
      { numRuns: 60 }
    );
  });

  test('the states of the scene itself are read by its name as well as by this, and are kept as one', () => {
    for (const [named, written] of [
      ['put home in Open', 'put this in Open'],
      ['toggle home with Open wide · dissolve 200 ms', 'toggle this with Open wide · dissolve 200 ms'],
      ['next state around of home', 'next state around'],
    ] as const) {
      const [one, other] = [parseLine(`click → ${named}`, scope), parseLine(`click → ${written}`, scope)];
      expect(one).toEqual(other);
      expect(one.ok && printLine(one.value, scope)).toContain(written);
    }
    expect(parseLine('click → put Pay in Open', scope).ok).toBe(false);
  });

  test('whole threads with branches and joined steps', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = generator(seed);
        const branches = Array.from({ length: 1 + Math.floor(random() * 3) }, () => ({
          ...(random() < 0.6 && { if: randomCondition(random, scope) }),
          steps: Array.from({ length: Math.floor(random() * 4) }, (_, i) => ({
            ...randomStepOf(random, scope),
            ...(i > 0 && random() < 0.3 && { with: true as const }),
          })),
        }));
        const thread: LineThread = { cue: randomCueOf(random, scope), branches };
        const line = printLine(thread, scope);
        const parsed = parseLine(line, scope);
        expect(parsed.ok ? parsed.value : `${line} — ${parsed.error.message}`).toEqual(thread);
      }),
      { numRuns: 600 }
    );
  });
});

describe('as people write them', () => {
  test.each([
    [
      'if seats left > 0 -> Pay; otherwise -> put notice box in Sold out',
      'click → if Seats left > 0 → go to Pay; otherwise → put Notice box in Sold out',
    ],
    ['hover > show Box · dissolve 200 ms', 'hover → show Box · dissolve 200 ms ease-out'],
    ['set Seats to Seats + 1; with play Notice box', 'click → set Seats to Seats + 1; with play Notice box'],
    ['state Open wide -> wait 2 s; lift', 'state Open wide → wait 2 s; lift'],
    ['after 300 in Open > toggle this with Open', 'after 300 ms in Open → toggle this with Open'],
    ['tween opacity of Box 2 to Seats left / 10 · 200 ms spring(0.5)', 'click → tween opacity of Box 2 to Seats left / 10 · 200 ms spring(0.5)'],
    ['move Box by 10, -4', 'click → move Box by 10, -4'],
    ['lay over Pay later at bottom scrim 30 % · cover up', 'click → lay over Pay later at bottom scrim 30 % · cover up 300 ms ease-out'],
    ['swipe left -> next', 'swipe left → go to next'],
  ])('%s', (written, printed) => {
    const parsed = parseLine(written, scope);
    expect(parsed.ok ? printLine(parsed.value, scope) : parsed.error.message).toBe(printed);
  });

  test.each([
    ['click → set Gulls to 3', 13, 'variable'],
    ['click → set Seats to Gulls + 1', 22, 'expression'],
    ['click → put Notice box in Nowhere', 27, 'state'],
    ['after soon → Pay', 7, 'time'],
    ['click → tween colour of Box to 3', 15, 'x, y'],
    ['click → if Seats left > → Pay', 24, 'expression'],
    ['click → Pay; otherwise Pay', 24, 'arrow'],
  ])('%s: column %i, %s', (line, column, expected) => {
    const parsed = parseLine(line, scope);
    if (parsed.ok) throw new Error('was read');
    expect({ column: parsed.error.column, ok: parsed.error.expected.includes(expected) }, parsed.error.message).toEqual({ column, ok: true });
  });

  test.each([
    ['click → pu', 'click → put'],
    ['click → put No', 'click → put Notice box'],
    ['click → put Notice box in S', 'click → put Notice box in Sold out'],
    ['click → set Seats l', 'click → set Seats left'],
    ['click → if Seats le', 'click → if Seats left'],
    ['click → play from Int', 'click → play from Intro'],
    ['click → set Seats to max(Seats le', 'click → set Seats to max(Seats left'],
    ['click → if Box.sel', 'click → if Box.selected'],
  ])('%s is completed', (typed, line) => {
    expect(completions(typed, scope).map((completion) => completion.line)).toContain(line);
  });

  test('“this” means the layer that the thread belongs to, and is written by its name', () => {
    const box = scope.layers.find(({ name }) => name === 'Box')!;
    const own = scopeOf(piece, 'home', box.id);
    const parsed = parseLine('click → hide this; tween opacity of this to 0 · 200 ms linear', own);
    expect(parsed.ok ? printLine(parsed.value, own) : parsed.error.message).toBe('click → hide Box; tween opacity of Box to 0 · 200 ms linear');
    expect(parseLine('click → hide this', scope)).toMatchObject({ ok: false, error: { column: 14 } });
    expect(completions('click → hide th', own).map(({ line }) => line)).toContain('click → hide this');
  });
});
