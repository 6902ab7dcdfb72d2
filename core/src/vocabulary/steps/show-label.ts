import { Optional } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { layerPath } from '../../fields/scalars.ts';
import { chosen } from '../../fields/step-fields.ts';
import { done, isStepped, notDone } from '../stepped.ts';
import { defineStep, labelMissing, stepForm, stepSchema } from './define.ts';

export const showLabel = defineStep({
  do: 'show label',
  label: 'show a moment',
  meaning: 'goes to a label at once and holds there',
  schema: stepSchema('show label', { label: chosen('label'), of: Optional(layerPath('subject')) }),
  fresh: { do: 'show label', label: null },
  forms: [
    stepForm('show label', {}, 'show in', slot('of', 'playable', { before: ['label '] }), 'label', slot('label', 'label', { of: 'of' })),
    stepForm('show label', { of: undefined }, 'show label', slot('label', 'label')),
  ],
  run(acting, { of, label }) {
    if (label === null) return labelMissing();
    const subject = acting.time(of);
    if (isStepped(subject)) return subject;
    const name = subject.show(label);
    return name === null ? notDone('missing-target', 'The label it names is not there.') : done(`showed ${name}`);
  },
  isLeading: true,
  isRepeatable: () => true,
  inTime: 'changes',
  labelOf: ({ label }) => label,
});
