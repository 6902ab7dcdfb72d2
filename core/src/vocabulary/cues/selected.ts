import { Literal, Object as Obj } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { oneOf } from '../../fields/scalars.ts';
import { strict } from '../../fields/step-fields.ts';
import { cueForm, defineCue, ON_LAYERS } from './define.ts';

export const selected = defineCue({
  type: 'selected',
  label: 'selected or unselected',
  meaning: 'it becomes selected, or is no longer, however that came about',
  owners: ON_LAYERS,
  schema: Obj({ type: Literal('selected'), what: oneOf(['on', 'off'] as const) }, strict),
  fresh: { type: 'selected', what: 'on' },
  forms: [cueForm('selected', {}, slot('what', 'words', { words: { selected: 'on', unselected: 'off' } }))],
  when: ({ what }) => (what === 'on' ? 'When selected' : 'When unselected'),
  hears: 'selected',
  fits: ({ what }, { on }) => (what === 'on') === on,
});
