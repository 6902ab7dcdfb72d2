import { Literal, Object as Obj, Optional } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { chosen, milliseconds, strict } from '../../fields/step-fields.ts';
import { durationWords } from '../../words.ts';
import { cueForm, defineCue, IN_SCENES, LONGEST } from './define.ts';

export const after = defineCue({
  type: 'after',
  label: 'after a time',
  meaning: 'that long after the scene was entered, or after it came into a state',
  owners: IN_SCENES,
  /** `ms` milliseconds after the scene was entered, or the state where one is named. */
  schema: Obj({ type: Literal('after'), ms: milliseconds(1, LONGEST), state: Optional(chosen('state')) }, strict),
  fresh: { type: 'after', ms: 2000 },
  forms: [
    cueForm('after', {}, 'after', slot('ms', 'duration'), 'in', slot('state', 'state')),
    cueForm('after', { state: undefined }, 'after', slot('ms', 'duration')),
  ],
  when: ({ ms, state }, named) => `After ${durationWords(ms)}${state === undefined ? '' : ` in ${named('state', 'state')}`}`,
  hears: 'time',
  fits: ({ state }, began) => (state ?? null) === began.state && state !== null,
  waits: ({ ms }) => ms,
});
