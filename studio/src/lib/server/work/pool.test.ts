import { EventEmitter } from 'node:events';
import type { Worker } from 'node:worker_threads';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Pool, WorkerLost } from './pool';
import { READY } from './ready';

/** A worker that answers after as many milliseconds as it is told, or never. */
class FakeWorker extends EventEmitter {
  static made = 0;
  static ended = 0;

  /** Milliseconds until its program is loaded. */
  static loads = 0;

  private readonly ready: Promise<void>;

  constructor() {
    super();
    FakeWorker.made++;
    this.ready = FakeWorker.loads ? new Promise((resolve) => setTimeout(resolve, FakeWorker.loads)) : Promise.resolve();
    void this.ready.then(() => this.emit('message', READY));
  }

  ref = () => undefined;
  unref = () => undefined;

  postMessage(message: { number: number; input: { piece: string; revision: number } }): void {
    void this.ready.then(() => this.answer(message));
  }

  private answer({ number, input }: { number: number; input: { piece: string; revision: number } }): void {
    if (input.piece === 'die') this.emit('error', Object.assign(new Error('full'), { code: 'ERR_WORKER_OUT_OF_MEMORY' }));
    else if (input.piece === 'fail') this.emit('message', { number, error: 'no' });
    else if (input.piece !== 'hang') setTimeout(() => this.emit('message', { number, output: input.piece }), input.revision);
  }

  async terminate(): Promise<void> {
    FakeWorker.ended++;
  }
}

const pool = (workers: number, waiting = 100) => new Pool(() => new FakeWorker() as unknown as Worker, { workers, memory: 1, waiting });
const task = (piece: string, revision = 1) => ({ piece, revision, from: 'settled' as const, log: [] });

beforeEach(() => {
  vi.useFakeTimers();
  FakeWorker.made = FakeWorker.ended = FakeWorker.loads = 0;
});
afterEach(() => vi.useRealTimers());

test('a task that takes too long ends with its worker, and the next one has another', async () => {
  const one = pool(1);
  const hanging = expect(one.run('document', task('hang'), 1000)).rejects.toThrow('it takes more than 1 s');
  const next = one.run('document', task('next'), 1000);
  await vi.advanceTimersByTimeAsync(1100);
  await hanging;
  expect(await next).toBe('next');
  expect([FakeWorker.made, FakeWorker.ended]).toEqual([2, 1]);
});

test('loading its program is not counted against the first task, and one that never gets there is given up', async () => {
  FakeWorker.loads = 8000;
  const one = pool(1);
  const slow = one.run('document', task('first', 500), 1000);
  await vi.advanceTimersByTimeAsync(8600);
  expect(await slow).toBe('first');
  FakeWorker.loads = 1e9;
  const lost = expect(pool(1).run('document', task('never'), 1000)).rejects.toThrow('its worker takes more than 60 s');
  await vi.advanceTimersByTimeAsync(61_000);
  await lost;
});

test('one that needs too much memory says so; one that fails leaves its worker', async () => {
  const one = pool(1);
  await expect(one.run('document', task('die'), 1000)).rejects.toThrow(new WorkerLost('it needs too much memory'));
  await expect(one.run('document', task('fail'), 1000)).rejects.toThrow('no');
  const good = one.run('document', task('good'), 1000);
  await vi.advanceTimersByTimeAsync(5);
  expect(await good).toBe('good');
  expect(FakeWorker.made).toBe(2);
});

test('nobody waits long for the worker he wants while another would do', async () => {
  const two = pool(2);
  const mine = await two.acquire(null);
  const started = performance.now();
  const busy = mine.run('document', task('long', 5000), 10_000);
  let got: unknown = null;
  void two.acquire(mine).then((thread) => (got = thread));
  await vi.advanceTimersByTimeAsync(30);
  expect(got).toBeNull();
  await vi.advanceTimersByTimeAsync(60);
  expect(got).not.toBeNull();
  expect(got).not.toBe(mine);
  expect(performance.now() - started).toBeLessThan(200);
  await vi.advanceTimersByTimeAsync(5000);
  expect(await busy).toBe('long');
  two.release(mine);
  expect(await two.acquire(mine)).toBe(mine);
});

test('more than can wait is refused, and stopping tells all who wait', async () => {
  const one = pool(1, 2);
  const running = expect(one.run('document', task('hang'), 1000)).rejects.toThrow('stopping');
  const waiting = expect(one.run('document', task('a'), 1000)).rejects.toThrow('stopping');
  void one.run('document', task('b'), 1000).catch(() => undefined);
  await expect(one.run('document', task('c'), 1000)).rejects.toThrow('too much to do');
  await one.close();
  await Promise.all([running, waiting]);
});
