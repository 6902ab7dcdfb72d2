import { slot } from '../../fields/forms.ts';
import { milliseconds } from '../../fields/step-fields.ts';
import { done } from '../stepped.ts';
import { defineStep, stepForm, stepSchema } from './define.ts';

export const wait = defineStep({
  do: 'wait',
  label: 'wait',
  meaning: 'lets time pass before the next step',
  schema: stepSchema('wait', { ms: milliseconds() }),
  fresh: { do: 'wait', ms: 500 },
  forms: [stepForm('wait', {}, 'wait', slot('ms', 'duration'))],
  run: (_acting, { ms }) => done(`waited ${ms} ms`, { took: ms }),
  changesNothing: true,
  isRepeatable: () => true,
});
