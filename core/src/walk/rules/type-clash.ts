import { dataRule } from '../data-rule.ts';

export const typeClash = dataRule(
  'type-clash',
  'wrong type',
  'an expression that gives or compares values of the wrong type: a text where a number is wanted, a number held against a word',
  'values of one type held against each other',
  ({ code }) => code === 'wrong-type'
);
