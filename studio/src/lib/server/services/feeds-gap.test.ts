import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Feeds, type NewsSource } from './feeds';

type News = Parameters<Feeds['deliver']>[1];

const news = (revision: number) => ({ revision, id: `b${revision}`, by: null, name: 'Edit', operations: '[]' }) as unknown as News[number];

/** Runs something so many turns of the promises later. */
async function after(turns: number, act: () => void): Promise<void> {
  for (let i = 0; i < turns; i++) await Promise.resolve();
  act();
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

test('news that comes in the very moment in which a look for it ends is told all the same', async () => {
  for (let turns = 0; turns < 16; turns++) {
    let saved = 1;
    let asked = 0;
    const source: NewsSource = {
      after: async (_piece, revision) => {
        asked++;
        const found = Array.from({ length: Math.max(0, saved - revision) }, (_, i) => news(revision + 1 + i));
        if (asked === 2)
          void after(turns, () => {
            saved = 4;
            feeds.deliver('p', [news(4)]);
          });
        return found;
      },
      revision: async () => 1,
      bytes: async () => 0,
      listen: () => undefined,
    };
    const feeds = new Feeds(source);
    const heard: number[] = [];
    feeds.join('p', 1, { take: (_piece, list) => heard.push(...list.map(({ revision }) => revision)), behind: () => expect.unreachable() });
    await vi.advanceTimersByTimeAsync(5);
    // One is missed, so the next makes it look.
    saved = 3;
    feeds.deliver('p', [news(3)]);
    await vi.advanceTimersByTimeAsync(60);
    expect([turns, ...heard]).toEqual([turns, 2, 3, 4]);
  }
});
