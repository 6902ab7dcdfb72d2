import { Literal, Number as Num, Optional } from '@sinclair/typebox';
import { slot, themselves } from '../../fields/forms.ts';
import { oneOf } from '../../fields/scalars.ts';
import { chosen } from '../../fields/step-fields.ts';
import { done, notDone } from '../stepped.ts';
import { TransitionSchema } from '../transitions/schema.ts';
import { CUT, defineStep, stepForm, stepSchema, timeOf, transitionSlot } from './define.ts';

const SIDES = ['center', 'top', 'bottom', 'left', 'right'] as const;

export const lay = defineStep({
  do: 'lay',
  label: 'lay over',
  meaning:
    'shows a frame over this one, at a side or in the middle; a scrim keeps presses off what lies below; “closing” lifts it at a press beside it',
  schema: stepSchema('lay', {
    frame: chosen('frame'),
    at: oneOf(SIDES),
    scrim: Optional(Num({ minimum: 0, maximum: 1, description: 'opacity of the darkened ground; it keeps presses off what lies below' })),
    closes: Optional(Literal(true)),
    transition: TransitionSchema,
  }),
  fresh: { do: 'lay', frame: null, at: 'center', scrim: 0.4, closes: true, transition: CUT },
  forms: [true, undefined].map((closes) =>
    stepForm(
      'lay',
      { closes },
      closes ? 'lay closing over' : 'lay over',
      slot('frame', 'frame', { before: ['at '] }),
      'at',
      slot('at', 'words', { words: themselves(SIDES) }),
      { maybe: ['scrim', slot('scrim', 'percent')] },
      transitionSlot
    )
  ),
  run(acting, { frame, at, scrim, closes, transition }) {
    if (frame === null) return notDone('missing-target', 'The thread does not say what to lay over yet.');
    const name = acting.frameName(frame);
    if (name === null) return notDone('missing-target', 'The frame to lay over has been deleted.');
    if (acting.isOnScreen(frame)) return notDone('there-already', `${name} is on the screen already.`);
    acting.layOver({ frame, at, scrim: scrim ?? null, closes: closes === true }, transition);
    return done(`laid ${name} over`, { took: timeOf(transition) });
  },
  leadsTo: ({ frame }) => ({ to: 'frame', frame }),
  isLeading: true,
});
