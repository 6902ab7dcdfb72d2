import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { Rest } from './rest';

let calls = 0;
const rest = () => new Rest({ rest: 100, longest: 350 }, () => void calls++);

beforeEach(() => {
  calls = 0;
  vi.useFakeTimers();
});
afterEach(() => void vi.useRealTimers());

it('calls back once when things rest', () => {
  const one = rest();
  one.stir();
  vi.advanceTimersByTime(60);
  one.stir();
  vi.advanceTimersByTime(99);
  expect(calls).toBe(0);
  vi.advanceTimersByTime(1);
  expect(calls).toBe(1);
  vi.advanceTimersByTime(1000);
  expect(calls).toBe(1);
});

it('does not wait for ever, and begins anew after it has called', () => {
  const one = rest();
  for (let i = 0; i < 20; i++) {
    one.stir();
    vi.advanceTimersByTime(50);
  }
  expect(calls).toBe(2);
});

it('calls no more once it is stopped', () => {
  const one = rest();
  one.stir();
  one.stop();
  vi.advanceTimersByTime(1000);
  expect(calls).toBe(0);
});
