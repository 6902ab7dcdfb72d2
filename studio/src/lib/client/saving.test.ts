import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fail, fault, ok, pieceToJson, type Batch, type Operation, type Piece, type Result } from '@zany/core';
import { build, generator } from '@zany/core/testing';
import { Refusal } from '$lib/server/refusal';
import { parseBatches } from '$lib/server/work/sent';
import { Keeper } from '$lib/server/work/keeper';
import type { BatchResult, FollowedBatch } from '$lib/shared/types';
import { SaveQueue, type Refused, type SaveState, type SavingWorld } from './saving';
import { saveWords } from './save-words';
import { Sync } from './sync';

/** Time that passes only when it is told to, in the order of deadlines. */
class Clock {
  now = 0;
  private readonly waiting: { at: number; order: number; work: () => void }[] = [];
  private order = 0;

  later = (ms: number, work: () => void): (() => void) => {
    const one = { at: this.now + ms, order: this.order++, work };
    this.waiting.push(one);
    return () => void (this.waiting.includes(one) && this.waiting.splice(this.waiting.indexOf(one), 1));
  };

  /** Lets time pass, each deadline with all that follows from it. */
  async pass(ms: number): Promise<void> {
    const end = this.now + ms;
    for (;;) {
      await settled();
      const next = this.waiting.filter(({ at }) => at <= end).sort((a, b) => a.at - b.at || a.order - b.order)[0];
      if (!next) break;
      this.waiting.splice(this.waiting.indexOf(next), 1);
      this.now = Math.max(this.now, next.at);
      next.work();
    }
    this.now = end;
  }
}

const settled = async () => {
  for (let i = 0; i < 12; i++) await Promise.resolve();
};

type Answer = Result<{ results: BatchResult[] }>;

/** A server with the real keeper behind it: applies what comes in its order and tells all who follow. */
class Server {
  readonly log: FollowedBatch[] = [];
  readonly followers = new Set<(news: FollowedBatch) => void>();
  private readonly keeper = new Keeper();
  private readonly document: string;
  private state: 'settled' | 'applied' | null = null;

  constructor(readonly piece: Piece) {
    this.document = JSON.stringify(pieceToJson(piece));
  }

  take(body: string, by: string): Answer {
    try {
      return this.takeAll(body, by);
    } catch (error) {
      if (error instanceof Refusal) return fail(error.fault);
      throw error;
    }
  }

  private takeAll(body: string, by: string): Answer {
    const results = parseBatches(new TextEncoder().encode(body)).map((sent): BatchResult => {
      const known = this.log.find(({ batch }) => batch.id === sent.id);
      if (known) return { id: sent.id, revision: known.revision };
      const at = { piece: 'p', revision: this.log.length, log: [], from: this.state ?? { revision: 0, document: this.document } };
      const applied = this.keeper.apply({ ...at, batches: [sent], refused: {} });
      const [result] = applied.results;
      this.state = 'fault' in result! ? 'settled' : 'applied';
      if ('fault' in result!) return { id: sent.id, fault: result.fault };
      const news: FollowedBatch = {
        piece: 'p',
        revision: applied.revision,
        by,
        batch: { ...sent, operations: JSON.parse(sent.operations) as Operation[] },
      };
      this.log.push(news);
      for (const tell of this.followers) tell(news);
      return { id: sent.id, revision: applied.revision };
    });
    return ok({ results });
  }

  now(): string {
    const from = this.state ?? { revision: 0, document: this.document };
    this.state = 'settled';
    return this.keeper.document({ piece: 'p', revision: this.log.length, log: [], from });
  }
}

/** What a browser keeps; may refuse to. */
class Shelf {
  kept: Batch[] = [];
  aside: Refused[] = [];
  works = true;

  world(clock: Clock, send: SavingWorld['send']): SavingWorld {
    return {
      send,
      keep: async (batch) => {
        if (!this.works) throw new Error('full');
        this.kept.push(batch);
      },
      forget: async (ids) => void (this.kept = this.kept.filter(({ id }) => !ids.has(id))),
      setAside: async (refused) => void this.aside.push(...refused),
      soon: (work) => void clock.later(1, work),
      later: clock.later,
    };
  }
}

