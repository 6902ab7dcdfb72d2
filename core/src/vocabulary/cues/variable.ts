import { Literal, Object as Obj } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { chosen, strict } from '../../fields/step-fields.ts';
import { ANYWHERE, cueForm, defineCue } from './define.ts';

export const variable = defineCue({
  type: 'variable',
  label: 'variable changed',
  meaning: 'a variable has another value, however that came about',
  owners: ANYWHERE,
  schema: Obj({ type: Literal('variable'), variable: chosen('variable') }, strict),
  fresh: { type: 'variable', variable: null },
  forms: [cueForm('variable', {}, 'variable', slot('variable', 'variable'))],
  when: (_cue, named) => `When ${named('variable', 'variable')} changes`,
  hears: 'variable',
  fits: (cue, changed) => cue.variable === changed.variable,
});
