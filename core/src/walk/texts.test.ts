import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { areAllWays, isSo, PATTERNS, textsFor, type Pattern } from './texts.ts';

const wayOf = (text: string, patterns: readonly Pattern[]) => patterns.map((one) => isSo(text, one)).join();

describe('texts for what is asked of one', () => {
  test('where they are said to tell all, no text comes out in any other way', () => {
    const short = fc.string({ unit: fc.constantFrom('a', 'b', '@'), minLength: 1, maxLength: 3 });
    const pattern: fc.Arbitrary<Pattern> = fc.record({ asks: fc.constantFrom(...PATTERNS), text: short });
    const text = fc.string({ unit: fc.constantFrom('a', 'b', '@', 'z'), maxLength: 9 });
    let whole = 0;
    fc.assert(
      fc.property(fc.array(pattern, { minLength: 1, maxLength: 5 }), fc.array(text, { minLength: 20, maxLength: 60 }), (patterns, texts) => {
        if (!areAllWays(patterns)) return;
        whole++;
        const met = new Set(textsFor(patterns).map((one) => wayOf(one, patterns)));
        for (const one of texts) expect([one, met.has(wayOf(one, patterns))]).toEqual([one, true]);
      }),
      { numRuns: 400 }
    );
    expect(whole).toBeGreaterThan(50);
  });

  test('as pieces ask: an address, a name, a word of two kinds', () => {
    const asked = (...all: [Pattern['asks'], string][]) => areAllWays(all.map(([asks, text]) => ({ asks, text })));
    expect(asked(['contains', '@'], ['ends with', '.no'])).toBe(true);
    expect(asked(['starts with', 'Skarra'], ['starts with', 'Skar'], ['is', ''])).toBe(true);
    expect(asked(['contains', 'bay'], ['contains', 'ferry'], ['contains', '7'])).toBe(true);
    // Of more than can be looked at together nothing is said.
    expect(asked(...Array.from({ length: 9 }, (_, i): [Pattern['asks'], string] => ['contains', String(i)]))).toBe(false);
  });
});
