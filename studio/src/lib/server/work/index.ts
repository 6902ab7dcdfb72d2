import { availableParallelism } from 'node:os';
import { resolve } from 'node:path';
import { Worker } from 'node:worker_threads';
import { Refusal } from '../refusal';
import { Pool, WorkerLost, type Along } from './pool';
import type { BroughtIn, ErrandTask, Outcome, TaskName, Tasks, Written } from './tasks';

/** The workers' program is built beside the studio; both run from the studio's folder. */
const FILE = process.env['ZANY_WORKER'] ?? resolve('dist/worker.js');

/** So many errands at once, so that what somebody waits for has a processor too. */
export const ERRANDS = Math.min(4, Math.max(1, availableParallelism() - 1));

const make = (memory: number) => new Worker(FILE, { resourceLimits: { maxOldGenerationSizeMb: memory } });

/** Milliseconds that each task may take before it is given up. */
const TIMES: Readonly<Record<TaskName, number>> = {
  apply: 5000,
  document: 20_000,
  package: 60_000,
  picture: 30_000,
  card: 60_000,
  copy: 20_000,
  write: 60_000,
  shown: 20_000,
  trails: 60_000,
  errand: 600_000,
  batches: 10_000,
};

interface Pools {
  /** Keep pieces and apply edits. */
  readonly pieces: Pool;
  /** What somebody waits for, and may take long. */
  readonly jobs: Pool;
  /** What nobody waits for. */
  readonly rest: Pool;
  /** What takes so long that somebody comes back for it. */
  readonly errands: Pool;
}

const store = globalThis as typeof globalThis & { zanyPools?: Pools };

/** The pools, made at first use and kept while pages are built anew. */
export const pools = (): Pools =>
  (store.zanyPools ??= {
    pieces: new Pool(make, { workers: 4, memory: 1500, waiting: 20_000 }),
    jobs: new Pool(make, { workers: 2, memory: 2000, waiting: 200 }),
    rest: new Pool(make, { workers: 1, memory: 1500, waiting: 5000 }),
    errands: new Pool(make, { workers: ERRANDS, memory: 2000, waiting: 200 }),
  });

export const timeOf = (name: TaskName): number => TIMES[name];

/** Does a heavy task beside the server's own thread. What takes too long or too much is refused with a sentence. */
export async function heavy<K extends Exclude<TaskName, 'apply' | 'document' | 'errand'>>(
  name: K,
  input: Tasks[K]['in'],
  what: string
): Promise<Tasks[K]['out']> {
  try {
    return await pools()[name === 'card' ? 'rest' : 'jobs'].run(name, input, TIMES[name]);
  } catch (error) {
    if (error instanceof WorkerLost) throw new Refusal('too-heavy', `${what} cannot be taken: ${error.message}.`);
    throw error;
  }
}

/** The same for an errand, which says meanwhile how far it has come, and can be stopped; what became of its worker is thrown as that. */
export const heavyErrand = async (task: ErrandTask, along: Along): Promise<Written | BroughtIn> =>
  orRefuse(await pools().errands.run('errand', task, TIMES.errand, along));

/** Whether an errand would be begun at once. */
export const hasTimeForErrand = (): boolean => pools().errands.hasFree;

/** The value of an outcome, or its refusal thrown. */
export function orRefuse<T>(outcome: Outcome<T>): T {
  if (outcome.ok) return outcome.value;
  throw Refusal.of(outcome.error);
}

export async function closePools(): Promise<void> {
  const made = store.zanyPools;
  delete store.zanyPools;
  await Promise.all([made?.pieces.close(), made?.jobs.close(), made?.rest.close(), made?.errands.close()]);
}
