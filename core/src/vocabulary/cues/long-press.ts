import { Literal, Object as Obj } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { milliseconds, strict } from '../../fields/step-fields.ts';
import { durationWords } from '../../words.ts';
import { cueForm, defineCue, LONGEST, ON_LAYERS } from './define.ts';

export const longPress = defineCue({
  type: 'long press',
  label: 'pressed long',
  meaning: 'held down for that long without moving; it is then no click',
  owners: ON_LAYERS,
  schema: Obj({ type: Literal('long press'), ms: milliseconds(1, LONGEST) }, strict),
  fresh: { type: 'long press', ms: 500 },
  forms: [cueForm('long press', {}, 'long press', slot('ms', 'duration'))],
  when: ({ ms }) => `When pressed for ${durationWords(ms)}`,
  hears: 'long press',
  pointer: 'pressing',
  waits: ({ ms }) => ms,
});
