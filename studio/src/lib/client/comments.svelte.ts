import { ok, type Result } from '@zany/core';
import { PICTURE } from '$lib/shared/types';
import type { CommentPlace, CommentThread } from '$lib/shared/types';
import { ask } from './api';

/** The comments on a piece, as the server has them; read anew whenever somebody, also elsewhere, has commented. */
export class Comments {
  list: readonly CommentThread[] = $state.raw([]);
  isKnown = $state(false);
  /** Who can be spoken to: members and whoever has said something. */
  people: readonly string[] = $state.raw([]);
  /** The comment that is looked at. */
  open: string | null = $state(null);
  /** What the next comment is about, where that is not what is selected: a thread, or a region of the frame. */
  about: CommentPlace | null = $state.raw(null);
  /** What is written and not sent yet, by what it answers; `new` for what answers nothing. */
  readonly drafts = new Map<string, string>();
  /** A region is being marked. */
  isMarking = $state(false);

  private turn = 0;

  constructor(private readonly path: string) {}

  readonly left = $derived(this.list.filter(({ resolvedBy }) => resolvedBy === null));
  readonly unread = $derived(this.list.filter(({ isUnread }) => isUnread));

  async read(): Promise<void> {
    const turn = ++this.turn;
    const answer = await ask<{ comments: CommentThread[]; people?: string[] }>('GET', this.path);
    // What was asked later says more.
    if (!answer.ok || turn !== this.turn) return;
    this.list = answer.value.comments;
    this.people = [...new Set([...(answer.value.people ?? []), ...this.list.flatMap((one) => [one, ...one.answers].map(({ by }) => by))])];
    this.isKnown = true;
  }

  private async change<T>(asked: Promise<Result<T>>): Promise<Result<T>> {
    const answer = await asked;
    await this.read();
    return answer;
  }

  add = (place: CommentPlace, body: string) => this.change(ask<{ id: string }>('POST', this.path, { root: null, place, body }));
  answer = (root: string, body: string) => this.change(ask<{ id: string }>('POST', this.path, { root, place: null, body }));
  rewrite = (id: string, body: string) => this.change(ask('PATCH', `${this.path}/${id}`, { body }));
  resolve = (id: string, resolved: boolean) => this.change(ask('PATCH', `${this.path}/${id}`, { resolved }));
  remove = (id: string) => this.change(ask('DELETE', `${this.path}/${id}`));

  /** Where a picture that stands in a comment is. */
  pictureAt = (id: string): string => `${this.path}/pictures/${id}`;

  /** Takes a picture in for a comment that is being written; gives what stands for it there. */
  async takePicture(file: Blob): Promise<Result<string>> {
    const answer = await ask<{ id: string }>('POST', `${this.path}/pictures`, file, { 'Content-Type': 'application/octet-stream' });
    return answer.ok ? ok(`![picture](${PICTURE}${answer.value.id})`) : answer;
  }

  /** Notes that some have been seen; nothing waits for it. */
  async see(roots: readonly string[]): Promise<void> {
    if (roots.length === 0) return;
    this.list = this.list.map((one) => (roots.includes(one.id) ? { ...one, isUnread: false } : one));
    await ask('POST', `${this.path}/seen`, { roots });
  }
}
