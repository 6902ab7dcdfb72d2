import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { Refusal } from '../refusal';

/** How often a program may ask with one key: many edits at once go as one batch, so that this is far beyond what is needed. */
export const PACE = { requests: 600, seconds: 60 } as const;

/** Counted by each server for itself: it keeps a program that has gone wild from keeping others waiting. */
const pace = new RateLimiterMemory({ points: PACE.requests, duration: PACE.seconds });

/** Counts a request by a key. Gives null, or why it is one too many with the seconds until the next may come. */
export async function countRequest(key: string): Promise<{ readonly refusal: Refusal; readonly wait: number } | null> {
  try {
    await pace.consume(key);
    return null;
  } catch (full) {
    if (!(full instanceof RateLimiterRes)) throw full;
    const wait = Math.max(1, Math.ceil(full.msBeforeNext / 1000));
    const sentence = `This key has asked ${PACE.requests} times within ${PACE.seconds} s, which is as often as it may. Ask again in ${wait} s.`;
    return { refusal: new Refusal('too-often', sentence), wait };
  }
}
