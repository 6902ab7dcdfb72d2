import { Optional } from '@sinclair/typebox';
import { layerPath } from '../../fields/scalars.ts';
import { done, isStepped } from '../stepped.ts';
import { defineStep, playableSlot, stepForm, stepSchema } from './define.ts';

export const pause = defineStep({
  do: 'pause',
  label: 'pause',
  meaning: 'stops this timeline, a placement, a video or sound, or all in a group',
  schema: stepSchema('pause', { of: Optional(layerPath('subject')) }),
  fresh: { do: 'pause' },
  forms: [stepForm('pause', {}, 'pause', playableSlot), stepForm('pause', { of: undefined }, 'pause')],
  run(acting, { of }) {
    const subject = acting.time(of);
    if (isStepped(subject)) return subject;
    subject.pause();
    return done(`paused ${subject.name}`);
  },
  inTime: 'changes',
  isRepeatable: () => true,
});
