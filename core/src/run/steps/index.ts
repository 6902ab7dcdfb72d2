import type { Step, StepType } from '../../steps/schemas.ts';
import type { Call, Runner } from '../runner.ts';
import { enable, select, show } from './flags.ts';
import { go, lay, lift } from './frames.ts';
import { move, scroll, tween } from './motion.ts';
import { open, send, wait } from './outside.ts';
import { set } from './set.ts';
import { state } from './state.ts';
import type { Stepped, StepRunner } from './stepped.ts';
import { pauseStep, playStep, showLabel, startOver, turnTo } from './timeline.ts';

export type { Took } from './stepped.ts';

/** What each step does when it runs. */
const runners: { readonly [T in StepType]: StepRunner<T> } = {
  go,
  lay,
  lift,
  state,
  select,
  enable,
  show,
  move,
  tween,
  set,
  scroll,
  play: playStep,
  'show label': showLabel,
  section: turnTo,
  pause: pauseStep,
  'start over': startOver,
  wait,
  open,
  send,
};

export const runStep = (runner: Runner, call: Call, step: Step): Stepped => (runners[step.do] as StepRunner<StepType>)(runner, call, step as never);
