import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { areAllWays, FOLDS, isSo, PATTERNS, textsFor, type Pattern } from './texts.ts';

const wayOf = (text: string, patterns: readonly Pattern[], lengths: readonly number[]) =>
  [...patterns.map((one) => isSo(text, one)), ...lengths.map((length) => Math.sign(text.length - length))].join();

const signs = (...of: string[]) => fc.constantFrom(...of);

describe('texts for what is asked of one', () => {
  test('where they are said to tell all, no text comes out in any other way', () => {
    const short = fc.string({ unit: signs('a', 'b', 'B', '@'), minLength: 1, maxLength: 3 });
    const pattern: fc.Arbitrary<Pattern> = fc.record(
      { asks: fc.constantFrom(...PATTERNS), text: short, fold: fc.constantFrom(...FOLDS) },
      { requiredKeys: ['asks', 'text'] }
    );
    const text = fc.string({ unit: signs('a', 'A', 'b', 'B', '@', 'z'), maxLength: 9 });
    const asked = fc.record({ patterns: fc.array(pattern, { maxLength: 5 }), lengths: fc.array(fc.nat(7), { maxLength: 2 }) });
    const whole = { plain: 0, long: 0 };
    fc.assert(
      fc.property(asked, fc.array(text, { minLength: 20, maxLength: 60 }), ({ patterns, lengths }, texts) => {
        if (!areAllWays(patterns, lengths)) return;
        whole[lengths.length ? 'long' : 'plain']++;
        const met = new Set(textsFor(patterns, lengths).map((one) => wayOf(one, patterns, lengths)));
        for (const one of texts) expect([one, met.has(wayOf(one, patterns, lengths))]).toEqual([one, true]);
      }),
      { numRuns: 1500 }
    );
    expect(Math.min(whole.plain, whole.long)).toBeGreaterThan(40);
  });

  test('as pieces ask: an address, a name, a word of two kinds, a word that is long enough', () => {
    const areAll = (lengths: number[], ...all: [Pattern['asks'], string][]) =>
      areAllWays(
        all.map(([asks, text]) => ({ asks, text })),
        lengths
      );
    expect(areAll([], ['contains', '@'], ['ends with', '.no'])).toBe(true);
    expect(areAll([], ['starts with', 'Skarra'], ['starts with', 'Skar'], ['is', ''])).toBe(true);
    expect(areAll([], ['contains', 'bay'], ['contains', 'ferry'], ['contains', '7'])).toBe(true);
    expect(areAll([8], ['contains', '7'])).toBe(true);
    expect(areAll([6], ['starts with', 'SK'], ['contains', '@'], ['ends with', '.no'])).toBe(true);
    const small = { fold: 'lower case' } as const;
    expect(areAllWays([{ asks: 'is', text: 'tide', ...small }])).toBe(true);
    expect(
      areAllWays([
        { asks: 'is', text: 'tide', ...small },
        { asks: 'is', text: 'Tide' },
        { asks: 'contains', text: 'tide', ...small },
      ])
    ).toBe(true);
    expect(textsFor([{ asks: 'is', text: 'TIDE', fold: 'upper case' }])).toContain('TIDE');
    // One text for each way, and where any will do the usual one.
    expect(textsFor([], [2])).toEqual(['', 'abc', 'aa']);
    // Of more than can be looked at together nothing is said, but of words that it can only be.
    const many = (asks: Pattern['asks']) => Array.from({ length: 15 }, (_, i): [Pattern['asks'], string] => [asks, `${i}`]);
    expect([areAll([], ...many('contains')), areAll([3], ...many('is'))]).toEqual([false, true]);
  });
});
