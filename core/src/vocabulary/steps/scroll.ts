import { Object as Obj, Optional, Union } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { layerPath, oneOf } from '../../fields/scalars.ts';
import { strict, TimingSchema } from '../../fields/step-fields.ts';
import { done, isStepped, notDone } from '../stepped.ts';
import { defineStep, lasts, stepForm, stepSchema, timingSlot } from './define.ts';

export const scroll = defineStep({
  do: 'scroll',
  label: 'scroll to',
  meaning: 'scrolls to a layer, the top or the bottom',
  schema: stepSchema('scroll', {
    to: Union([Obj({ layer: layerPath() }, strict), Obj({ edge: oneOf(['top', 'bottom'] as const) }, strict)]),
    timing: Optional(TimingSchema),
  }),
  fresh: { do: 'scroll', to: { edge: 'top' }, timing: { ms: 300, easing: 'ease-in-out' } },
  forms: [
    ...['top', 'bottom'].map((edge) => stepForm('scroll', { 'to.edge': edge }, `scroll to ${edge}`, timingSlot)),
    stepForm('scroll', {}, 'scroll to', slot('to.layer', 'layer'), timingSlot),
  ],
  run(acting, { to, timing }) {
    if ('edge' in to) {
      acting.scrollToEdge(to.edge, timing);
      return done(`scrolled to the ${to.edge}`, { took: lasts(timing) });
    }
    const layer = acting.layer(to.layer);
    if (isStepped(layer)) return layer;
    return layer.scrollTo(timing) ? done(`scrolled to ${layer.name}`, { took: lasts(timing) }) : notDone('hidden', `${layer.name} is hidden.`);
  },
  isRepeatable: () => true,
});
