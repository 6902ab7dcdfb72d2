import { apply, fail, fault, ok, rebase, type Batch, type Fault, type Operation, type Piece, type Result, type Touched } from '@zany/core';
import type { FollowedBatch } from '$lib/shared/types';

/** How what is shown changes. */
export interface Change {
  readonly piece: Piece;
  /** What of it changed, one after the other; null where all of it may have. */
  readonly touched: readonly Touched[] | null;
  /** What was applied to what was shown before, if that is all there is to it. */
  readonly operations: readonly Operation[] | null;
}

/**
 * The piece as one window has it: what the server has confirmed, in its order, and on top what is not confirmed yet.
 * Windows that are told the same and have nothing pending show the same.
 */
export class Sync {
  /** With everything pending on top. */
  shown: Piece;
  private pending: Batch[] = [];
  /** Pending ones that the server has saved already, at revisions that this window has not been told of yet. */
  private readonly awaited = new Map<string, number>();

  constructor(
    private confirmed: Piece,
    public revision: number
  ) {
    this.shown = confirmed;
  }

  get pendingCount(): number {
    return this.pending.length;
  }

  /** Puts on top what an earlier visit left. What does not fit is not shown; whether it can be saved is for the server to say. */
  resume(batches: readonly Batch[]): Change {
    this.pending = [...this.pending, ...batches];
    return this.rebuild(null);
  }

  /** Makes an edit; gives what takes it back. */
  commit(batch: Batch): Result<Change & { readonly inverse: Operation[] }> {
    const applied = apply(this.shown, batch.operations);
    if (!applied.ok) return fail(applied.error);
    this.pending.push(batch);
    this.shown = applied.value.piece;
    return ok({ piece: this.shown, touched: [applied.value.touched], operations: batch.operations, inverse: applied.value.inverse });
  }

  /** News in the server's order, this window's own included. Null where nothing changes; a fault where something was missed. */
  receive({ revision, batch }: FollowedBatch): Result<Change | null> {
    if (revision <= this.revision) return ok(null);
    if (revision !== this.revision + 1) return fail(MISSED);
    const applied = apply(this.confirmed, batch.operations);
    if (!applied.ok) return fail(applied.error);
    this.confirmed = applied.value.piece;
    this.revision = revision;
    this.awaited.delete(batch.id);
    const place = this.pending.findIndex(({ id }) => id === batch.id);
    if (place >= 0) this.pending.splice(place, 1);
    if (place === 0) return ok(null);
    if (this.pending.length > 0 || place > 0) return ok(this.rebuild(applied.value.touched));
    this.shown = this.confirmed;
    return ok({ piece: this.shown, touched: [applied.value.touched], operations: batch.operations });
  }

  /** What the server says it has. What it had before this window was told is confirmed without further news. */
  saved(saved: readonly { readonly id: string; readonly revision: number }[]): Change | null {
    for (const { id, revision } of saved) if (this.pending.some((batch) => batch.id === id)) this.awaited.set(id, revision);
    return this.without(this.confirmedNow());
  }

  private confirmedNow(): ReadonlySet<string> {
    return new Set([...this.awaited].flatMap(([id, revision]) => (revision <= this.revision ? [id] : [])));
  }

  /** Takes out what the server cannot take. */
  refused(ids: readonly string[]): Change | null {
    return this.without(new Set(ids));
  }

  /** The piece as the server has it now, after something was missed. */
  reload(confirmed: Piece, revision: number): Change {
    this.confirmed = confirmed;
    this.revision = revision;
    return this.without(this.confirmedNow()) ?? this.rebuild(null);
  }

  private without(ids: ReadonlySet<string>): Change | null {
    for (const id of ids) this.awaited.delete(id);
    const left = this.pending.filter(({ id }) => !ids.has(id));
    if (left.length === this.pending.length) return null;
    this.pending = left;
    return this.rebuild(null);
  }

  private rebuild(touched: Touched | null): Change {
    const rebased = rebase(this.confirmed, this.pending);
    this.pending = rebased.kept;
    this.shown = rebased.piece;
    const isExact = touched !== null && rebased.dropped.length === 0;
    return { piece: rebased.piece, touched: isExact ? [touched, ...rebased.touched] : null, operations: null };
  }
}

const MISSED: Fault = fault('missed', [], 'Some news was missed.');
