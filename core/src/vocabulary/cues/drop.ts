import { Literal, Object as Obj, Optional } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { chosenLayer, strict } from '../../fields/step-fields.ts';
import { cueForm, defineCue, ON_LAYERS } from './define.ts';

export const drop = defineCue({
  type: 'drop',
  label: 'dropped',
  meaning: 'a dragged layer is let go, anywhere or over a certain layer',
  owners: ON_LAYERS,
  /** `on`: only when let go over that layer. */
  schema: Obj({ type: Literal('drop'), on: Optional(chosenLayer()) }, strict),
  fresh: { type: 'drop' },
  forms: [cueForm('drop', {}, 'drop', 'on', slot('on', 'layer')), cueForm('drop', { on: undefined }, 'drop')],
  when: ({ on }, named) => (on === undefined ? 'When dropped' : `When dropped on ${named('on', 'layer')}`),
  hears: 'drop',
  fits: ({ on }, { isOver }) => on === undefined || (on !== null && isOver(on)),
  pointer: 'moving',
});