/** One window, with the real queue and the real piece on top of the confirmed one. */
class Window {
  readonly sync: Sync;
  readonly queue: SaveQueue;
  state: SaveState = 'saved';
  waiting = 0;
  keeps = true;
  readonly refusals: Refused[][] = [];

  constructor(
    piece: Piece,
    revision: number,
    readonly shelf: Shelf,
    clock: Clock,
    send: SavingWorld['send']
  ) {
    this.sync = new Sync(piece, revision);
    this.queue = new SaveQueue(shelf.world(clock, send), {
      changed: (state, waiting) => ([this.state, this.waiting] = [state, waiting]),
      saved: (saved) => void this.sync.saved(saved),
      refused: (refused) => {
        this.refusals.push([...refused]);
        this.sync.refused(refused.map(({ batch }) => batch.id));
      },
      keeping: (works) => (this.keeps = works),
    });
  }

  edit(id: string, operations: Operation[], name = 'Edit'): boolean {
    const batch = { id, name, operations };
    const made = this.sync.commit(batch);
    if (made.ok) this.queue.add(batch);
    return made.ok;
  }
}

const sample = () => build({ home: { layers: { a: {}, b: {}, c: {} } } });
const move = (layer: string, x: number): Operation => ({ op: 'set', table: 'layers', id: layer, path: ['pose', 'x'], value: x });
const remove = (layer: string): Operation => ({ op: 'remove', table: 'layers', id: layer });
const put = (piece: Piece, layer: string): Operation => ({ op: 'put', table: 'layers', value: { ...piece.layers.get('a')!, id: layer } });
const text = (piece: Piece) => JSON.stringify(pieceToJson(piece));

describe('edits over a network that delays, loses, doubles and reorders', () => {
  test('end in the same piece everywhere, each once, and nothing is lost', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer(), fc.integer({ min: 1, max: 4 }), async (seed, people) => {
        const random = generator(seed);
        const clock = new Clock();
        const server = new Server(sample());
        let isDown = false;
        const trip = () => 5 + random() * (random() < 0.2 ? 3000 : 200);
        const network =
          (by: string): SavingWorld['send'] =>
          (body) =>
            new Promise<Answer>((resolve) => {
              const lost = isDown || random() < 0.15;
              const offline = () => resolve(fail(fault('offline', [], 'lost')));
              if (lost && random() < 0.5) return void clock.later(trip(), offline);
              clock.later(trip(), () => {
                const answer = random() < 0.05 ? (fail(fault('failed', [], 'trouble')) as Answer) : server.take(body, by);
                if (random() < 0.1) clock.later(trip(), () => void server.take(body, by));
                if (lost) clock.later(trip(), offline);
                else clock.later(trip(), () => resolve(answer));
              });
            });
        const windows = Array.from({ length: people }, (_, i) => new Window(server.piece, 0, new Shelf(), clock, network(`p${i}`)));
        const follow = (window: Window) => {
          // News comes in order, but late; what a break lost is asked for again, as an event stream does.
          let at = window.sync.revision;
          const pump = () => {
            clock.later(20 + random() * 300, () => {
              const news = server.log[at];
              if (news && !(isDown && random() < 0.5)) {
                at = news.revision;
                expect(window.sync.receive(news).ok).toBe(true);
              }
              pump();
            });
          };
          pump();
        };
        windows.forEach(follow);
        const made: string[] = [];
        for (let n = 0; n < 40; n++) {
          const window = windows[Math.floor(random() * people)]!;
          const layers = [...window.sync.shown.layers.keys()];
          const layer = layers[Math.floor(random() * layers.length)];
          const kind = random();
          const operation = !layer || kind < 0.25 ? put(server.piece, `n${n}`) : kind < 0.4 ? remove(layer) : move(layer, n);
          if (window.edit(`e${n}`, [operation])) made.push(`e${n}`);
          isDown = random() < 0.2 ? !isDown : isDown;
          await clock.pass(random() * 400);
        }
        isDown = false;
        await clock.pass(120_000);
        const saved = server.log.map(({ batch }) => batch.id);
        const aside = windows.flatMap(({ shelf }) => shelf.aside.map(({ batch }) => batch.id));
        expect(new Set(saved).size).toBe(saved.length);
        expect([...saved, ...aside].sort()).toEqual([...made].sort());
        const end = server.now();
        for (const window of windows) {
          expect(window.state).toBe('saved');
          expect(window.shelf.kept).toEqual([]);
          expect(window.sync.pendingCount).toBe(0);
          expect(text(window.sync.shown)).toBe(end);
        }
      }),
      { numRuns: 60 }
    );
  }, 120_000);

  test('a window that is closed before all is sent leaves the rest for the next, which sends it once', async () => {
    const clock = new Clock();
    const server = new Server(sample());
    const shelf = new Shelf();
    const first = new Window(server.piece, 0, shelf, clock, async (body) => {
      server.take(body, 'p');
      return fail(fault('offline', [], 'the answer was lost'));
    });
    first.edit('e1', [move('a', 1)]);
    first.edit('e2', [move('a', 2)]);
    await clock.pass(50);
    first.queue.stop();
    const second = new Window(server.piece, 0, shelf, clock, async (body) => server.take(body, 'p'));
    for (const news of server.log) second.sync.receive(news);
    second.sync.resume(shelf.kept);
    second.queue.resume(shelf.kept);
    await clock.pass(1000);
    expect(server.log.map(({ batch }) => batch.id)).toEqual(['e1', 'e2']);
    expect([second.state, second.sync.pendingCount, shelf.kept.length]).toEqual(['saved', 0, 0]);
    expect(second.sync.shown.layers.get('a')!.pose.x).toBe(2);
  });
});

