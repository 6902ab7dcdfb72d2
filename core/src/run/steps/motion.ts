import { poseOf, standingRoot, boundsOf } from '../resolve.ts';
import type { Runner, Call } from '../runner.ts';
import { scrollTo } from '../scrolling.ts';
import { done, notDone, type StepRunner } from './stepped.ts';
import { isStepped, layerFor } from './flags.ts';
import type { Timing } from '../../steps/schemas.ts';

/** Moving layers, tweening numbers, scrolling. */

const SCROLL = ['scrollX', 'scrollY'] as const;

const timeOf = (timing: Timing | undefined) => (timing ? timing.ms + (timing.delay ?? 0) : 0);

function number(runner: Runner, call: Call, expression: string): number | null {
  const value = runner.tryExpression(runner.run, call.instance, expression);
  return typeof value === 'number' ? value : null;
}

export const move: StepRunner<'move'> = (runner, call, step) => {
  const place = layerFor(runner, call, step.layer);
  if (isStepped(place)) return place;
  const [x, y] = [number(runner, call, step.x), number(runner, call, step.y)];
  if (x === null || y === null) return notDone('expression-error', 'Where to move it gives no number.');
  const now = poseOf(runner.program, runner.run, place.root, place.node);
  runner.change(place, step.how === 'to' ? { x, y } : { x: now.x + x, y: now.y + y });
  if (step.timing) runner.effect({ type: 'tween', of: place.node.key, names: ['x', 'y'], timing: step.timing, thread: call.thread.id });
  return done(`moved ${place.node.layer.name}`, { took: timeOf(step.timing) });
};

/** What numbers of a layer can be tweened to. */
export const TWEEN_LIMITS: Partial<Record<string, readonly [number, number]>> = {
  opacity: [0, 1],
  scale: [0, 100],
  width: [0, 100_000],
  height: [0, 100_000],
};

export const tween: StepRunner<'tween'> = (runner, call, step) => {
  const place = layerFor(runner, call, step.layer);
  if (isStepped(place)) return place;
  const value = number(runner, call, step.value);
  if (value === null) return notDone('expression-error', `What to tween ${step.property} to gives no number.`);
  const [least, most] = TWEEN_LIMITS[step.property] ?? [-1e6, 1e6];
  runner.change(place, { [step.property]: Math.min(most, Math.max(least, value)) });
  if (step.timing) runner.effect({ type: 'tween', of: place.node.key, names: [step.property], timing: step.timing, thread: call.thread.id });
  return done(`tweened ${step.property} of ${place.node.layer.name} to ${value}`, { took: timeOf(step.timing) });
};

export const scroll: StepRunner<'scroll'> = (runner, call, step) => {
  const scene = call.root ?? runner.run.frame;
  if ('edge' in step.to) {
    scrollTo(runner, scene, '', 0, step.to.edge === 'top' ? 0 : Infinity);
    if (step.timing) runner.effect({ type: 'tween', of: scene, names: SCROLL, timing: step.timing, thread: call.thread.id });
    return done(`scrolled to the ${step.to.edge}`, { took: timeOf(step.timing) });
  }
  const place = layerFor(runner, call, step.to.layer);
  if (isStepped(place)) return place;
  const { root, node } = place;
  const shown = standingRoot(runner.program, runner.run, root).all.find((one) => one.node === node);
  if (!shown) return notDone('hidden', `${node.layer.name} is hidden.`);
  let around = node.parent;
  while (around && !around.layer.scroll) around = around.parent;
  const box = boundsOf(shown);
  if (around) {
    const group = standingRoot(runner.program, runner.run, root).all.find((one) => one.node === around)!;
    const ground = boundsOf(group);
    const old = root.scroll[around.key] ?? { x: 0, y: 0 };
    scrollTo(runner, root.scene, around.key, old.x + box.x - ground.x, old.y + box.y - ground.y);
  } else scrollTo(runner, root.scene, '', 0, (root.scroll['']?.y ?? 0) + box.y);
  if (step.timing) runner.effect({ type: 'tween', of: around?.key ?? root.scene, names: SCROLL, timing: step.timing, thread: call.thread.id });
  return done(`scrolled to ${node.layer.name}`, { took: timeOf(step.timing) });
};
