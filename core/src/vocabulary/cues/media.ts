import { Literal, Object as Obj } from '@sinclair/typebox';
import { slot, themselves } from '../../fields/forms.ts';
import { oneOf } from '../../fields/scalars.ts';
import { strict } from '../../fields/step-fields.ts';
import { cueForm, defineCue, ON_LAYERS } from './define.ts';

const WHAT = ['started', 'ended'] as const;

export const media = defineCue({
  type: 'media',
  label: 'media started or ended',
  meaning: 'a video or sound begins to play, or has come to its end',
  owners: ON_LAYERS,
  schema: Obj({ type: Literal('media'), what: oneOf(WHAT) }, strict),
  fresh: { type: 'media', what: 'ended' },
  forms: [cueForm('media', {}, 'media', slot('what', 'words', { words: themselves(WHAT) }))],
  when: ({ what }) => (what === 'started' ? 'When it starts' : 'When it ends'),
  hears: 'media',
  fits: (cue, { what }) => cue.what === what,
  tries: ({ what }) => [{ type: 'media', what }],
});
