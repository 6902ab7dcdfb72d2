import { TransitionSchema } from '../transitions/schema.ts';
import { defineStep, stepForm, stepSchema, timeOf, transitionSlot } from './define.ts';
import { flagFields, isOneWay, layerSlot, onOffSlot, setFlag } from './flags.ts';

export const show = defineStep({
  do: 'show',
  label: 'show',
  meaning: 'shows or hides a layer, or changes which it is',
  schema: stepSchema('show', { ...flagFields, transition: TransitionSchema }),
  fresh: { do: 'show', layer: null, what: 'on', transition: { type: 'dissolve', ms: 200, easing: 'ease' } },
  forms: [stepForm('show', {}, onOffSlot('show', 'hide', 'show or hide'), layerSlot, transitionSlot)],
  run: (acting, step) =>
    setFlag(acting, step, 'shown', ['showed', 'hid'], (layer) => {
      layer.showBy(step.transition);
      return { took: timeOf(step.transition) };
    }),
  isRepeatable: isOneWay,
});