test('what is nowhere but in the window is known until the browser or the server has it', async () => {
  const clock = new Clock();
  const server = new Server(sample());
  const shelf = new Shelf();
  let isDown = true;
  const window = new Window(server.piece, 0, shelf, clock, async (body) => (isDown ? fail(fault('offline', [], 'no')) : server.take(body, 'p')));
  window.edit('e1', [move('a', 1)]);
  expect(window.queue.nowhere.map(({ id }) => id)).toEqual(['e1']);
  await clock.pass(10);
  expect(window.queue.nowhere).toEqual([]);
  shelf.works = false;
  window.edit('e2', [move('a', 2)]);
  await clock.pass(10);
  expect(window.queue.nowhere.map(({ id }) => id)).toEqual(['e2']);
  isDown = false;
  await clock.pass(10_000);
  expect([window.state, window.queue.nowhere]).toEqual(['saved', []]);
});

describe('one edit that cannot be saved', () => {
  test('is set aside alone, told once, and the rest goes on', async () => {
    const clock = new Clock();
    const server = new Server(sample());
    const window = new Window(server.piece, 0, new Shelf(), clock, async (body) => server.take(body, 'p'));
    server.take(JSON.stringify({ batches: [{ id: 'other', name: 'Remove', operations: [remove('b')] }] }), 'q');
    for (let i = 0; i < 40; i++) window.edit(`b${i}`, [move('b', i)]);
    window.edit('good', [move('a', 5)]);
    await clock.pass(5000);
    expect(window.refusals.flat().map(({ batch }) => batch.id)).toEqual(Array.from({ length: 40 }, (_, i) => `b${i}`));
    expect(window.refusals).toHaveLength(1);
    expect(window.shelf.aside).toHaveLength(40);
    expect(server.log.at(-1)!.batch.id).toBe('good');
    expect([window.state, window.waiting]).toEqual(['saved', 0]);
  });

  test('by a request that is refused as a whole is found by halving', async () => {
    const clock = new Clock();
    const server = new Server(sample());
    let requests = 0;
    const window = new Window(server.piece, 0, new Shelf(), clock, async (body) => {
      requests++;
      return body.includes('poison') ? fail(fault('bad-request', [], 'not this')) : server.take(body, 'p');
    });
    for (let i = 0; i < 60; i++) window.edit(`e${i}`, [move('a', i)], i === 37 ? 'poison' : 'Move');
    await clock.pass(5000);
    expect(window.shelf.aside.map(({ batch }) => batch.id)).toEqual(['e37']);
    expect(server.log).toHaveLength(59);
    expect(requests).toBeLessThan(25);
  });

  test('by its size is set aside without being sent, and others are sent in portions of bytes', async () => {
    const clock = new Clock();
    const server = new Server(sample());
    const sizes: number[] = [];
    const window = new Window(server.piece, 0, new Shelf(), clock, async (body) => {
      sizes.push(body.length);
      return body.length > 20_000_000 ? fail(fault('too-large', [], 'too large')) : server.take(body, 'p');
    });
    const note = (n: number, length: number): Operation => ({ op: 'set', table: 'layers', id: 'a', path: ['text'], value: String(n).repeat(length) });
    for (let i = 0; i < 30; i++) window.queue.add({ id: `e${i}`, name: 'Write', operations: [note(i % 10, 1_000_000)] });
    window.queue.add({ id: 'vast', name: 'Write', operations: [note(1, 19_500_000)] });
    window.edit('last', [move('a', 4)]);
    await clock.pass(10_000);
    expect(Math.max(...sizes)).toBeLessThan(5_000_000);
    expect(window.shelf.aside.map(({ why }) => why.code)).toEqual(Array.from({ length: 31 }, () => 'too-large'));
    expect(server.log.map(({ batch }) => batch.id)).toEqual(['last']);
  });
});

