import { dataRule } from '../data-rule.ts';

export const expressionError = dataRule(
  'expression-error',
  'cannot be computed',
  'a condition, binding, assignment or text whose expression cannot be read, names what is not there, or cannot be computed',
  'an expression that can be computed in every state, whatever comes of it',
  ({ code }) => code !== 'wrong-type'
);
