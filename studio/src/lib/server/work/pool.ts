import { Worker } from 'node:worker_threads';
import { Refusal } from '../refusal';
import { READY } from './ready';
import type { TaskName, Tasks } from './tasks';

/** What a pool of workers may take. */
export interface PoolLimits {
  readonly workers: number;
  /** Megabytes of memory of one worker. */
  readonly memory: number;
  /** Callers that wait for a worker at most; more are refused. */
  readonly waiting: number;
}

/** What came of a worker in the middle of a task: it took too long, or too much memory. */
export class WorkerLost extends Error {}

/** The same where the server itself ends. */
export class ServerEnds extends WorkerLost {
  constructor() {
    super('the server is stopping');
  }
}

/** A worker may take this long to begin, in milliseconds: on a busy machine, loading its program takes longer than most tasks may. */
const BEGINNING = 60_000;

/** Nobody waits longer than this, in milliseconds, for the worker he wants while another one would do. */
const PATIENCE = 60;

interface Waiter {
  readonly wanted: Thread | null;
  readonly since: number;
  readonly resolve: (thread: Thread) => void;
  readonly reject: (error: Error) => void;
}

/**
 * Worker threads that do heavy work beside the server's own thread, one task each at a time. A task that takes longer than
 * it may ends with its worker; another takes its place. Workers are made when there is work for them, and stay.
 */
export class Pool {
  private readonly threads = new Set<Thread>();
  private waiters: Waiter[] = [];
  private closed = false;

  constructor(
    private readonly make: (memory: number) => Worker,
    private readonly limits: PoolLimits
  ) {}

  /** Does a task within a time, in any worker. */
  async run<K extends TaskName>(name: K, input: Tasks[K]['in'], ms: number, along: Along = {}): Promise<Tasks[K]['out']> {
    const thread = await this.acquire(null);
    try {
      return await thread.run(name, input, ms, along);
    } finally {
      this.release(thread);
    }
  }

  /** Whether a task would be begun at once. */
  get hasFree(): boolean {
    if (this.closed || this.waiters.length > 0) return false;
    return this.threads.size < this.limits.workers || [...this.threads].some(({ isTaken }) => !isTaken);
  }

  /** A worker for oneself until it is released: the one wanted for what it keeps, if it is free soon; else any. */
  acquire(wanted: Thread | null): Promise<Thread> {
    return new Promise((resolve, reject) => {
      if (this.closed) return reject(new ServerEnds());
      if (this.waiters.length >= this.limits.waiting) return reject(new Refusal('busy', 'The server has too much to do just now. Please try again.'));
      this.waiters.push({ wanted, since: performance.now(), resolve, reject });
      this.serve();
      if (wanted && this.waiters.length) setTimeout(() => this.serve(), PATIENCE + 1);
    });
  }

  release(thread: Thread): void {
    thread.isTaken = false;
    this.serve();
  }

  /** Makes so many workers before they are needed. */
  warm(count: number): void {
    while (this.threads.size < Math.min(count, this.limits.workers)) this.add();
  }

  async close(): Promise<void> {
    this.closed = true;
    for (const { reject } of this.waiters.splice(0)) reject(new ServerEnds());
    await Promise.all([...this.threads].map((thread) => thread.end(new ServerEnds())));
  }

  private serve(): void {
    const left: Waiter[] = [];
    for (const waiter of this.waiters) {
      const thread = this.closed ? null : this.for(waiter);
      if (!thread) {
        left.push(waiter);
        continue;
      }
      thread.isTaken = true;
      waiter.resolve(thread);
    }
    this.waiters = left;
  }

  private for({ wanted, since }: Waiter): Thread | null {
    if (wanted?.isAlive) {
      if (!wanted.isTaken) return wanted;
      if (performance.now() - since < PATIENCE) return null;
    }
    for (const thread of this.threads) if (thread.isAlive && !thread.isTaken) return thread;
    return this.threads.size < this.limits.workers ? this.add() : null;
  }

  private add(): Thread {
    const thread: Thread = new Thread(this.make(this.limits.memory), () => {
      this.threads.delete(thread);
      this.serve();
    });
    this.threads.add(thread);
    return thread;
  }
}

/** What goes along with a task that takes long. */
export interface Along {
  /** Hears how far it has come, in words. */
  readonly heard?: (said: string) => void;
  /** Ends it with its worker. */
  readonly stop?: AbortSignal;
}

interface Task {
  readonly number: number;
  readonly heard: Along['heard'];
  /** Milliseconds that it may take. */
  readonly ms: number;
  readonly resolve: (output: never) => void;
  readonly reject: (error: Error) => void;
}

/** What comes of a task, or how far it has come. */
interface FromWorker {
  readonly number?: number;
  readonly output?: never;
  readonly error?: string;
  readonly said?: string;
}

const STOPPED = 'it was stopped';

/** One worker, from when it is made to when it ends. */
export class Thread {
  isAlive = true;
  /** Whether somebody has it for himself. */
  isTaken = false;
  private current: Task | null = null;
  private number = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private isReady = false;

  constructor(
    private readonly worker: Worker,
    private readonly ended: () => void
  ) {
    worker.unref();
    worker.on('message', (message: typeof READY | FromWorker) => (message === READY ? this.begin() : this.hear(message)));
    worker.on('error', (error: NodeJS.ErrnoException) =>
      this.lost(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? 'it needs too much memory' : error.message)
    );
    worker.on('exit', () => this.lost('its worker has ended'));
  }

  /** Does a task; ends the worker where it takes longer than `ms` once it has begun. */
  async run<K extends TaskName>(name: K, input: Tasks[K]['in'], ms: number, { heard, stop }: Along = {}): Promise<Tasks[K]['out']> {
    if (stop?.aborted) throw new WorkerLost(STOPPED);
    const end = () => void this.end(STOPPED);
    stop?.addEventListener('abort', end);
    try {
      return await this.begun(name, input, ms, heard);
    } finally {
      stop?.removeEventListener('abort', end);
    }
  }

  private begun<K extends TaskName>(name: K, input: Tasks[K]['in'], ms: number, heard: Along['heard']): Promise<Tasks[K]['out']> {
    return new Promise((resolve, reject) => {
      if (!this.isAlive || this.current) return reject(new WorkerLost('its worker is not there'));
      this.current = { number: ++this.number, heard, ms, resolve, reject };
      this.worker.ref();
      if (this.isReady) this.limit(ms, 'it takes');
      else this.limit(BEGINNING, 'its worker takes');
      this.worker.postMessage({ number: this.number, name, input });
    });
  }

  /** Time counts from when the worker is there. */
  private begin(): void {
    this.isReady = true;
    if (this.current) this.limit(this.current.ms, 'it takes');
  }

  private limit(ms: number, what: string): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.end(`${what} more than ${Math.round(ms / 1000)} s`), ms);
  }

  async end(why: string | WorkerLost): Promise<void> {
    this.lost(why);
    await this.worker.terminate();
  }

  private hear({ number, output, error, said }: FromWorker): void {
    const { current } = this;
    if (!current || number !== current.number) return;
    if (said !== undefined) return current.heard?.(said);
    this.rest();
    if (error === undefined) current.resolve(output as never);
    else current.reject(new Error(error));
  }

  private rest(): void {
    clearTimeout(this.timer);
    this.current = null;
    this.worker.unref();
  }

  private lost(why: string | WorkerLost): void {
    if (!this.isAlive) return;
    this.isAlive = false;
    const { current } = this;
    this.rest();
    current?.reject(typeof why === 'string' ? new WorkerLost(why) : why);
    this.ended();
  }
}
