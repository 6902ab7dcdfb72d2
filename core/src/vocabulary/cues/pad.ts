import { Integer, Literal, Object as Obj } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { strict } from '../../fields/step-fields.ts';
import { ANYWHERE, cueForm, defineCue } from './define.ts';

export const pad = defineCue({
  type: 'pad',
  label: 'pad button',
  meaning: 'a numbered hardware button: on the pad simulator, a digit key, or over HTTP',
  owners: ANYWHERE,
  schema: Obj({ type: Literal('pad'), button: Integer({ minimum: 0, maximum: 99 }) }, strict),
  fresh: { type: 'pad', button: 0 },
  forms: [cueForm('pad', {}, 'pad', slot('button', 'number'))],
  when: ({ button }) => `When pad button ${button} is pressed`,
  hears: 'pad',
  fits: (cue, { button }) => cue.button === button,
  tries: ({ button }) => [{ type: 'pad', button }],
});
