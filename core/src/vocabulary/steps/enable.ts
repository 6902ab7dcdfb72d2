import { defineStep, stepForm, stepSchema } from './define.ts';
import { flagFields, isOneWay, layerSlot, onOffSlot, setFlag } from './flags.ts';

export const enable = defineStep({
  do: 'enable',
  label: 'enable',
  meaning: 'enables or disables a layer, or changes which it is',
  schema: stepSchema('enable', flagFields),
  fresh: { do: 'enable', layer: null, what: 'on' },
  forms: [stepForm('enable', {}, onOffSlot('enable', 'disable', 'enable or disable'), layerSlot)],
  run: (acting, step) => setFlag(acting, step, 'enabled', ['enabled', 'disabled']),
  isRepeatable: isOneWay,
});
