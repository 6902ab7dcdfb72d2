import { Literal, Optional } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { done, notDone } from '../stepped.ts';
import { TargetSchema } from '../target.ts';
import { TransitionSchema } from '../transitions/schema.ts';
import { CUT, defineStep, stepForm, stepSchema, timeOf, transitionSlot } from './define.ts';
import { lifted } from './lift.ts';

export const go = defineStep({
  do: 'go',
  label: 'go to',
  meaning: 'another frame: by name, or next, previous, first, last, back, start; “replacing” leaves no trace for back',
  schema: stepSchema('go', { target: TargetSchema, transition: TransitionSchema, replace: Optional(Literal(true)) }),
  fresh: { do: 'go', target: { to: 'frame', frame: null }, transition: CUT },
  forms: [
    stepForm('go', { replace: true }, 'go replacing to', slot('target', 'target'), transitionSlot),
    stepForm('go', { replace: undefined }, 'go to', slot('target', 'target'), transitionSlot),
  ],
  words: ({ target, transition }, named) => `go to ${named.target(target)} · ${named.transition(transition)}`,
  run(acting, { target, transition, replace }) {
    const isBack = target.to === 'back';
    if (isBack && acting.isCovered) return lifted(acting, transition);
    const to = acting.whereTo(target);
    if (typeof to !== 'string') return notDone(to.code, to.sentence);
    const name = acting.frameName(to)!;
    const moved = acting.goTo(to, transition, isBack ? 'back' : replace ? 'none' : 'kept');
    return done(`went ${isBack ? 'back ' : ''}to ${name}`, { took: timeOf(transition), ...moved });
  },
  leadsTo: ({ target }) => target,
  isLeading: true,
  changesNothing: true,
  isRepeatable: ({ target }) => target.to === 'frame',
});
