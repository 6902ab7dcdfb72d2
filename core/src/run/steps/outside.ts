import { addressProblem } from '../../steps/address.ts';
import type { Cue } from '../../cues/schemas.ts';
import { done, notDone, type StepRunner } from './stepped.ts';

/** Waiting, opening links, sending signals. */

export const wait: StepRunner<'wait'> = (_runner, _call, step) => done(`waited ${step.ms} ms`, { took: step.ms });

export const open: StepRunner<'open'> = (runner, call, step) => {
  const problem = addressProblem(step.address);
  if (problem !== null) return notDone('bad-address', `“${step.address}” is no address that can be opened.`);
  runner.effect({ type: 'open', address: step.address.trim(), tab: step.tab, measure: step.measure ?? null, thread: call.thread.id });
  return done(`opened ${step.address.trim()}`);
};

export const send: StepRunner<'send'> = (runner, call, step) => {
  runner.effect({ type: 'signal', signal: step.signal, thread: call.thread.id });
  runner.happen(`signal ${step.signal}`, () =>
    runner.callsEverywhere('signal').filter(({ thread }) => (thread.cue as Extract<Cue, { type: 'signal' }>).signal === step.signal)
  );
  return done(`sent ${step.signal}`);
};
