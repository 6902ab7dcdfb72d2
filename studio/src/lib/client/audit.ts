import type { Audit, Change, Finding, Operation, PieceJson, RunEvent, RunState } from '@zany/core';
import { FindingsHearer, type Told } from './told-findings';

export type AuditTask =
  | { readonly type: 'piece'; readonly version: number; readonly piece: PieceJson }
  | { readonly type: 'operations'; readonly version: number; readonly operations: readonly Operation[] }
  /** Goes on exploring by so many states. */
  | { readonly type: 'on'; readonly version: number; readonly states: number }
  /** Asks for the way from a run to the nearest branch that is not walked yet. */
  | { readonly type: 'guide'; readonly ask: number; readonly run: RunState; readonly walked: readonly string[] }
  /** Asks for the shortest way to each frame. */
  | { readonly type: 'ways'; readonly ask: number }
  /** Asks what is otherwise than when the piece was opened. */
  | { readonly type: 'changes'; readonly ask: number }
  /** Somebody is at work this moment, so the machine is theirs. */
  | { readonly type: 'busy' };

/** The way on from where a person is; no events where nothing that can be walked is left, null while that is not known. */
export type Guided = { readonly events: readonly RunEvent[]; readonly branch: string } | 'nothing' | null;

/** The shortest way to each frame that was come to, and whether there is none to the others. */
export interface Ways {
  readonly to: ReadonlyMap<string, { readonly from: string; readonly events: readonly RunEvent[] }>;
  readonly isWhole: boolean;
}

export type AskAnswer =
  /** Null while the piece has not been walked. */
  | { readonly ask: number; readonly ways: Ways | null }
  | { readonly ask: number; readonly next: Guided }
  /** Null while the piece as it was opened, or as it is, has not been walked. */
  | { readonly ask: number; readonly changes: readonly Change[] | null };

export interface AuditAnswer {
  /** Of the last task that the answer takes in. */
  readonly version: number;
  /** It has come as far as it was to come; else more follows. */
  readonly isDone: boolean;
  readonly findings: readonly Finding[];
  readonly aside: Audit['aside'];
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

/** The same as the worker tells it. */
export type AuditNews = Omit<AuditAnswer, 'findings'> & { readonly findings: readonly Told[] };

/** What people do while they wait for the picture to follow. */
const ACTS = ['keydown', 'pointerdown', 'pointermove', 'wheel'] as const;
/** In milliseconds; less than the worker waits after each. */
const TELL_EVERY = 80;

/** The walk's worker as seen from the page. */
export class Auditor {
  private readonly worker = new Worker(new URL('./audit.worker.ts', import.meta.url), { type: 'module' });
  private version = 0;
  private toldBusy = 0;
  private asks = 0;
  private readonly asked = new Map<number, (answer: AskAnswer) => void>();
  private readonly findings = new FindingsHearer();

  constructor(take: (answer: AuditAnswer, isCurrent: boolean) => void) {
    this.worker.onmessage = ({ data }: MessageEvent<AuditNews | AskAnswer>) => {
      if (!('ask' in data)) return take({ ...data, findings: this.findings.hear(data.findings) }, data.version === this.version);
      this.asked.get(data.ask)?.(data);
      this.asked.delete(data.ask);
    };
    for (const type of ACTS) addEventListener(type, this.tellBusy, { capture: true, passive: true });
  }

  load(piece: PieceJson): void {
    this.post({ type: 'piece', version: ++this.version, piece });
  }

  edit(operations: readonly Operation[]): void {
    this.post({ type: 'operations', version: ++this.version, operations });
  }

  /** The way on for somebody who walks the piece. */
  guide(run: RunState, walked: readonly string[]): Promise<Guided> {
    const ask = ++this.asks;
    this.post({ type: 'guide', ask, run, walked });
    return new Promise((done) => this.asked.set(ask, (answer) => done('next' in answer ? answer.next : null)));
  }

  /** How each frame is come to. */
  ways(): Promise<Ways | null> {
    const ask = ++this.asks;
    this.post({ type: 'ways', ask });
    return new Promise((done) => this.asked.set(ask, (answer) => done('ways' in answer ? answer.ways : null)));
  }

  /** What is otherwise than when the piece was opened. */
  changes(): Promise<readonly Change[] | null> {
    const ask = ++this.asks;
    this.post({ type: 'changes', ask });
    return new Promise((done) => this.asked.set(ask, (answer) => done('changes' in answer ? answer.changes : null)));
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
