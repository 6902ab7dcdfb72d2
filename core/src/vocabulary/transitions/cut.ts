import { Literal, Object as Obj } from '@sinclair/typebox';
import { strict } from '../../fields/step-fields.ts';
import { defineTransition } from './define.ts';

export const cut = defineTransition({
  type: 'cut',
  label: 'cut',
  meaning: 'what is new at once',
  schema: Obj({ type: Literal('cut') }, strict),
  fresh: { type: 'cut' },
  isStill: true,
});
