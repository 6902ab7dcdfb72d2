import { fault, FORMAT, type Batch, type Fault, type Result } from '@zany/core';
import type { BatchResult } from '$lib/shared/types';

/**
 * Where edits stand: all saved, on their way, or held for a reason. Whatever the reason, they are held and go on by
 * themselves when it has passed.
 */
export type SaveState = 'saved' | 'saving' | 'offline' | 'trouble' | 'signed-out' | 'not-allowed' | 'not-found' | 'other-format';

/** An edit that the server can never take, with the reason. */
export interface Refused {
  readonly batch: Batch;
  readonly why: Fault;
}

export interface SavingListener {
  readonly changed: (state: SaveState, waiting: number) => void;
  /** The server has these, each with its revision. */
  readonly saved: (batches: readonly { readonly id: string; readonly revision: number }[]) => void;
  /** These are set aside; all others go on. */
  readonly refused: (refused: readonly Refused[]) => void;
  /** Whether edits outlive the window. */
  readonly keeping: (works: boolean) => void;
}

/** What a queue needs of the world around it. */
export interface SavingWorld {
  readonly send: (body: string) => Promise<Result<{ results: BatchResult[] }>>;
  /** Keeps edits over a closed window; rejects where the browser keeps nothing. */
  readonly keep: (batch: Batch) => Promise<void>;
  readonly forget: (ids: ReadonlySet<string>) => Promise<void>;
  readonly setAside: (refused: readonly Refused[]) => Promise<void>;
  /** Calls back as soon as it does not disturb. */
  readonly soon: (work: () => void) => void;
  /** Calls back after so many milliseconds; gives a function that calls it off. */
  readonly later: (ms: number, work: () => void) => () => void;
}

/** One request: so many edits, so many bytes. A server takes more; a smaller one loses less time when it fails. */
const MOST_AT_ONCE = 100;
const MOST_BYTES = 4_000_000;
/** One edit; more is never taken. */
const MOST_BYTES_OF_ONE = 19_000_000;

/** Milliseconds from try to try. */
const RETRY = [500, 1000, 2000, 5000];
/**
 * So long an answer is waited for, ms, and a little longer for each sign that is sent. After that it is sent again, which does no harm:
 * a connection that was lost without a word would be waited for without end.
 */
const PATIENCE = { ms: 15_000, perSign: 0.05 };
export const patienceFor = (body: string): number => PATIENCE.ms + Math.round(body.length * PATIENCE.perSign);

/** Where somebody has to do something first, it is looked for now and then. */
const HELD_RETRY = 8000;

/** Why nothing can be sent just now, by the code of the answer. */
const holds: Readonly<Record<string, SaveState>> = {
  offline: 'offline',
  failed: 'trouble',
  busy: 'trouble',
  'too-often': 'trouble',
  'signed-out': 'signed-out',
  'not-allowed': 'not-allowed',
  'not-found': 'not-found',
  'other-format': 'other-format',
};

interface Waiting {
  readonly batch: Batch;
  readonly text: string;
  readonly bytes: number;
}

const encoder = new TextEncoder();

/**
 * Sends edits in order and keeps them in the browser until the server has acknowledged them. One that the server cannot take
 * is set aside alone; what cannot be sent now is held.
 */
export class SaveQueue {
  private waiting: Waiting[] = [];
  private readonly keeping = new Map<string, Promise<void>>();
  /** What the browser has not said it keeps. */
  private readonly unkept = new Map<string, Batch>();
  private sending = false;
  private hold: SaveState | null = null;
  private tries = 0;
  /** Edits in one request; fewer after one that was refused as a whole. */
  private most = MOST_AT_ONCE;
  private stopTimer: (() => void) | null = null;
  private stopped = false;

  constructor(
    private readonly world: SavingWorld,
    private readonly listener: SavingListener
  ) {}

  get size(): number {
    return this.waiting.length;
  }

  /** The edits that are not acknowledged yet, in order. */
  get batches(): readonly Batch[] {
    return this.waiting.map(({ batch }) => batch);
  }

  /** The edits that neither the server has nor the browser has said it keeps, in order. */
  get nowhere(): readonly Batch[] {
    return [...this.unkept.values()];
  }

  /** Takes what an earlier visit left, which is kept already. */
  resume(batches: readonly Batch[]): void {
    this.waiting = [...batches.map(measured), ...this.waiting];
    this.pump();
  }

