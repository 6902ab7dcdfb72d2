import { Literal, Null, Object as Obj, String as Str, Union } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { ANY, id, oneOf } from '../../fields/scalars.ts';
import { strict } from '../../fields/step-fields.ts';
import { cueForm, defineCue, IN_SCENES } from './define.ts';

export const state = defineCue({
  type: 'state',
  label: 'state entered or left',
  meaning: 'the scene (or the part that this placement shows) comes into a state, also as it begins, or goes out of one',
  owners: IN_SCENES,
  /** Of the scene, or of a placement's part; `state` null is any. */
  schema: Obj(
    { type: Literal('state'), change: oneOf(['entered', 'left'] as const), state: Union([Str({ ...id('state'), [ANY]: true }), Null()]) },
    strict
  ),
  fresh: { type: 'state', change: 'entered', state: null },
  forms: [
    cueForm('state', { change: 'entered', state: null }, 'any state'),
    cueForm('state', { change: 'entered' }, 'state', slot('state', 'state')),
    cueForm('state', { change: 'left', state: null }, 'leave any state'),
    cueForm('state', { change: 'left' }, 'leave state', slot('state', 'state')),
  ],
  when: ({ change, state: chosen }, named) =>
    `When ${chosen === null ? 'any state' : named('state', 'state')} ${change === 'entered' ? 'begins' : 'ends'}`,
  hears: 'state',
  fits: (cue, { change, state: now }) => cue.change === change && (cue.state === null || cue.state === now),
});
