import type { Batch, Fault, PieceJson } from '@zany/core';

/** What the server and the pages say to each other. */

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly email: string;
}

export type Role = 'owner' | 'editor' | 'reviewer';

/** A piece as the Workroom shows it. */
export interface PieceCard {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly updated: string;
  readonly role: Role;
  /** Null where it is not known yet. */
  readonly frames: number | null;
  /** How many loose ends were found; null where that is not known. */
  readonly looseEnds: number | null;
  /** Whether all there is was walked. */
  readonly complete: boolean;
  /** The piece has been changed since; what is said here follows. */
  readonly isBehind: boolean;
  /** Why nothing can be said of it. */
  readonly problem: string | null;
  /** The start frame alone, as a piece of one frame; null for a piece without frames. */
  readonly cover: PieceJson | null;
}

/** A piece as it is opened. */
export interface OpenedPiece {
  readonly piece: PieceJson;
  readonly revision: number;
  readonly role: Role;
}

/** What became of a batch that was sent. */
export type BatchResult = { readonly id: string; readonly revision: number } | { readonly id: string; readonly fault: Fault };

/** A batch as everybody who follows a piece gets it. */
export interface FollowedBatch {
  readonly piece: string;
  readonly revision: number;
  readonly by: string;
  readonly batch: Batch;
}

/** The same on the server, where operations are only passed on, as JSON. */
export interface FollowedText {
  readonly revision: number;
  readonly by: string;
  readonly id: string;
  readonly name: string;
  readonly operations: string;
}

/** A press on the pad of a piece, sent over HTTP. */
export interface PadPress {
  readonly piece: string;
  readonly button: number;
}

/** Where a window is in a piece, as it says itself. */
export interface Whereabouts {
  /** One for each window. */
  readonly client: string;
  readonly desk: 'build' | 'map' | 'walk' | 'hand-over';
  readonly scene: string | null;
  readonly selection: readonly string[];
  readonly gone: boolean;
}

/** The same as everybody else in the piece is told it. */
export interface Presence extends Whereabouts {
  readonly piece: string;
  readonly name: string;
}

/** The one shape of an error that a route answers with. */
export interface ErrorBody {
  readonly error: Fault;
}

/** A branch of a thread that a person has walked, with what the thread said then. */
export interface WalkedBranch {
  readonly thread: string;
  readonly branch: number;
  readonly line: string;
  /** Whether it did what it should, as far as the person said. */
  readonly verdict: Verdict | null;
  /** What the person said of it; empty for nothing. */
  readonly note: string;
}

export type Verdict = 'pass' | 'fail';

export const MOST_WALK_NOTE = 500;

/** The same by somebody else, by name. */
export interface WalkedByOther extends WalkedBranch {
  readonly by: string;
}
