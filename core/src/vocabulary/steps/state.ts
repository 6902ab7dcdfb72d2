import { Literal, Object as Obj, Optional, Union, type Static } from '@sinclair/typebox';
import { slot, type Form } from '../../fields/forms.ts';
import { layerPath, oneOf } from '../../fields/scalars.ts';
import { chosen, strict } from '../../fields/step-fields.ts';
import { done, isStepped, notDone } from '../stepped.ts';
import { TransitionSchema } from '../transitions/schema.ts';
import { defineStep, stepForm, stepSchema, timeOf, transitionSlot } from './define.ts';

const WantedSchema = Union([
  Obj({ state: chosen('state') }, strict),
  Obj({ move: oneOf(['next', 'previous'] as const), wrap: Optional(Literal(true)) }, strict),
  Obj({ toggle: chosen('state') }, strict),
]);

type Wanted = Static<typeof WantedSchema>;

export const state = defineStep({
  do: 'state',
  label: 'set a state',
  meaning:
    'brings this scene or a placement into a state: a named one, the next or previous (round and round with “around”), or a named one and back again',
  schema: stepSchema('state', { of: Optional(layerPath('subject')), to: WantedSchema, transition: TransitionSchema }),
  fresh: { do: 'state', to: { state: null }, transition: { type: 'tween', ms: 300, easing: 'ease-out' } },
  forms: forms(),
  run(acting, { of, to, transition }) {
    const subject = acting.states(of);
    if (isStepped(subject)) return subject;
    const { name, scene, now } = subject;
    const wanted = wantedState(scene, now, to);
    if (wanted === null) return notDone('missing-target', `${name} has no such state.`);
    if (wanted === undefined) return notDone('nowhere', `${name} is in its ${'move' in to && to.move === 'next' ? 'last' : 'first'} state.`);
    const word = scene.states.find(({ id }) => id === wanted)!.name;
    const came = subject.set(wanted);
    if (came === 'there already') return notDone('there-already', `${name} is in ${word} already.`);
    if (came === 'bound') return notDone('bound', `The state of ${name} follows an expression, which wins.`);
    subject.showBy(transition);
    return done(`set ${name} to ${word}`, { took: timeOf(transition) });
  },
  isRepeatable: ({ to }) => 'state' in to,
});

/** The state that a step leads to from another; null where it is not there, undefined where there is no further one. */
export function wantedState(
  { states, initial }: { readonly states: readonly { readonly id: string }[]; readonly initial: string | null },
  now: string | null,
  to: Wanted
): string | null | undefined {
  const isThere = (id: string | null) => id !== null && states.some((one) => one.id === id);
  if ('state' in to) return isThere(to.state) ? to.state : null;
  if ('toggle' in to) return isThere(to.toggle) ? (now === to.toggle ? initial : to.toggle) : null;
  if (states.length === 0) return null;
  const at = states.findIndex(({ id }) => id === now) + (to.move === 'next' ? 1 : -1);
  if (at >= 0 && at < states.length) return states[at]!.id;
  return to.wrap ? states[(at + states.length) % states.length]!.id : undefined;
}

/** Of a placement or of this scene; to a state, a neighbour, or there and back. */
function forms(): Form[] {
  return [true, false].flatMap((named) => {
    const of = named ? [slot('of', 'stateful', { before: ['in ', 'to ', 'with '] })] : [];
    const sets = named ? {} : { of: undefined };
    const to = (path: string) => slot(path, 'state', { of: 'of' });
    const beside = (move: 'next' | 'previous', wrap: true | undefined) =>
      stepForm(
        'state',
        { ...sets, 'to.move': move, 'to.wrap': wrap },
        `${move} state${wrap ? ' around' : ''}${named ? ' of' : ''}`,
        ...of,
        transitionSlot
      );
    return [
      beside('next', true),
      beside('previous', true),
      beside('next', undefined),
      beside('previous', undefined),
      stepForm('state', sets, 'toggle', ...of, named ? 'with' : 'this with', to('to.toggle'), transitionSlot),
      stepForm('state', sets, 'put', ...of, named ? 'in' : 'this in', to('to.state'), transitionSlot),
    ];
  });
}
