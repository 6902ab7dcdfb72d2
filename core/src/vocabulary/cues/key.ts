import { Literal, Object as Obj, String as Str } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { strict } from '../../fields/step-fields.ts';
import { keyWords, sameKey } from '../keys.ts';
import { ANYWHERE, cueForm, defineCue } from './define.ts';

export const key = defineCue({
  type: 'key',
  label: 'key',
  meaning: 'a key goes down, on its own or with Ctrl, Alt or Shift',
  owners: ANYWHERE,
  /** `key` is a KeyboardEvent.key value, with Ctrl+, Alt+ or Shift+ in front. */
  schema: Obj({ type: Literal('key'), key: Str({ minLength: 1, maxLength: 40 }) }, strict),
  fresh: { type: 'key', key: 'Enter' },
  forms: [cueForm('key', {}, 'key', slot('key', 'key'))],
  when: (cue) => `When ${keyWords(cue.key)} is pressed`,
  hears: 'key',
  fits: (cue, pressed) => sameKey(cue.key, pressed.key),
  tries: (cue) => [{ type: 'key', key: cue.key }],
});
