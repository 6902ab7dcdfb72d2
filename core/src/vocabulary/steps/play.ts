import { Optional } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { layerPath } from '../../fields/scalars.ts';
import { chosen } from '../../fields/step-fields.ts';
import type { Acting } from '../acting.ts';
import { done, isStepped, notDone, type Stepped } from '../stepped.ts';
import { defineStep, labelMissing, noTimeline, playableSlot, stepForm, stepSchema } from './define.ts';

export const play = defineStep({
  do: 'play',
  label: 'play',
  meaning: 'plays this timeline, a placement, a video or sound, or all in a group: from where it is, or from a label',
  schema: stepSchema('play', { of: Optional(layerPath('subject')), from: Optional(chosen('label')) }),
  fresh: { do: 'play' },
  forms: [
    stepForm('play', {}, 'play', slot('of', 'playable', { before: ['from '] }), 'from', slot('from', 'label', { of: 'of' })),
    stepForm('play', { of: undefined }, 'play from', slot('from', 'label')),
    stepForm('play', { from: undefined }, 'play', playableSlot),
    stepForm('play', { from: undefined, of: undefined }, 'play on'),
  ],
  run: (acting, { of, from }) => (from === undefined ? started(acting, of, 'here') : playedFrom(acting, of, from)),
  isLeading: true,
  inTime: 'sets going',
  isRepeatable: ({ from }) => from !== undefined,
  labelOf: ({ from }) => from ?? null,
});

function playedFrom(acting: Acting, of: string | undefined, label: string | null): Stepped {
  if (label === null) return labelMissing();
  const subject = acting.time(of);
  if (isStepped(subject)) return subject;
  const played = subject.playFrom(label);
  return played ? done(`played from ${played.name}`, { took: played.took }) : notDone('missing-target', 'The label it names is not there.');
}

/** Plays from where it is, or from the beginning. */
export function started(acting: Acting, of: string | undefined, from: 'here' | 'start'): Stepped {
  const subject = acting.time(of);
  if (isStepped(subject)) return subject;
  const took = subject.play(from);
  return took === null ? noTimeline() : done(`${from === 'start' ? 'started' : 'played'} ${subject.name}`, { took });
}
