import { printLine, scopeFor, type Piece, type Program, type Report } from '@zany/core';
import { ask } from '$lib/client/api';
import type { WalkedBranch } from '$lib/shared/types';

/** All branches of threads that are switched on. */
export const branchesOf = (piece: Piece): { thread: string; branch: number }[] =>
  [...piece.threads.values()].filter(({ enabled }) => enabled).flatMap(({ id, branches }) => branches.map((_, branch) => ({ thread: id, branch })));

const REST = 600;

/**
 * Which branches a person has walked, kept on the server. A branch counts with what its thread said when it was walked: one
 * that has been rewritten since has to be walked again, edits elsewhere change nothing.
 */
export class Coverage {
  private walked: ReadonlyMap<string, string> = $state.raw(new Map());
  private frames: ReadonlySet<string> = $state.raw(new Set());
  private fresh: WalkedBranch[] = [];
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly path: string;

  constructor(piece: string) {
    this.path = `/api/pieces/${piece}/walked`;
    void this.load();
  }

  private async load(): Promise<void> {
    const answer = await ask<{ walked: WalkedBranch[] }>('GET', this.path);
    if (answer.ok)
      this.walked = new Map([...answer.value.walked.map(({ thread, branch, line }) => [`${thread}/${branch}`, line] as const), ...this.walked]);
  }

  /** What fired while a person walked, and where he is now. */
  add(program: Program, reports: readonly Report[], frame: string): void {
    if (!this.frames.has(frame)) this.frames = new Set(this.frames).add(frame);
    const made = reports.flatMap(({ fired }) =>
      fired.flatMap(({ thread, branch }) => {
        const line = lineOf(program, thread);
        return line === null || this.walked.get(`${thread}/${branch}`) === line ? [] : [{ thread, branch, line }];
      })
    );
    if (made.length === 0) return;
    this.walked = new Map([...this.walked, ...made.map(({ thread, branch, line }) => [`${thread}/${branch}`, line] as const)]);
    this.fresh.push(...made);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(), REST);
  }

  has(program: Program, thread: string, branch: number): boolean {
    const line = this.walked.get(`${thread}/${branch}`);
    return line !== undefined && line === lineOf(program, thread);
  }

  /** Whether a person has been on a frame since this walk began. */
  visited(frame: string): boolean {
    return this.frames.has(frame);
  }

  clear(): void {
    this.walked = new Map();
    this.frames = new Set();
    this.fresh = [];
    void ask('DELETE', this.path);
  }

  /** Sends what is new; what could not be sent goes along with the next. */
  private async send(): Promise<void> {
    const sent = this.fresh.splice(0, 500);
    const answer = await ask('POST', this.path, { walked: sent });
    if (!answer.ok) this.fresh.unshift(...sent);
  }
}

function lineOf(program: Program, id: string): string | null {
  const thread = program.piece.threads.get(id);
  return thread ? printLine(thread, scopeFor(program.piece, thread)).slice(0, 4000) : null;
}
