import { expect, test } from 'vitest';
import { endOf, foldRibbons } from './fold';
import type { Stitch } from './stitches';
import type { Ribbon } from './web';

const ribbon = (from: string, to: string, isConditional = false): Ribbon => ({
  key: `${from} ${to}`,
  from,
  to,
  stitches: [{ from, to } as Stitch],
  isToHub: false,
  isConditional,
});
const foldedAt = (frame: string) => (frame.startsWith('q') ? 'quay' : frame.startsWith('p') ? 'pay' : null);
const ends = (ribbons: readonly Ribbon[]) => ribbons.map(({ from, to, stitches, isConditional }) => [from, to, stitches.length, isConditional]);

test('within a folded bundle there are none; from one to another they are one', () => {
  const all = [ribbon('home', 'q1'), ribbon('home', 'q2', true), ribbon('q1', 'q2'), ribbon('q2', 'p1'), ribbon('q1', 'p2'), ribbon('home', 'far')];
  expect(ends(foldRibbons(all, foldedAt))).toEqual([
    ['home', 'far', 1, false],
    ['home', endOf('quay'), 2, true],
    [endOf('quay'), endOf('pay'), 2, false],
  ]);
});

test('where nothing is folded they are as they were', () => {
  const all = [ribbon('home', 'q1')];
  expect(foldRibbons(all, () => null)[0]).toBe(all[0]);
});
