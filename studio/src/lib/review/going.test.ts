import { advance, begin, compile, type RunEvent, type RunState } from '@zany/core';
import { compose } from '@zany/core/testing';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { ReviewTask, SentTrail } from '$lib/shared/types';
import { Going } from './going.svelte';

const program = compile(
  compose({
    frames: {
      plan: { layers: { on: { at: [0, 0, 100, 60], text: 'Go', lines: ['click → wait 500 ms; then go to paid'] } } },
      paid: {},
    },
  })
);
const task: ReviewTask = { id: 'pay', sentence: 'Pay', start: null, goal: { frame: 'paid' } };

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

/** A go with what it sends, and a server that answers as it is told. */
function go(on: ReviewTask | null = task) {
  const sent: SentTrail[] = [];
  const answers: boolean[] = [];
  const going = new Going(program, on, 'plan', { revision: 7, view: 1 }, async (trail) => {
    sent.push(trail);
    return answers.shift() ?? true;
  });
  let run: RunState = begin(program, 'plan')!.run;
  const act = (ms: number, event: RunEvent) => {
    if (ms > 0) ({ run } = advance(program, run, { type: 'wait', ms }));
    const next = advance(program, run, event);
    ({ run } = next);
    going.take(ms, event, run, next.reports);
  };
  const press = () => {
    act(100, { type: 'press', x: 5, y: 5 });
    act(50, { type: 'release', x: 5, y: 5 });
  };
  return { going, sent, answers, act, press };
}

test('it is sent while it goes on, and only when something was done', async () => {
  const { sent, press } = go();
  await vi.advanceTimersByTimeAsync(30_000);
  expect(sent).toHaveLength(0);
  press();
  await vi.advanceTimersByTimeAsync(30_000);
  expect(sent).toHaveLength(1);
  expect(sent[0]).toMatchObject({ task: 'pay', revision: 7, view: 1, givenUp: false, isFull: false });
});

test('what is reached by time alone is reached; nothing after it counts', async () => {
  const { going, sent, press, act } = go();
  press();
  act(500, { type: 'wait', ms: 0 });
  expect([going.outcome, going.steps]).toEqual(['reached', 1]);
  await vi.advanceTimersByTimeAsync(0);
  const before = sent.length;
  press();
  await vi.advanceTimersByTimeAsync(60_000);
  expect(sent).toHaveLength(before);
});

test('what could not be sent is sent again, also how it ended', async () => {
  const { going, sent, answers, press } = go();
  answers.push(false, false);
  press();
  going.giveUp();
  await vi.advanceTimersByTimeAsync(20_000);
  expect(sent).toHaveLength(3);
  expect(new Set(sent.map(({ id }) => id)).size).toBe(1);
  expect(sent.every(({ givenUp }) => givenUp)).toBe(true);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(sent).toHaveLength(3);
});

test('somebody who looks around freely never reaches anything', async () => {
  const { going, press, act } = go(null);
  press();
  act(500, { type: 'wait', ms: 0 });
  expect(going.outcome).toBe('on');
  going.end();
});