describe('what keeps edits from being saved', () => {
  test.each([
    ['signed-out', 'signed-out'],
    ['not-allowed', 'not-allowed'],
    ['not-found', 'not-found'],
    ['other-format', 'other-format'],
    ['failed', 'trouble'],
    ['offline', 'offline'],
  ] as const)('%s: they are held, say so, and go on by themselves', async (code, state) => {
    const clock = new Clock();
    const server = new Server(sample());
    let answer: Answer | null = fail(fault(code, [], 'no'));
    const window = new Window(server.piece, 0, new Shelf(), clock, async (body) => answer ?? server.take(body, 'p'));
    window.edit('e1', [move('a', 1)]);
    window.edit('e2', [move('a', 2)]);
    await clock.pass(20_000);
    expect([window.state, window.waiting, window.shelf.kept.length, window.shelf.aside.length]).toEqual([state, 2, 2, 0]);
    const words = saveWords({ state: window.state, waiting: window.waiting, keeps: true });
    expect(words.text).toContain('2 changes kept here');
    expect(words.text.startsWith('Offline')).toBe(code === 'offline');
    answer = null;
    await clock.pass(20_000);
    expect([window.state, server.log.length, window.shelf.kept.length]).toEqual(['saved', 2, 0]);
  });

  test('a browser that keeps nothing is said so before anything is lost', async () => {
    const clock = new Clock();
    const server = new Server(sample());
    const shelf = new Shelf();
    shelf.works = false;
    let isDown = true;
    const window = new Window(server.piece, 0, shelf, clock, async (body) => (isDown ? fail(fault('offline', [], 'no')) : server.take(body, 'p')));
    window.edit('e1', [move('a', 1)]);
    await clock.pass(2000);
    expect(window.keeps).toBe(false);
    expect(saveWords({ state: window.state, waiting: window.waiting, keeps: window.keeps })).toMatchObject({
      text: 'Offline, 1 change only in this window',
      action: 'save as a file',
    });
    expect(saveWords({ state: 'saved', waiting: 0, keeps: false }).meaning).toContain('would be lost with this window');
    isDown = false;
    await clock.pass(10_000);
    expect(window.state).toBe('saved');
  });
});

test('a window that missed news takes the piece anew and keeps what is pending, once', async () => {
  const server = new Server(sample());
  const sync = new Sync(server.piece, 0);
  const mine: Batch = { id: 'mine', name: 'Move', operations: [move('a', 9)] };
  const saved: Batch = { id: 'saved', name: 'Move', operations: [move('c', 8)] };
  for (const batch of [saved, mine]) expect(sync.commit(batch).ok).toBe(true);
  server.take(JSON.stringify({ batches: [{ id: 'other', name: 'Move', operations: [move('b', 7)] }, saved] }), 'q');
  sync.saved([{ id: 'saved', revision: 2 }]);
  expect(sync.receive({ ...server.log[1]!, revision: 5 }).ok).toBe(false);
  const { readPiece, unwrap } = await import('@zany/core');
  sync.reload(unwrap(readPiece(JSON.parse(server.now()))), 2);
  expect(sync.pendingCount).toBe(1);
  expect(['a', 'b', 'c'].map((id) => sync.shown.layers.get(id)!.pose.x)).toEqual([9, 7, 8]);
});
