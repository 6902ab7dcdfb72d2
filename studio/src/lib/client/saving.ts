import { fault, type Batch, type Fault } from '@zany/core';
import type { BatchResult } from '$lib/shared/types';
import { afterPaint } from '$lib/shared/paint';
import { ask } from './api';
import { forgetBatches, keepBatch } from './store';

export type SaveState = 'saved' | 'saving' | 'offline' | 'refused';

export interface SavingListener {
  readonly changed: (state: SaveState, waiting: number) => void;
  readonly refused: (batch: Batch, why: Fault) => void;
}

const MOST_AT_ONCE = 100;
const RETRY = [500, 1000, 2000, 5000];

/** Sends batches in order and keeps them in the browser until the server has acknowledged them. */
export class SaveQueue {
  private waiting: Batch[] = [];
  private readonly keeping = new Map<string, Promise<void>>();
  private sending = false;
  private tries = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private stopped = false;

  constructor(
    private readonly piece: string,
    private readonly listener: SavingListener
  ) {
    addEventListener('online', this.retry);
  }

  get size(): number {
    return this.waiting.length;
  }

  /** Takes what an earlier visit left. */
  resume(batches: readonly Batch[]): void {
    this.waiting = [...batches, ...this.waiting];
    this.pump();
  }

  add(batch: Batch): void {
    this.waiting.push(batch);
    this.keeping.set(
      batch.id,
      keepBatch(this.piece, batch).catch(() => undefined)
    );
    this.pump();
  }

  stop(): void {
    this.stopped = true;
    clearTimeout(this.timer);
    removeEventListener('online', this.retry);
  }

  private readonly retry = (): void => {
    clearTimeout(this.timer);
    this.timer = undefined;
    this.tries = 0;
    this.pump();
  };

  private pump(): void {
    if (this.sending || this.stopped || this.timer) return this.tell();
    if (this.waiting.length === 0) return this.tell();
    this.sending = true;
    afterPaint(() => void this.send());
    this.tell();
  }

  private async send(): Promise<void> {
    const batches = this.waiting.slice(0, MOST_AT_ONCE);
    const answer = await ask<{ results: BatchResult[] }>('POST', `/api/pieces/${this.piece}/batches`, { batches });
    this.sending = false;
    if (this.stopped) return;
    if (answer.ok) await this.acknowledge(answer.value.results);
    else if (['offline', 'failed', 'signed-out', 'too-often'].includes(answer.error.code)) this.waitAndRetry();
    else await this.acknowledge(batches.map((batch) => ({ id: batch.id, fault: answer.error })));
    this.pump();
  }

  private async acknowledge(results: readonly BatchResult[]): Promise<void> {
    this.tries = 0;
    const done = new Set(results.map((result) => result.id));
    for (const result of results) {
      const batch = this.waiting.find((waiting) => waiting.id === result.id);
      if (batch && 'fault' in result) this.listener.refused(batch, result.fault ?? fault('failed', [], 'This could not be saved.'));
    }
    this.waiting = this.waiting.filter((batch) => !done.has(batch.id));
    await Promise.all([...done].map((id) => this.keeping.get(id)));
    for (const id of done) this.keeping.delete(id);
    await forgetBatches(this.piece, done).catch(() => undefined);
  }

  private waitAndRetry(): void {
    const delay = RETRY[Math.min(this.tries++, RETRY.length - 1)]!;
    this.timer = setTimeout(() => {
      this.timer = undefined;
      this.pump();
    }, delay);
  }

  private tell(): void {
    const state: SaveState = this.waiting.length === 0 ? 'saved' : this.tries > 0 ? 'offline' : 'saving';
    this.listener.changed(state, this.waiting.length);
  }
}
