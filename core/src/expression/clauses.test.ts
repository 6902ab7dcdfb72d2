import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clausesOf, COMPARISONS, writeClauses, type Clause } from './clauses.ts';

describe('conditions as clauses', () => {
  it('are taken apart at one word that joins them', () => {
    expect(clausesOf('‹seats› > 0 and not(‹terms›.selected) and ‹terms›.enabled')).toEqual({
      join: 'and',
      list: [
        { left: '‹seats›', how: '>', right: '0' },
        { left: '‹terms›.selected', how: 'is not', right: null },
        { left: '‹terms›.enabled', how: 'is', right: null },
      ],
    });
    expect(clausesOf('frame.name = "Pay" or ‹a› != ‹b› + 1')?.join).toBe('or');
  });

  it('stay text where there is more to them', () => {
    for (const stored of ['‹a› > 0 and (‹b› or ‹c›)', 'if ‹a› then ‹b› else ‹c›', '3 > ‹a›', '‹a› +', 'not(‹a› > 1)'])
      expect(clausesOf(stored)).toBeNull();
  });

  it('are written and read back alike', () => {
    const left = fc.constantFrom('‹seats›', '‹terms›.selected', 'frame.name');
    const clause: fc.Arbitrary<Clause> = fc.oneof(
      fc.record({ left, how: fc.constantFrom(...COMPARISONS), right: fc.constantFrom('3', '"and so on"', '‹other›', '‹a› * 2', 'true') }),
      fc.record({
        left: fc.constantFrom('‹open›', '‹terms›.selected'),
        how: fc.constantFrom('is' as const, 'is not' as const),
        right: fc.constant(null),
      })
    );
    const clauses = fc.record({ join: fc.constantFrom('and' as const, 'or' as const), list: fc.array(clause, { minLength: 2, maxLength: 5 }) });
    fc.assert(
      fc.property(clauses, (one) => {
        expect(clausesOf(writeClauses(one))).toEqual(one);
      })
    );
  });
});