  add(batch: Batch): void {
    this.waiting.push(measured(batch));
    this.unkept.set(batch.id, batch);
    const kept = this.world.keep(batch).then(
      () => {
        this.unkept.delete(batch.id);
        this.listener.keeping(true);
      },
      () => this.listener.keeping(false)
    );
    this.keeping.set(batch.id, kept);
    this.pump();
  }

  stop(): void {
    this.stopped = true;
    this.stopTimer?.();
  }

  /** Tries again at once: the browser is back on the net, or somebody has signed in. */
  readonly retry = (): void => {
    this.stopTimer?.();
    this.stopTimer = null;
    this.tries = 0;
    this.pump();
  };

  private pump(): void {
    if (!this.sending && !this.stopped && !this.stopTimer && this.waiting.length > 0) {
      this.sending = true;
      this.world.soon(() => void this.send());
    }
    this.tell();
  }

  private async send(): Promise<void> {
    const taken = this.portion();
    const body = `{"format":${JSON.stringify(FORMAT)},"batches":[${taken.map(({ text }) => text).join(',')}]}`;
    const tooLarge = taken[0]!.bytes > MOST_BYTES_OF_ONE;
    const answer = tooLarge ? ({ ok: false, error: TOO_LARGE } as const) : await this.world.send(body);
    this.sending = false;
    if (this.stopped) return;
    if (answer.ok) await this.acknowledge(taken, answer.value.results);
    else await this.refusedWhole(taken, answer.error);
    this.pump();
  }

  private portion(): Waiting[] {
    let bytes = 0;
    let count = 0;
    for (const one of this.waiting) {
      bytes += one.bytes;
      if (count > 0 && (count >= this.most || bytes > MOST_BYTES)) break;
      count++;
    }
    return this.waiting.slice(0, count);
  }

  private async refusedWhole(taken: readonly Waiting[], why: Fault): Promise<void> {
    const hold = Object.hasOwn(holds, why.code) ? holds[why.code]! : null;
    if (hold) {
      this.hold = hold;
      const isLong = hold !== 'offline' && hold !== 'trouble';
      this.wait(isLong ? HELD_RETRY : RETRY[Math.min(this.tries++, RETRY.length - 1)]!);
    } else if (taken.length > 1) this.most = Math.max(1, Math.floor(taken.length / 2));
    else await this.acknowledge(taken, [{ id: taken[0]!.batch.id, fault: why }]);
  }

  private async acknowledge(taken: readonly Waiting[], results: readonly BatchResult[]): Promise<void> {
    this.hold = null;
    this.tries = 0;
    this.most = Math.min(MOST_AT_ONCE, this.most * 2);
    const sent = new Map(taken.map(({ batch }) => [batch.id, batch]));
    const known = results.filter(({ id }) => sent.has(id));
    const refused = known.flatMap((result) =>
      'fault' in result ? [{ batch: sent.get(result.id)!, why: result.fault ?? fault('failed', [], 'This could not be saved.') }] : []
    );
    const done = new Set(known.map(({ id }) => id));
    // What is set aside must be kept there before it is forgotten here.
    if (refused.length) await this.world.setAside(refused).catch(() => this.listener.keeping(false));
    this.waiting = this.waiting.filter(({ batch }) => !done.has(batch.id));
    for (const id of done) this.unkept.delete(id);
    this.listener.saved(known.flatMap((result) => ('revision' in result ? [result] : [])));
    if (refused.length) this.listener.refused(refused);
    void this.forget(done);
  }

  /** Forgets in the background; edits that are still being kept are waited for, so that none stays behind. */
  private async forget(done: ReadonlySet<string>): Promise<void> {
    await Promise.all([...done].map((id) => this.keeping.get(id)));
    for (const id of done) this.keeping.delete(id);
    await this.world.forget(done).catch(() => undefined);
  }

  private wait(ms: number): void {
    this.stopTimer = this.world.later(ms, () => {
      this.stopTimer = null;
      this.pump();
    });
  }

  private tell(): void {
    this.listener.changed(this.waiting.length === 0 ? 'saved' : (this.hold ?? 'saving'), this.waiting.length);
  }
}

const TOO_LARGE = fault('too-large', [], `This edit has more than ${MOST_BYTES_OF_ONE / 1e6} MB, which no server takes.`);

const measured = (batch: Batch): Waiting => {
  const text = JSON.stringify(batch);
  return { batch, text, bytes: encoder.encode(text).length };
};
