import { Literal, Object as Obj, String as Str } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { strict } from '../../fields/step-fields.ts';
import { ANYWHERE, cueForm, defineCue } from './define.ts';

export const signal = defineCue({
  type: 'signal',
  label: 'signal',
  meaning: 'a signal comes in, from a step in the piece or from the page around it',
  owners: ANYWHERE,
  schema: Obj({ type: Literal('signal'), signal: Str({ minLength: 1, maxLength: 120 }) }, strict),
  fresh: { type: 'signal', signal: 'hello' },
  forms: [cueForm('signal', {}, 'signal', slot('signal', 'text'))],
  when: (cue) => `When ${cue.signal} comes in`,
  hears: 'signal',
  fits: (cue, sent) => cue.signal === sent.signal,
  tries: (cue) => [{ type: 'signal', signal: cue.signal }],
});
