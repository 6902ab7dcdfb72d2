import type { Finding, Operation, PieceJson } from '@zany/core';

export type AuditTask =
  | { readonly type: 'piece'; readonly version: number; readonly piece: PieceJson }
  | { readonly type: 'operations'; readonly version: number; readonly operations: readonly Operation[] }
  /** Goes on exploring by so many states. */
  | { readonly type: 'on'; readonly version: number; readonly states: number }
  /** Somebody is at work this moment, so the machine is theirs. */
  | { readonly type: 'busy' };

export interface AuditAnswer {
  /** Of the last task that the answer takes in. */
  readonly version: number;
  /** It has come as far as it was to come; else more follows. */
  readonly isDone: boolean;
  readonly findings: readonly Finding[];
  readonly states: number;
  readonly moves: number;
  readonly cut: string | null;
  /** More can be found by exploring further. */
  readonly isLeft: boolean;
  /** Threads that can fire. */
  readonly fired: readonly string[];
  readonly reached: readonly string[];
  readonly ms: number;
}

/** What people do while they wait for the picture to follow. */
const ACTS = ['keydown', 'pointerdown', 'pointermove', 'wheel'] as const;
/** In milliseconds; less than the worker waits after each. */
const TELL_EVERY = 80;

/** The walk's worker as seen from the page. */
export class Auditor {
  private readonly worker = new Worker(new URL('./audit.worker.ts', import.meta.url), { type: 'module' });
  private version = 0;
  private toldBusy = 0;

  constructor(take: (answer: AuditAnswer, isCurrent: boolean) => void) {
    this.worker.onmessage = ({ data }: MessageEvent<AuditAnswer>) => take(data, data.version === this.version);
    for (const type of ACTS) addEventListener(type, this.tellBusy, { capture: true, passive: true });
  }

  load(piece: PieceJson): void {
    this.post({ type: 'piece', version: ++this.version, piece });
  }

  edit(operations: readonly Operation[]): void {
    this.post({ type: 'operations', version: ++this.version, operations });
  }

  /** Explores so many more states than it has so far. */
  on(states: number): void {
    this.post({ type: 'on', version: this.version, states });
  }

  stop(): void {
    for (const type of ACTS) removeEventListener(type, this.tellBusy, { capture: true });
    this.worker.terminate();
  }

  private readonly tellBusy = (event: Event): void => {
    if (event.timeStamp - this.toldBusy < TELL_EVERY) return;
    this.toldBusy = event.timeStamp;
    this.post({ type: 'busy' });
  };

  private post(task: AuditTask): void {
    this.worker.postMessage(task);
  }
}
