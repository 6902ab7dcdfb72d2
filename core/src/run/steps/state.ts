import type { SceneProgram } from '../../program/program.ts';
import { stateOf } from '../resolve.ts';
import type { StepOf } from '../../steps/schemas.ts';
import type { Place } from '../environment.ts';
import type { Call, Runner } from '../runner.ts';
import { lengthOf } from './frames.ts';
import { done, notDone, type StepRunner } from './stepped.ts';

/** Bringing a scene or a placement into a state. */
export const state: StepRunner<'state'> = (runner, call, step) => {
  const place = placeOfStep(runner, call, step.of);
  if (!place) return notDone('missing-target', 'What it brings into a state has been deleted.');
  if (!place.isOn) return notDone('not-here', 'What it brings into a state is not on the screen.');
  const { states, scene } = place.instance.scene;
  const name = place.node?.layer.name ?? scene.name;
  const to = wantedState(place.instance.scene, stateOf(place.root, place.instance), step.to);
  if (to === null) return notDone('missing-target', `${name} has no such state.`);
  if (to === undefined) return notDone('nowhere', `${name} is in its ${'move' in step.to && step.to.move === 'next' ? 'last' : 'first'} state.`);
  if (!runner.setState(place, to)) return notDone('there-already', `${name} is in ${states.find(({ id }) => id === to)!.name} already.`);
  const isBound = stateOf(runner.root(place.root.scene)!, place.instance) !== to;
  if (isBound) return notDone('bound', `The state of ${name} follows an expression, which wins.`);
  runner.effect({ type: 'show', of: place.instance.key || place.root.scene, transition: step.transition, thread: call.thread.id });
  return done(`set ${name} to ${states.find(({ id }) => id === to)!.name}`, { took: lengthOf(step.transition) });
};

/** The scene or placement that a step is about; the thread's own scene where it names none. */
export function placeOfStep(runner: Runner, call: Call, of: string | undefined): Place | null {
  if (of !== undefined) return runner.placeFor(call, of);
  return runner.find(call.instance.key || (call.root ?? runner.run.frame));
}

/** The state that a step leads to from another; null where it is not there, undefined where there is no further one. */
export function wantedState({ states, initial }: SceneProgram, now: string | null, to: StepOf<'state'>['to']): string | null | undefined {
  const isThere = (id: string | null) => id !== null && states.some((one) => one.id === id);
  if ('state' in to) return isThere(to.state) ? to.state : null;
  if ('toggle' in to) return isThere(to.toggle) ? (now === to.toggle ? initial : to.toggle) : null;
  if (states.length === 0) return null;
  const at = states.findIndex(({ id }) => id === now) + (to.move === 'next' ? 1 : -1);
  if (at >= 0 && at < states.length) return states[at]!.id;
  return to.wrap ? states[(at + states.length) % states.length]!.id : undefined;
}
