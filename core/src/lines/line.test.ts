import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { completions } from './complete.ts';
import { parseLine, parseLines, printLine, type LineThread } from './line.ts';
import type { LineScope } from './scope.ts';
import { PLACES } from '../vocabulary/places.ts';

const frames = [
  { id: 'a', name: 'Harbour' },
  { id: 'b', name: '3 Seats' },
  { id: 'c', name: 'Pay' },
  { id: 'd', name: 'Pay' },
  { id: 'e', name: 'next' },
  { id: 'f', name: 'Ticket → "home"; now' },
  { id: 'g', name: 'pay' },
  { id: 'h', name: 'Cabins, 2 berths' },
];
const scope: LineScope = {
  frames,
  layers: [],
  variables: [],
  stateful: [],
  itself: [],
  playable: [],
  conditions: [],
  scene: null,
  statesOf: () => [],
  labelsOf: () => [],
  owner: null,
  expression: { things: [], nameOf: () => null, valuesOf: () => [] },
};

const go = (frame: string | null, transition: object = { type: 'cut' }) => ({ do: 'go', target: { to: 'frame', frame }, transition });

describe('thread lines', () => {
  const number = fc.oneof(fc.integer({ min: 0, max: 9000 }), fc.double({ min: 0, max: 60000, noNaN: true }));
  const easing = fc.constantFrom('ease-out', 'linear', 'cubic-bezier(0.2, 0.8, 0.2, 1)', 'steps(4, jump-none)', 'linear(0, 0.5 20%, 1)');
  const transition = fc.oneof(
    fc.constant({ type: 'cut' }),
    fc.record({ type: fc.constant('dissolve'), ms: number, easing }),
    fc.record({ type: fc.constant('push'), direction: fc.constantFrom('left', 'right', 'up', 'down'), ms: number, easing })
  );
  const target = fc.oneof(
    fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'lost1', null).map((frame) => ({ to: 'frame', frame })),
    fc.constantFrom(...PLACES).map((to) => ({ to }))
  );
  const words = fc.oneof(
    fc.string({ maxLength: 30 }),
    fc.string({ unit: 'grapheme', maxLength: 12 }),
    fc.constantFrom('https://kittiwake.example/a b', 'x in new tab', 'mailto:a@b.example', '?', '"', '\\', ' ')
  );
  const step = fc.oneof(
    fc.record({ do: fc.constant('go'), target, transition }),
    fc.record({ do: fc.constant('open'), address: words, tab: fc.constantFrom('same', 'new') })
  );
  const cue = fc.oneof(
    fc.constant({ type: 'click' }),
    fc.constant({ type: 'hover' }),
    fc.record({ type: fc.constant('key'), key: words.filter((key) => key !== '') }),
    fc.record({ type: fc.constant('after'), ms: number })
  );
  const thread = fc.record({
    cue,
    branches: fc.tuple(fc.record({ steps: fc.array(step, { maxLength: 3 }) })),
  }) as unknown as fc.Arbitrary<LineThread>;

  test('what is printed is read back unchanged', () => {
    fc.assert(
      fc.property(thread, (made) => {
        const line = printLine(made, scope);
        const parsed = parseLine(line, scope);
        expect(parsed.ok ? parsed.value : `${line} — ${parsed.error.message}`).toEqual(made);
      }),
      { numRuns: 3000 }
    );
  });

  test('any text is read or refused with a column inside it', () => {
    const pieces = fc.constantFrom(
      'click',
      'hover',
      'key',
      'after',
      ' ',
      '->',
      '→',
      'go to',
      'Pay',
      '3 Seats',
      '·',
      ';',
      '"',
      'push',
      'left',
      '300',
      'ms',
      '#2',
      '?',
      'open',
      'x',
      '\\'
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.array(pieces).map((parts) => parts.join(''))
        ),
        (text) => {
          const parsed = parseLine(text, scope);
          if (!parsed.ok) {
            expect(parsed.error.column).toBeGreaterThanOrEqual(1);
            expect(parsed.error.column).toBeLessThanOrEqual(text.length + 1);
            expect(parsed.error.expected).not.toBe('');
          }
          completions(text, scope);
        }
      ),
      { numRuns: 3000 }
    );
  });

  test.each([
    ['3 Seats', { cue: { type: 'click' }, branches: [{ steps: [go('b')] }] }],
    ['harbour', { cue: { type: 'click' }, branches: [{ steps: [go('a')] }] }],
    ['> Pay #2', { cue: { type: 'click' }, branches: [{ steps: [go('d')] }] }],
    [
      'hover -> go to Harbour, push up',
      { cue: { type: 'hover' }, branches: [{ steps: [go('a', { type: 'push', direction: 'up', ms: 300, easing: 'ease-out' })] }] },
    ],
    [
      'after 1.5s > back',
      { cue: { type: 'after', ms: 1500 }, branches: [{ steps: [{ do: 'go', target: { to: 'back' }, transition: { type: 'cut' } }] }] },
    ],
    [
      'open https://kittiwake.example in new tab as banner-7',
      { cue: { type: 'click' }, branches: [{ steps: [{ do: 'open', address: 'https://kittiwake.example', tab: 'new', measure: 'banner-7' }] }] },
    ],
    [
      'open https://kittiwake.example as "summer 7"',
      { cue: { type: 'click' }, branches: [{ steps: [{ do: 'open', address: 'https://kittiwake.example', tab: 'same', measure: 'summer 7' }] }] },
    ],
    [
      'open https://kittiwake.example in new tab',
      { cue: { type: 'click' }, branches: [{ steps: [{ do: 'open', address: 'https://kittiwake.example', tab: 'new' }] }] },
    ],
  ])('reads %s', (text, expected) => {
    const parsed = parseLine(text, scope);
    expect(parsed.ok && parsed.value).toEqual(expected);
  });

  test.each([
    ['click -> go to Nowhere', 16, 'the name of a frame in this piece'],
    ['key -> next', 5, 'a key'],
    ['after soon > next', 7, 'a time such as'],
    ['next · fling', 8, 'cut, dissolve, push'],
  ])('refuses %s at column %i', (text, column, expected) => {
    const parsed = parseLine(text, scope);
    if (parsed.ok) throw new Error('was read');
    expect(parsed.error.column).toBe(column);
    expect(parsed.error.expected).toContain(expected);
  });

  test('an unknown frame is named, so that it can be made', () => {
    const parsed = parseLine('go to Sold out', scope);
    expect(!parsed.ok && parsed.error.unknownFrame).toBe('Sold out');
  });

  test('then is read between steps as it is read out', () => {
    const steps = (line: string) => {
      const parsed = parseLine(line, scope);
      return parsed.ok
        ? parsed.value.branches.map((branch) => branch.steps.map((step) => (step.do === 'go' ? step.target : step.do)))
        : parsed.error.message;
    };
    const both = [[{ to: 'frame', frame: 'a' }, { to: 'back' }]];
    for (const line of ['Harbour; back', 'Harbour; then back', 'click → go to Harbour then go to back', 'Harbour · dissolve 200 ms then back'])
      expect(steps(line)).toEqual(both);
    expect(steps('send "now then later"')).toEqual([['send']]);
  });

  test('what stands before an arrow and is no cue is said to be none, not offered as a frame', () => {
    for (const line of ['clik → Pay', 'hovr -> go to Harbour']) {
      const parsed = parseLine(line, scope);
      expect(!parsed.ok && [parsed.error.expected, parsed.error.unknownFrame]).toEqual(['a cue, such as click or hover', null]);
    }
    const frame = parseLine('click → Nowhere', scope);
    expect(!frame.ok && frame.error.unknownFrame).toBe('Nowhere');
  });

  test('many lines at once', () => {
    const parsed = parseLines('key ArrowRight > next\n\nkey ArrowLeft > previous\n', scope);
    expect(parsed.ok && parsed.value.map((line) => line.cue)).toEqual([
      { type: 'key', key: 'ArrowRight' },
      { type: 'key', key: 'ArrowLeft' },
    ]);
  });
});

describe('completion', () => {
  const offered = (text: string) => completions(text, scope).map(({ line }) => line);

  test('offers frames for a few letters, also inside the name', () => {
    expect(offered('sea')[0]).toBe('3 Seats');
    expect(offered('click → go to har')).toEqual(['click → go to Harbour']);
  });

  test('offers cues first, then steps, then transitions and easings', () => {
    expect(offered('ho')).toContain('hover');
    expect(offered('hover → g')).toContain('hover → go to');
    expect(offered('Harbour · pu')).toContain('Harbour · push');
    expect(offered('Harbour · push up 300 ms ease-i').sort()).toEqual(['Harbour · push up 300 ms ease-in', 'Harbour · push up 300 ms ease-in-out']);
  });

  test('every offer for a whole word can be read', () => {
    for (const { line } of completions('go to ', scope, 20)) expect(parseLine(line, scope).ok).toBe(true);
  });
});
