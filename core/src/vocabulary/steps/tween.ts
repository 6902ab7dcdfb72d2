import { Optional } from '@sinclair/typebox';
import { slot, themselves } from '../../fields/forms.ts';
import { expression, oneOf } from '../../fields/scalars.ts';
import { chosenLayer, TimingSchema } from '../../fields/step-fields.ts';
import type { ChangedNumber } from '../acting.ts';
import { done, isStepped, notDone } from '../stepped.ts';
import { defineStep, isConstant, lasts, stepForm, stepSchema, timingSlot } from './define.ts';

/** Numbers that a step can tween, with what they can be. */
export const TWEEN_LIMITS = {
  x: [-1e6, 1e6],
  y: [-1e6, 1e6],
  width: [0, 100_000],
  height: [0, 100_000],
  rotation: [-1e6, 1e6],
  scale: [0, 100],
  opacity: [0, 1],
} as const satisfies Record<ChangedNumber, readonly [number, number]>;

export const TWEENABLE = Object.keys(TWEEN_LIMITS) as readonly ChangedNumber[];

export const tween = defineStep({
  do: 'tween',
  label: 'tween',
  meaning: `brings a number of a layer (${TWEENABLE.join(', ')}) to a value in a time`,
  schema: stepSchema('tween', {
    layer: chosenLayer(),
    property: oneOf(TWEENABLE),
    value: expression('number'),
    timing: Optional(TimingSchema),
  }),
  fresh: { do: 'tween', layer: null, property: 'opacity', value: '0', timing: { ms: 300, easing: 'ease-out' } },
  forms: [
    stepForm(
      'tween',
      {},
      'tween',
      slot('property', 'words', { words: themselves(TWEENABLE) }),
      'of',
      slot('layer', 'layer', { before: ['to '] }),
      'to',
      slot('value', 'expression', { before: [','] }),
      timingSlot
    ),
  ],
  run(acting, { layer: path, property, value: wanted, timing }) {
    const layer = acting.layer(path);
    if (isStepped(layer)) return layer;
    const value = acting.value(wanted);
    if (typeof value !== 'number') return notDone('expression-error', `What to tween ${property} to gives no number.`);
    const [least, most] = TWEEN_LIMITS[property];
    layer.change({ [property]: Math.min(most, Math.max(least, value)) }, timing);
    return done(`tweened ${property} of ${layer.name} to ${value}`, { took: lasts(timing) });
  },
  isRepeatable: ({ value }) => isConstant(value),
});
