import { Optional } from '@sinclair/typebox';
import { layerPath } from '../../fields/scalars.ts';
import { defineStep, playableSlot, stepForm, stepSchema } from './define.ts';
import { started } from './play.ts';

export const startOver = defineStep({
  do: 'start over',
  label: 'start over',
  meaning: 'plays from the beginning',
  schema: stepSchema('start over', { of: Optional(layerPath('subject')) }),
  fresh: { do: 'start over' },
  forms: [stepForm('start over', {}, 'start over', playableSlot), stepForm('start over', { of: undefined }, 'start over')],
  run: (acting, { of }) => started(acting, of, 'start'),
  inTime: 'sets going',
  isRepeatable: () => true,
});
