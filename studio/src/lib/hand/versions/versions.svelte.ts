import { compile, pieceFromTrusted, pieceToJson, type Apart, type Change, type Differences, type PieceJson, type Program } from '@zany/core';
import { ask } from '$lib/client/api';
import type { CompareNews, CompareTask } from '$lib/client/compare.worker';
import type { EditorSession } from '$lib/client/session.svelte';
import type { PieceEdit, PieceVersion } from '$lib/shared/types';

/** A version by its revision; null is the piece as it is now. */
export type Which = number | null;

/** Two versions held against each other, as far as that has come. */
export class Comparing {
  written: Differences | null = $state.raw(null);
  changes: readonly Change[] | null = $state.raw(null);
  cut: { readonly before: string | null; readonly after: string | null } = $state.raw({ before: null, after: null });
  apart: Apart | null = $state.raw(null);
  /** `12,000 states of the earlier version`, while it is being walked. */
  progress: { readonly which: 'before' | 'after'; readonly states: number } | null = $state.raw(null);
  problem: string | null = $state(null);
  /** Somebody did not want to wait for the walk. */
  isStopped = $state(false);
  private readonly worker = new Worker(new URL('../../client/compare.worker.ts', import.meta.url), { type: 'module' });

  constructor(
    readonly before: Program,
    readonly after: Program
  ) {
    this.worker.onmessage = ({ data }: MessageEvent<CompareNews>) => this.take(data);
    this.worker.onerror = ({ message }) => (this.problem = `They could not be compared: ${message}`);
    this.worker.postMessage({ before: pieceToJson(before.piece), after: pieceToJson(after.piece) } satisfies CompareTask);
  }

  private take(news: CompareNews): void {
    if (news.type === 'written') this.written = news.differences;
    else if (news.type === 'progress') this.progress = news;
    else if (news.type === 'walked') [this.changes, this.cut, this.progress] = [news.changes, news.cut, null];
    else {
      this.apart = news.apart;
      this.worker.terminate();
    }
  }

  stop(): void {
    this.isStopped = true;
    this.worker.terminate();
  }
}

/** Documents of versions that were looked at, which never change. */
const MOST_KEPT = 6;

/** The versions of the open piece, and the two that are compared. */
export class Versions {
  list: readonly PieceVersion[] | null = $state.raw(null);
  isAll = $state(true);
  comparing: Comparing | null = $state.raw(null);
  isLoading = $state(false);
  isBusy = $state(false);
  private readonly kept = new Map<number, PieceJson>();
  private asked = 0;

  constructor(private readonly session: EditorSession) {}

  private path = (more = '') => `/api/pieces/${this.session.id}/versions${more}`;

  async read(): Promise<void> {
    const answer = await ask<{ versions: PieceVersion[]; isAll: boolean }>('GET', this.path());
    if (!answer.ok) return this.session.notify(answer.error.sentence);
    this.list = answer.value.versions;
    this.isAll = answer.value.isAll;
  }

  async editsOf(after: number, upTo: number): Promise<readonly PieceEdit[]> {
    const answer = await ask<{ edits: PieceEdit[] }>('GET', this.path(`/${upTo}/edits?after=${after}`));
    if (!answer.ok) this.session.notify(answer.error.sentence);
    return answer.ok ? answer.value.edits : [];
  }

  /** Gives a version a name; without one the name is taken away. */
  async name(revision: number, name: string | null): Promise<boolean> {
    this.isBusy = true;
    const answer = await (name === null ? ask('DELETE', this.path(`/${revision}`)) : ask('PUT', this.path(`/${revision}`), { name }));
    if (!answer.ok) this.session.notify(answer.error.sentence);
    await this.read();
    this.isBusy = false;
    return answer.ok;
  }

  async compare(before: Which, after: Which): Promise<void> {
    const asked = ++this.asked;
    this.leave();
    this.isLoading = true;
    const programs = await Promise.all([before, after].map((which) => this.programOf(which)));
    if (asked !== this.asked) return;
    this.isLoading = false;
    const [a, b] = programs;
    if (a && b) this.comparing = new Comparing(a, b);
  }

  private async programOf(which: Which): Promise<Program | null> {
    if (which === null) return this.session.program;
    let document = this.kept.get(which);
    if (!document) {
      const answer = await ask<{ piece: PieceJson }>('GET', this.path(`/${which}`));
      if (!answer.ok) {
        this.session.notify(answer.error.sentence);
        return null;
      }
      document = answer.value.piece;
      this.kept.set(which, document);
      for (const oldest of this.kept.keys()) if (this.kept.size > MOST_KEPT) this.kept.delete(oldest);
    }
    return compile(pieceFromTrusted(document));
  }

  leave(): void {
    this.comparing?.stop();
    this.comparing = null;
  }
}
