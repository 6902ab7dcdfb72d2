import { Literal, Object as Obj } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { chosen, strict } from '../../fields/step-fields.ts';
import { cueForm, defineCue, IN_SCENES } from './define.ts';

export const label = defineCue({
  type: 'label',
  label: 'label reached',
  meaning: 'the timeline of the scene comes to a label, by playing or at once',
  owners: IN_SCENES,
  schema: Obj({ type: Literal('label'), label: chosen('label') }, strict),
  fresh: { type: 'label', label: null },
  forms: [cueForm('label', {}, 'label', slot('label', 'label'))],
  when: (_cue, named) => `When ${named('label', 'label')} is reached`,
  hears: 'label',
  fits: (cue, reached) => cue.label === reached.label,
});
