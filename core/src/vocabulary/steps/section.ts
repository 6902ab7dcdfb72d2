import { Optional } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { layerPath, oneOf } from '../../fields/scalars.ts';
import { done, isStepped } from '../stepped.ts';
import { defineStep, noTimeline, stepForm, stepSchema } from './define.ts';

const BESIDE = ['next', 'previous'] as const;

export const section = defineStep({
  do: 'section',
  label: 'turn to a section',
  meaning: 'plays the section after or before the one that is shown, of this timeline or a placement; after the last comes the first again',
  schema: stepSchema('section', { to: oneOf(BESIDE), of: Optional(layerPath('subject')) }),
  fresh: { do: 'section', to: 'next' },
  forms: BESIDE.flatMap((to) => [
    stepForm('section', { to }, `play ${to} section of`, slot('of', 'playable')),
    stepForm('section', { to, of: undefined }, `play ${to} section`),
  ]),
  /** Sections are pages: the next one is there at once, however much of this one was still to play. */
  run(acting, { of, to }) {
    const subject = acting.time(of);
    if (isStepped(subject)) return subject;
    const turned = subject.turn(to);
    return turned ? done(`played from ${turned.name ?? 'the beginning'}`, { took: turned.took }) : noTimeline();
  },
  isLeading: true,
  inTime: 'sets going',
});
