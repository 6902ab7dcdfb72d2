import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { FollowedText } from '$lib/shared/types';
import { generator } from '@zany/core/testing';
import { Feeds, type Taker } from './feeds';

/** A log that several servers write to, as one of them sees it: its own edits at once, those of others by a notice that may be late. */
class World {
  readonly log: FollowedText[] = [];
  asked = 0;
  packedUpTo = 0;
  private tell: (piece: string | null) => void = () => undefined;
  readonly feeds: Feeds;

  constructor(private readonly random: () => number) {
    this.feeds = new Feeds({
      after: async (_piece, revision, most) => {
        this.asked++;
        await this.pause();
        const found = this.log.filter((one) => one.revision > revision).slice(0, most);
        return found.map((one) => (one.revision <= this.packedUpTo ? { ...one, operations: null } : one));
      },
      revision: async () => {
        await this.pause();
        return this.log.length;
      },
      bytes: async (_piece, revision) => this.log.slice(revision).reduce((sum, { operations }) => sum + operations.length, 0),
      listen: (take) => (this.tell = take),
    });
  }

  pause = () => new Promise<void>((resolve) => setTimeout(resolve, this.random() * 4));

  append(count: number): FollowedText[] {
    const made = Array.from({ length: count }, (_, i) => {
      const revision = this.log.length + i + 1;
      return { revision, id: `b${revision}`, by: 'p', name: 'Edit', operations: '[]' };
    });
    this.log.push(...made);
    return made;
  }

  here(count: number): void {
    this.feeds.deliver('x', this.append(count));
  }

  elsewhere(count: number): void {
    this.append(count);
    void this.pause().then(() => this.tell('x'));
  }

  gap(): void {
    this.tell(null);
  }
}

const taker = () => {
  const heard: number[] = [];
  let behind = 0;
  const one: Taker = { take: (_piece, news) => heard.push(...news.map(({ revision }) => revision)), behind: () => behind++ };
  return { heard, one, isBehind: () => behind > 0 };
};

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const settle = () => vi.advanceTimersByTimeAsync(90);

describe('news of a piece', () => {
  test('comes to everybody once and in order, whoever made it and whenever somebody joins', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer(), async (seed) => {
        const random = generator(seed);
        const world = new World(random);
        const takers: { from: number; heard: number[]; leave: () => void }[] = [];
        world.append(Math.floor(random() * 20));
        for (let i = 0; i < 25; i++) {
          const kind = random();
          if (kind < 0.3) world.here(1 + Math.floor(random() * 3));
          else if (kind < 0.6) world.elsewhere(1 + Math.floor(random() * 3));
          else if (kind < 0.7) world.gap();
          else {
            const from = Math.floor(random() * (world.log.length + 1));
            const { heard, one } = taker();
            takers.push({ from, heard, leave: world.feeds.join('x', from, one) });
          }
          if (random() < 0.5) await vi.advanceTimersByTimeAsync(random() * 4);
        }
        await settle();
        world.gap();
        await settle();
        for (const { from, heard, leave } of takers) {
          expect(heard).toEqual(Array.from({ length: world.log.length - from }, (_, i) => from + i + 1));
          leave();
        }
      }),
      { numRuns: 12 }
    );
  }, 60_000);

  test('is asked for once, however many follow', async () => {
    const world = new World(() => 0.5);
    world.append(3);
    for (let i = 0; i < 50; i++) world.feeds.join('x', 3, taker().one);
    await settle();
    const before = world.asked;
    world.elsewhere(5);
    await settle();
    expect(world.asked - before).toBeLessThanOrEqual(2);
    const asked = world.asked;
    world.here(5);
    await settle();
    expect(world.asked).toBe(asked);
  });

  test('that is packed away, too long, or of the future is not told: the piece has to be fetched', async () => {
    const world = new World(() => 0.1);
    world.append(3000);
    world.packedUpTo = 2500;
    const [packed, far, future, good] = [taker(), taker(), taker(), taker()];
    world.feeds.join('x', 2400, packed.one);
    world.feeds.join('x', 1, far.one);
    world.feeds.join('x', 9000, future.one);
    world.feeds.join('x', 2990, good.one);
    await settle();
    expect([packed.isBehind(), far.isBehind(), future.isBehind(), good.isBehind()]).toEqual([true, true, true, false]);
    expect(good.heard).toHaveLength(10);
    const heavy = new World(() => 0.1);
    heavy.append(1);
    heavy.log[0] = { ...heavy.log[0]!, operations: 'x'.repeat(2_000_000) };
    const large = taker();
    heavy.feeds.join('x', 0, large.one);
    await settle();
    expect([large.isBehind(), large.heard.length]).toEqual([true, 0]);
  });
});
