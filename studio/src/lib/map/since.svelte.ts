import { compile, pieceFromTrusted, scenesBetween, threadsBetween, type PieceJson, type Program } from '@zany/core';
import { ask } from '$lib/client/api';
import type { EditorSession } from '$lib/client/session.svelte';
import { versionName } from '$lib/hand/versions/version-words';
import type { PieceVersion } from '$lib/shared/types';

/** Versions that are offered to look for what was changed since. */
const MOST = 40;

/** Which frames are otherwise than in an older version: as they look, or by what leads on from them. */
export class Since {
  private list: readonly PieceVersion[] = $state.raw([]);
  /** Since when; null where nobody asks. */
  revision: number | null = $state(null);
  /** Those that are otherwise; null while that is not known. */
  frames: ReadonlySet<string> | null = $state.raw(null);
  private before: Program | null = null;
  /** The revision at which it was read which versions there are. */
  private readAt = -1;

  constructor(private readonly session: EditorSession) {}

  readonly options = $derived.by(() =>
    this.list
      .filter(({ revision }) => revision < this.session.savedRevision)
      .slice(0, MOST)
      .map(({ revision, last }) => ({ value: revision, label: versionName(revision, this.list), ...(last !== null && { hint: last }) }))
  );

  get words(): string {
    return this.revision === null ? 'changed since…' : `changed since ${versionName(this.revision, this.list)}`;
  }

  /** Reads which versions there are. */
  async read(): Promise<void> {
    this.readAt = this.session.savedRevision;
    const answer = await ask<{ versions: PieceVersion[] }>('GET', `/api/pieces/${this.session.id}/versions`);
    if (answer.ok) this.list = answer.value.versions;
  }

  async choose(revision: number | null): Promise<void> {
    [this.revision, this.before, this.frames] = [revision, null, null];
    if (revision === null) return void this.read();
    const answer = await ask<{ piece: PieceJson }>('GET', `/api/pieces/${this.session.id}/versions/${revision}`);
    if (this.revision !== revision) return;
    if (!answer.ok) {
      this.revision = null;
      return this.session.notify(answer.error.sentence);
    }
    this.before = compile(pieceFromTrusted(answer.value.piece));
    this.look();
  }

  /** Looks again, when the piece has rested. */
  look(): void {
    if (this.readAt !== this.session.savedRevision) void this.read();
    if (this.before) this.frames = changedFrames(this.before, this.session.program);
  }
}

/** The frames of a version that differ from an older one, or that are not in it, and those whose own threads, or those of their layers, do. */
export function changedFrames(before: Program, after: Program): ReadonlySet<string> {
  const scenes = scenesBetween(before, after).map(({ scene }) => scene);
  const threads = threadsBetween(before.piece, after.piece).flatMap(({ scene }) => scene ?? []);
  const changed = new Set([...scenes, ...threads]);
  return new Set(after.frames.filter((id) => changed.has(id)));
}
