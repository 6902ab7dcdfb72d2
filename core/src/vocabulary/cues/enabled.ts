import { Literal, Object as Obj } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { oneOf } from '../../fields/scalars.ts';
import { strict } from '../../fields/step-fields.ts';
import { cueForm, defineCue, ON_LAYERS } from './define.ts';

export const enabled = defineCue({
  type: 'enabled',
  label: 'enabled or disabled',
  meaning: 'it becomes enabled, or is no longer, however that came about',
  owners: ON_LAYERS,
  schema: Obj({ type: Literal('enabled'), what: oneOf(['on', 'off'] as const) }, strict),
  fresh: { type: 'enabled', what: 'on' },
  forms: [cueForm('enabled', {}, slot('what', 'words', { words: { enabled: 'on', disabled: 'off' } }))],
  when: ({ what }) => (what === 'on' ? 'When enabled' : 'When disabled'),
  hears: 'enabled',
  fits: ({ what }, { on }) => (what === 'on') === on,
});
