import { defineStep, stepForm, stepSchema } from './define.ts';
import { flagFields, isOneWay, layerSlot, onOffSlot, setFlag } from './flags.ts';

export const select = defineStep({
  do: 'select',
  label: 'select',
  meaning: 'selects or unselects a layer, or changes which it is',
  schema: stepSchema('select', flagFields),
  fresh: { do: 'select', layer: null, what: 'on' },
  forms: [stepForm('select', {}, onOffSlot('select', 'unselect', 'select or unselect'), layerSlot)],
  run: (acting, step) => setFlag(acting, step, 'selected', ['selected', 'unselected']),
  isRepeatable: isOneWay,
});
