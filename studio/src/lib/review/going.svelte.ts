import { followTrail, isReached, TrailKeeper, type Program, type Report, type RunEvent, type RunState } from '@zany/core';
import { nanoid } from 'nanoid';
import type { ReviewTask, SentTrail } from '$lib/shared/types';

/** One go of somebody through a piece: alone, or at a task. It is sent while it goes on, so that a window that is closed loses little. */

const EVERY = 8000;
const AGAIN = 3000;

export class Going {
  readonly id = nanoid();
  private readonly keeper: TrailKeeper;
  private timer: ReturnType<typeof setInterval> | undefined;
  private sent = 0;
  private count = 0;
  /** Whether it is sent how it ended, too. */
  private isSent = false;
  /** Reached, given up, or still at it. */
  outcome: 'on' | 'reached' | 'given up' = $state('on');
  /** Things done, as far as anybody would call it that. */
  steps = $state(0);

  constructor(
    private readonly program: Program,
    readonly task: ReviewTask | null,
    readonly from: string,
    private readonly shown: Pick<SentTrail, 'revision' | 'view'>,
    private readonly send: (trail: SentTrail, isLast: boolean) => Promise<boolean>
  ) {
    this.keeper = new TrailKeeper(from);
    this.timer = setInterval(() => void this.flush(false), EVERY);
  }

  /** An event as the engine got it. */
  take(ms: number, event: RunEvent | { readonly type: 'again' }, run: RunState, reports: readonly Report[]): void {
    if (this.outcome !== 'on') return;
    this.count++;
    this.keeper.take(ms, event, run, reports);
    this.look(run);
  }

  /** Looks whether what is to be reached is there now, which may come by itself with time. */
  look(run: RunState): void {
    if (this.outcome !== 'on' || !this.task || !isReached(this.program, run, this.task.goal)) return;
    this.outcome = 'reached';
    this.steps = followTrail(this.program, this.keeper.trail, this.task.goal)?.reached?.steps ?? 0;
    this.end();
  }

  giveUp(): void {
    if (this.outcome !== 'on') return;
    this.outcome = 'given up';
    this.end();
  }

  /** Ends it where it is: another go begins, or the page goes. */
  end(): void {
    clearInterval(this.timer);
    void this.flush(true);
  }

  async flush(isLast: boolean): Promise<void> {
    const isOver = this.outcome !== 'on';
    if (this.count === this.sent && isOver === this.isSent) return;
    [this.sent, this.isSent] = [this.count, isOver];
    const { id, task, shown } = this;
    const isKept = await this.send(
      { id, task: task?.id ?? null, ...shown, trail: this.keeper.trail, givenUp: this.outcome === 'given up', isFull: this.keeper.isFull },
      isLast
    );
    if (isKept) return;
    this.sent = -1;
    // One that has ended is not sent again by itself.
    if (isLast) setTimeout(() => void this.flush(true), AGAIN);
  }
}
