import { String as Str } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { done } from '../stepped.ts';
import { defineStep, stepForm, stepSchema } from './define.ts';

export const send = defineStep({
  do: 'send',
  label: 'send a signal',
  meaning: 'to threads that wait for it, and to the page around the piece',
  schema: stepSchema('send', { signal: Str({ minLength: 1, maxLength: 120 }) }),
  fresh: { do: 'send', signal: 'hello' },
  forms: [stepForm('send', {}, 'send', slot('signal', 'text'))],
  run(acting, { signal }) {
    acting.send(signal);
    return done(`sent ${signal}`);
  },
});
