import { valueWords } from '../../expression/ast.ts';
import { done, notDone, type StepRunner } from './stepped.ts';

/** Setting a variable. */
export const set: StepRunner<'set'> = (runner, call, step) => {
  if (step.variable === null) return notDone('missing-target', 'The thread does not say which variable yet.');
  const variable = runner.program.variables.get(step.variable);
  if (!variable) return notDone('missing-target', 'The variable it sets has been deleted.');
  const value = runner.tryExpression(runner.run, call.instance, step.value);
  if (value === null) return notDone('expression-error', `What ${variable.name} is set to has no value.`);
  const problem = runner.setVariableFrom(call.instance, variable.id, value);
  return problem === null ? done(`set ${variable.name} to ${valueWords(value)}`) : notDone('wrong-value', problem);
};
