import PgBoss from 'pg-boss';
import { config } from './config';
import { alone } from './database';
import { log } from './log';
import { ERRANDS } from './work';

/** Work that is done later by whichever server comes to it: it stands in the database, so that no killed server loses any. */

export interface Jobs {
  /** Long work that somebody asked for. */
  readonly 'do an errand': { readonly errand: string };
  /** An address is told that something happened. */
  readonly 'tell a hook': { readonly hook: string; readonly message: string; readonly type: string; readonly at: string; readonly data: object };
}
export type JobKind = keyof Jobs;

/** How often and how long each is tried. In seconds; from one time to the next it waits twice as long. */
const TRIED = {
  // How it stands is kept with it, and what a server leaves lying is put in again: here only the database can fail.
  'do an errand': { retryLimit: 3, retryDelay: 10, retryBackoff: true, expireInSeconds: 900 },
  'tell a hook': { retryLimit: 7, retryDelay: 20, retryBackoff: true, expireInSeconds: 60 },
} as const satisfies Record<JobKind, object>;

/** So many at once on each server: an address that lets one wait keeps no other waiting. */
const SIDE_BY_SIDE: Readonly<Record<JobKind, number>> = { 'do an errand': ERRANDS, 'tell a hook': 3 };

const names = Object.keys(TRIED) as JobKind[];

/** Queues have names of plain letters. */
const queueOf = (kind: JobKind): string => kind.replaceAll(' ', '-');

let started: Promise<PgBoss> | null = null;

/** Servers that start at once make the queues one after the other: else each can hold what another one waits for. */
const QUEUE_LOCK = 7_391_206;

const start = (): Promise<PgBoss> => alone(QUEUE_LOCK, startAlone);

async function startAlone(): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: config.databaseUrl, schema: 'jobs', max: 3 });
  boss.on('error', (error) => log.warn({ err: error }, 'the queue of jobs fails'));
  await boss.start();
  for (const kind of names) await boss.createQueue(queueOf(kind), { name: queueOf(kind), policy: 'standard' });
  return boss;
}

/** What could not be started is tried again by whoever needs it next. */
const queue = (): Promise<PgBoss> =>
  (started ??= start().catch((error: unknown) => {
    started = null;
    throw error;
  }));

interface Later {
  /** Of those with one key, one is put in for each so many seconds. */
  readonly once?: { readonly key: string; readonly seconds: number };
}

/** Puts work in, to be done soon. */
export async function later<K extends JobKind>(kind: K, job: Jobs[K], { once }: Later = {}): Promise<void> {
  const boss = await queue();
  const options = TRIED[kind];
  if (once) await boss.sendDebounced(queueOf(kind), job, options, once.seconds, once.key);
  else await boss.send(queueOf(kind), job, options);
}

type Work<K extends JobKind> = (job: Jobs[K]) => Promise<void>;
type Workers = { readonly [K in JobKind]?: Work<K> };

/** Does what is in the queue of some kinds, from now on; work that throws is tried again. */
export async function workOn(workers: Workers, everySeconds = 2): Promise<void> {
  for (const kind of names) {
    const work = workers[kind];
    if (work) await workOnKind(kind, work as Work<JobKind>, everySeconds);
  }
}

async function workOnKind<K extends JobKind>(kind: K, work: Work<K>, everySeconds: number): Promise<void> {
  const boss = await queue();
  for (let i = 0; i < SIDE_BY_SIDE[kind]; i++)
    await boss.work<Jobs[K]>(queueOf(kind), { pollingIntervalSeconds: everySeconds, batchSize: 1 }, async (jobs) => {
      for (const { data } of jobs) await work(data);
    });
}

/** What is being done is done to its end first, if that does not take long. */
export async function stopQueue(): Promise<void> {
  const boss = await started?.catch(() => null);
  started = null;
  await boss?.stop({ graceful: true, timeout: 3000, wait: true });
}
