import { Optional } from '@sinclair/typebox';
import { slot, themselves } from '../../fields/forms.ts';
import { expression, oneOf } from '../../fields/scalars.ts';
import { chosenLayer, TimingSchema } from '../../fields/step-fields.ts';
import { done, isStepped, notDone } from '../stepped.ts';
import { defineStep, isConstant, lasts, stepForm, stepSchema, timingSlot } from './define.ts';

const HOW = ['by', 'to'] as const;

export const move = defineStep({
  do: 'move',
  label: 'move',
  meaning: 'moves a layer by so much, or to a place; numbers may be expressions',
  schema: stepSchema('move', {
    layer: chosenLayer(),
    how: oneOf(HOW),
    x: expression('number'),
    y: expression('number'),
    timing: Optional(TimingSchema),
  }),
  fresh: { do: 'move', layer: null, how: 'by', x: '0', y: '0', timing: { ms: 300, easing: 'ease-out' } },
  forms: [
    stepForm(
      'move',
      {},
      'move',
      slot('layer', 'layer', { before: ['by ', 'to '] }),
      slot('how', 'words', { words: themselves(HOW) }),
      slot('x', 'expression', { before: [','] }),
      ',',
      slot('y', 'expression', { before: [','] }),
      timingSlot
    ),
  ],
  run(acting, { layer: path, how, x: right, y: down, timing }) {
    const layer = acting.layer(path);
    if (isStepped(layer)) return layer;
    const [x, y] = [acting.value(right), acting.value(down)];
    if (typeof x !== 'number' || typeof y !== 'number') return notDone('expression-error', 'Where to move it gives no number.');
    const { place } = layer;
    layer.change(how === 'to' ? { x, y } : { x: place.x + x, y: place.y + y }, timing);
    return done(`moved ${layer.name}`, { took: lasts(timing) });
  },
  isRepeatable: ({ how, x, y }) => how === 'to' && isConstant(x) && isConstant(y),
});
