import type { Acting } from '../acting.ts';
import { done, notDone, type Stepped } from '../stepped.ts';
import type { Transition } from '../transitions/all.ts';
import { TransitionSchema } from '../transitions/schema.ts';
import { CUT, defineStep, stepForm, stepSchema, timeOf, transitionSlot } from './define.ts';

export function lifted(acting: Acting, transition: Transition): Stepped {
  const name = acting.lift(transition);
  return done(`lifted ${name}`, { took: timeOf(transition) });
}

export const lift = defineStep({
  do: 'lift',
  label: 'lift',
  meaning: 'takes away the topmost frame that was laid over',
  schema: stepSchema('lift', { transition: TransitionSchema }),
  fresh: { do: 'lift', transition: CUT },
  forms: [stepForm('lift', {}, 'lift', transitionSlot)],
  run: (acting, { transition }) => (acting.isCovered ? lifted(acting, transition) : notDone('nothing-laid', 'No frame lies over this one.')),
});
