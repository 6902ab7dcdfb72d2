import { slot } from '../../fields/forms.ts';
import { valueWords } from '../../expression/ast.ts';
import { expression } from '../../fields/scalars.ts';
import { chosen } from '../../fields/step-fields.ts';
import { done, notDone } from '../stepped.ts';
import { defineStep, isConstant, stepForm, stepSchema } from './define.ts';

export const set = defineStep({
  do: 'set',
  label: 'set a variable',
  meaning: 'sets a variable to the value of an expression, within its limits',
  schema: stepSchema('set', { variable: chosen('variable'), value: expression('variable') }),
  fresh: { do: 'set', variable: null, value: '0' },
  forms: [stepForm('set', {}, 'set', slot('variable', 'variable', { before: ['to '] }), 'to', slot('value', 'expression'))],
  run(acting, { variable, value: wanted }) {
    if (variable === null) return notDone('missing-target', 'The thread does not say which variable yet.');
    const name = acting.variableName(variable);
    if (name === null) return notDone('missing-target', 'The variable it sets has been deleted.');
    const value = acting.value(wanted);
    if (value === null) return notDone('expression-error', `What ${name} is set to has no value.`);
    const problem = acting.setVariable(variable, value);
    return problem === null ? done(`set ${name} to ${valueWords(value)}`) : notDone('wrong-value', problem);
  },
  isRepeatable: ({ value }) => isConstant(value),
});
