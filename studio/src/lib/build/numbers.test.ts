import { expect, test } from 'vitest';
import { steppedBy, summed } from './numbers';

test('a number is given to all, a sum that goes on from what is there to each by itself', () => {
  expect(summed([10, 20, 35], '12')).toEqual([12, 12, 12]);
  expect(summed([10, 20, 35], '+8')).toEqual([18, 28, 43]);
  expect(summed([10, 20, 35], '/2')).toEqual([5, 10, 17.5]);
  expect(summed([10, 20], '100-16')).toEqual([84, 84]);
  expect(summed([10, 20], 'wide')).toBeNull();
});

test('bounds hold for each', () => {
  expect(summed([10, 20, 35], '*3', { min: 0, max: 50 })).toEqual([30, 50, 50]);
  expect(steppedBy([0.5, 10, 99], 10, { max: 100 })).toEqual([10.5, 20, 100]);
  expect(steppedBy([0.1, 5], -1, { min: 0 })).toEqual([0, 4]);
});
