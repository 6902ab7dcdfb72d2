import { expect, test } from 'vitest';
import { alphaOf, colorIn, withAlpha } from './colours';

test.each([
  ['#f1eadc', '#f1eadc'],
  ['F1EADC', '#f1eadc'],
  ['abc', '#aabbcc'],
  ['#26232c80', '#26232c80'],
  ['26232cff', '#26232c'],
  [' Teal ', '#008080'],
  ['rgb(11, 122, 117)', '#0b7a75'],
  ['rgba(11, 122, 117, 0.5)', '#0b7a7580'],
  ['hsl(0, 100%, 50%)', '#ff0000'],
  ['transparent', '#00000000'],
  ['#FFFFFF00', '#ffffff00'],
])('%s is %s', (written, stored) => {
  expect(colorIn(written)).toBe(stored);
});

test.each(['', '#12', 'marigoldish', 'rgb(1,2)', 'swatch:abc'])('%j is no colour', (written) => {
  expect(colorIn(written)).toBeNull();
});

test('alpha is read and set, and goes once all of it is seen', () => {
  expect(alphaOf('#0b7a75')).toBe(1);
  expect(alphaOf('#0b7a7580')).toBe(0.5);
  expect(withAlpha('#0b7a75', 0.5)).toBe('#0b7a7580');
  expect(withAlpha('#0b7a7580', 1)).toBe('#0b7a75');
  expect(withAlpha('#0b7a75', 0)).toBe('#0b7a7500');
});
