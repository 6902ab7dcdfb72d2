import type { Instance } from '../../program/node.ts';
import { currentFrame, sectionsOf } from '../playhead.ts';
import { pause, pauseInstance, play, playInstance, showFrame } from '../heads.ts';
import type { Call, Runner } from '../runner.ts';
import { isStepped, layerFor } from './flags.ts';
import { done, notDone, type StepRunner, type Stepped, type Took } from './stepped.ts';

/** Playing, pausing and showing moments: of a scene's own timeline, a placement's, media, or all in a group. */

/** The thread's own scene, or the layer named. */
function subject(runner: Runner, call: Call, of: string | undefined) {
  if (of !== undefined) return layerFor(runner, call, of);
  return { scene: call.root ?? runner.run.frame, instance: call.instance };
}

const sectionOf = (runner: Runner, scene: string, instance: Instance): Took =>
  runner.root(scene)?.heads[instance.key]?.playing ? { root: scene, instance: instance.key } : 0;

/** The instance whose timeline has a label: a placement's, or the one in a group. */
function withLabel(
  runner: Runner,
  call: Call,
  of: string | undefined,
  label: string | null | undefined
): { scene: string; instance: Instance; time: number } | Stepped {
  if (label === null || label === undefined) return notDone('missing-target', 'The thread does not say which label yet.');
  const found = subject(runner, call, of);
  if (isStepped(found)) return found;
  const instance = 'node' in found ? found.node.inside : found.instance;
  const scene = 'node' in found ? found.root.scene : found.scene;
  const time = instance?.scene.scene.timeline?.labels?.[label]?.time;
  return instance && time !== undefined ? { scene, instance, time } : notDone('missing-target', 'The label it names is not there.');
}

export const playStep: StepRunner<'play'> = (runner, call, step) => {
  if (step.from !== undefined) {
    const found = withLabel(runner, call, step.of, step.from);
    if (isStepped(found)) return found;
    playInstance(runner, found.scene, found.instance, found.time);
    return done(`played from ${found.instance.scene.scene.timeline!.labels![step.from!]!.name}`, {
      took: sectionOf(runner, found.scene, found.instance),
    });
  }
  return start(runner, call, step.of, 'here');
};

export const startOver: StepRunner<'start over'> = (runner, call, step) => start(runner, call, step.of, 'start');

function start(runner: Runner, call: Call, of: string | undefined, from: 'here' | 'start'): Stepped {
  const found = subject(runner, call, of);
  if (isStepped(found)) return found;
  const word = from === 'start' ? 'started' : 'played';
  if ('node' in found) {
    const instance = play(runner, found.root.scene, found.node, from);
    return done(`${word} ${found.node.layer.name}`, { took: instance ? sectionOf(runner, found.root.scene, instance) : 0 });
  }
  if (!playInstance(runner, found.scene, found.instance, from === 'start' ? 0 : null)) return notDone('no-timeline', 'This scene has no timeline.');
  return done(`${word} ${found.instance.scene.scene.name}`, { took: sectionOf(runner, found.scene, found.instance) });
}

/** Sections are pages: the next one is there at once, however much of this one was still to play. */
export const turnTo: StepRunner<'section'> = (runner, call, step) => {
  const found = subject(runner, call, step.of);
  if (isStepped(found)) return found;
  const instance = 'node' in found ? found.node.inside : found.instance;
  const scene = 'node' in found ? found.root.scene : found.scene;
  const { timeline } = instance?.scene.scene ?? {};
  const root = runner.root(scene);
  if (!instance || !timeline || !root) return notDone('no-timeline', 'This scene has no timeline.');
  const sections = sectionsOf(timeline);
  const frame = currentFrame(runner.program, runner.run, root, instance) ?? 0;
  const now = sections.findIndex(({ from, to }) => frame >= from && frame <= to);
  const { label, from } = sections[(now + (step.to === 'next' ? 1 : sections.length - 1)) % sections.length]!;
  playInstance(runner, scene, instance, from);
  return done(`played ${label === null ? 'from the beginning' : `from ${timeline.labels![label]!.name}`}`, {
    took: sectionOf(runner, scene, instance),
  });
};

export const showLabel: StepRunner<'show label'> = (runner, call, step) => {
  const found = withLabel(runner, call, step.of, step.label);
  if (isStepped(found)) return found;
  showFrame(runner, found.scene, found.instance, found.time);
  return done(`showed ${found.instance.scene.scene.timeline!.labels![step.label!]!.name}`);
};

export const pauseStep: StepRunner<'pause'> = (runner, call, step) => {
  const found = subject(runner, call, step.of);
  if (isStepped(found)) return found;
  if ('node' in found) pause(runner, found.root.scene, found.node);
  else pauseInstance(runner, found.scene, found.instance);
  return done(`paused ${'node' in found ? found.node.layer.name : found.instance.scene.scene.name}`);
};
