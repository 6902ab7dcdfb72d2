import { isEnabled, isSelected, isShown } from '../resolve.ts';
import type { Place } from '../environment.ts';
import type { Call, Runner } from '../runner.ts';
import type { Node } from '../../program/node.ts';
import { done, notDone, type StepRunner, type Stepped } from './stepped.ts';
import { lengthOf } from './frames.ts';

/** Selecting, enabling and showing layers. */

/** The layer a step is about, or why there is none. */
export function layerFor(runner: Runner, call: Call, path: string | null): (Place & { node: Node }) | Stepped {
  if (path === null) return notDone('missing-target', 'The thread does not say which layer yet.');
  const place = runner.placeFor(call, path);
  if (!place?.node) return notDone('missing-target', 'The layer it is about has been deleted.');
  if (!place.isOn) return notDone('not-here', `${place.node.layer.name} is not on the screen.`);
  return place as Place & { node: Node };
}

export const isStepped = (value: object): value is Stepped => 'sentence' in value;

const wanted = (what: 'on' | 'off' | 'toggle', now: boolean) => (what === 'toggle' ? !now : what === 'on');

export const select: StepRunner<'select'> = (runner, call, step) => {
  const place = layerFor(runner, call, step.layer);
  if (isStepped(place)) return place;
  const on = wanted(step.what, isSelected(place.root, place.node));
  if (place.node.layer.bindings?.selected !== undefined)
    return notDone('bound', `${place.node.layer.name} is selected by an expression, which wins.`);
  runner.makeSelected(place, on);
  return done(`${on ? 'selected' : 'unselected'} ${place.node.layer.name}`);
};

export const enable: StepRunner<'enable'> = (runner, call, step) => {
  const place = layerFor(runner, call, step.layer);
  if (isStepped(place)) return place;
  const on = wanted(step.what, isEnabled(place.root, place.node));
  if (place.node.layer.bindings?.enabled !== undefined) return notDone('bound', `${place.node.layer.name} is enabled by an expression, which wins.`);
  runner.setEnabled(place, on);
  return done(`${on ? 'enabled' : 'disabled'} ${place.node.layer.name}`);
};

export const show: StepRunner<'show'> = (runner, call, step) => {
  const place = layerFor(runner, call, step.layer);
  if (isStepped(place)) return place;
  const on = wanted(step.what, isShown(runner.program, runner.run, place.root, place.node));
  if (place.node.layer.bindings?.shown !== undefined) return notDone('bound', `${place.node.layer.name} is shown by an expression, which wins.`);
  runner.setShown(place, on);
  runner.effect({ type: 'show', of: place.node.key, transition: step.transition, thread: call.thread.id });
  return done(`${on ? 'showed' : 'hid'} ${place.node.layer.name}`, { took: lengthOf(step.transition) });
};
