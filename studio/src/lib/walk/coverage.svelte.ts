import { expand, printLine, sceneOfThread, scopeFor, type Piece, type Program, type Report, type SceneProgram, type Thread } from '@zany/core';
import { ask } from '$lib/client/api';
import type { Verdict, WalkedBranch, WalkedByOther } from '$lib/shared/types';

/** All branches of threads that are switched on. */
export const branchesOf = (piece: Piece): { thread: string; branch: number }[] =>
  [...piece.threads.values()].filter(({ enabled }) => enabled).flatMap(({ id, branches }) => branches.map((_, branch) => ({ thread: id, branch })));

/** The threads of a frame that are switched on: its own, and those of what is drawn on it, parts that are placed there included. */
export function threadsOn(program: Program, frame: string): Thread[] {
  const scene = program.scenes.get(frame);
  if (!scene) return [];
  const { nodes, instances } = expand(program, scene);
  const all = [...nodes.flatMap(({ item }) => item.threads), ...[...instances.values()].flatMap((one) => one.scene.threads)];
  return [...new Set(all)].filter(({ enabled }) => enabled);
}

/** What somebody has said of a branch that he has walked; null for oneself. */
export interface Said extends WalkedBranch {
  readonly by: string | null;
}

const REST = 600;

/**
 * Which branches a person has walked and what he said of them, kept on the server, with what others have. A branch counts with what its
 * thread said when it was walked: one that has been rewritten since has to be walked again, edits elsewhere change nothing.
 */
export class Coverage {
  private walked: ReadonlyMap<string, WalkedBranch> = $state.raw(new Map());
  private others: readonly WalkedByOther[] = $state.raw([]);
  private frames: ReadonlySet<string> = $state.raw(new Set());
  private fresh: WalkedBranch[] = [];
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly path: string;

  constructor(piece: string) {
    this.path = `/api/pieces/${piece}/walked`;
    void this.load();
  }

  private async load(): Promise<void> {
    const answer = await ask<{ walked: WalkedBranch[]; others: WalkedByOther[] }>('GET', this.path);
    if (!answer.ok) return;
    this.walked = new Map([...answer.value.walked.map((one) => [keyOf(one), one] as const), ...this.walked]);
    this.others = answer.value.others;
  }

  /** What fired while a person walked, and where he is now. */
  add(program: Program, reports: readonly Report[], frame: string): void {
    if (!this.frames.has(frame)) this.frames = new Set(this.frames).add(frame);
    const made = firedIn(reports).flatMap(({ thread, branch }): WalkedBranch[] => {
      const line = lineOf(program, thread);
      return line === null || this.own(program, thread, branch) ? [] : [{ thread, branch, line, verdict: null, note: '' }];
    });
    if (made.length) this.put(made);
  }

  /** Says of a branch whether it did what it should, or something in words; it has been walked with that. */
  say(program: Program, thread: string, branch: number, said: Partial<Pick<WalkedBranch, 'verdict' | 'note'>>): void {
    const line = lineOf(program, thread);
    if (line === null) return;
    const { verdict = null, note = '' } = this.own(program, thread, branch) ?? {};
    this.put([{ thread, branch, line, verdict, note, ...said }]);
  }

  /** What one has walked oneself, as long as the thread says what it said then. */
  own(program: Program, thread: string, branch: number): WalkedBranch | null {
    const known = this.walked.get(keyOf({ thread, branch }));
    return known && known.line === lineOf(program, thread) ? known : null;
  }

  has(program: Program, thread: string, branch: number): boolean {
    return this.own(program, thread, branch) !== null;
  }

  /** All who have walked something that still counts, by name; null for oneself. */
  said(program: Program): Said[] {
    const own = [...this.walked.values()].map((one): Said => ({ ...one, by: null }));
    return [...own, ...this.others].filter(({ thread, line }) => line === lineOf(program, thread));
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

  private put(made: readonly WalkedBranch[]): void {
    this.walked = new Map([...this.walked, ...made.map((one) => [keyOf(one), one] as const)]);
    this.fresh.push(...made);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(), REST);
  }

  /** Sends what is new; what could not be sent goes along with the next. */
  private async send(): Promise<void> {
    const sent = this.fresh.splice(0, 500);
    const answer = await ask('POST', this.path, { walked: sent });
    if (!answer.ok) this.fresh.unshift(...sent);
  }
}

/** What fired, each branch once. */
export const firedIn = (reports: readonly Report[]): { readonly thread: string; readonly branch: number }[] => [
  ...new Map(reports.flatMap(({ fired }) => fired.map(({ thread, branch }) => [keyOf({ thread, branch }), { thread, branch }] as const))).values(),
];

/** What a thread says; null for one that is gone. */
export function lineOf({ piece }: Program, id: string): string | null {
  const thread = piece.threads.get(id);
  return thread ? printLine(thread, scopeFor(piece, thread)).slice(0, 4000) : null;
}

const keyOf = ({ thread, branch }: Pick<WalkedBranch, 'thread' | 'branch'>) => `${thread}/${branch}`;

/** What a thread says, after the name of the layer that it is on. */
export function namedLine(program: Program, id: string): string {
  const thread = program.piece.threads.get(id);
  const layer = thread?.on === 'layer' ? program.piece.layers.get(thread.owner) : undefined;
  return `${layer ? `${layer.name}: ` : ''}${lineOf(program, id) ?? ''}`;
}

/** Where a thread stands; null for one of the whole piece. */
export function sceneOfLine({ piece, scenes }: Program, id: string): SceneProgram | null {
  const thread = piece.threads.get(id);
  const scene = thread && sceneOfThread(piece, thread);
  return scene ? (scenes.get(scene) ?? null) : null;
}

/** Who has said something, as others read it. */
export const nameOf = (by: string | null): string => by ?? 'you';

/** What is to be read of what was said: what is not as it should first. */
export const toldOf = (said: readonly Said[]): Said[] => byRank(said.filter(({ verdict, note }) => verdict === 'fail' || note !== ''));

export const byRank = (said: readonly Said[]): Said[] => said.toSorted((a, b) => rankOf(a) - rankOf(b));

const rankOf = ({ verdict }: Said) => (verdict === 'fail' ? 0 : verdict === null ? 1 : 2);

export const verdictWords = (verdict: Verdict | null): string => (verdict ? verdicts[verdict].words : 'noted');

/** In words, and as the sign that stands for it. */
export const verdicts: Readonly<Record<Verdict, { readonly words: string; readonly sign: string }>> = {
  pass: { words: 'as it should', sign: '✓' },
  fail: { words: 'not as it should', sign: '✕' },
};
