import type { Asset, ExportKind, Fault, Goal, PieceJson, ReportKind } from '@zany/core';
import type { DrawWish } from '@zany/player/pictures';
import type { Faces } from '@zany/player/pictures-node';
import type { ResultTrail, ReviewTask } from '$lib/shared/types';

/** Says how far a task has come, in words. */
export type Tell = (said: string) => void;

/** What workers are asked to do, by name: what goes in and what comes out. All of it can be sent between threads. */
export interface Tasks {
  /** Applies batches to a piece that the worker keeps; see `Keeper`. */
  apply: { in: ApplyTask; out: Applied };
  /** The document of a piece that the worker keeps, as text. */
  document: { in: At; out: string };
  /** Reads a package: everything in it checked, pictures written anew. */
  package: { in: { bytes: Uint8Array; id: string }; out: Outcome<BroughtIn> };
  picture: { in: { file: string; bytes: Uint8Array }; out: Outcome<TakenPicture> };
  /** What the Workroom shows of a piece. */
  card: { in: { document: string }; out: Card };
  copy: { in: { document: string; id: string; name: string }; out: { document: string; assets: string[] } };
  write: { in: { document: string; kind: ExportKind; assets: [string, Uint8Array][]; parts: PartsText }; out: Uint8Array };
  /** A piece as a review link shows it. */
  shown: { in: { document: string; bundle: string | null; start: string | null }; out: ShownPiece };
  /** Runs what was done again. */
  trails: { in: { document: string; trails: readonly { trail: unknown; goal: Goal | null }[] }; out: TrailRun[] };
  /** What somebody has the server do, that takes long; what comes of it is a file, or a piece. */
  errand: { in: ErrandTask; out: Outcome<Written | BroughtIn> };
  /** Parses a large body of edits. */
  batches: { in: { body: Uint8Array }; out: Outcome<SentBatch[]> };
}

export type TaskName = keyof Tasks;

/** An expected refusal comes back as a value. */
export type Outcome<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: Fault };

/** Which piece, at which revision, and what the worker needs to get there from what it keeps. */
export interface At {
  readonly piece: string;
  readonly revision: number;
  /** Where to begin: at what the worker has settled, at what it applied last, or at a snapshot that comes along. */
  readonly from: 'settled' | 'applied' | { readonly revision: number; readonly document: string };
  /** The operations of each revision after that, as JSON. */
  readonly log: readonly string[];
}

/** A batch as it was sent, its operations still JSON. */
export interface SentBatch {
  readonly id: string;
  readonly name: string;
  readonly operations: string;
}

export interface ApplyTask extends At {
  readonly batches: readonly SentBatch[];
  /** Batches that must not be applied, with the reason. */
  readonly refused: Readonly<Record<string, Fault>>;
}

export interface Applied {
  /** One for each batch, in order; `assets` are the picture files it puts into the piece. */
  readonly results: readonly ({ readonly assets: readonly string[] } | { readonly fault: Fault })[];
  readonly revision: number;
  readonly name: string;
}

export type ErrandTask =
  | {
      readonly kind: 'export';
      readonly to: ExportKind;
      readonly document: string;
      readonly assets: [string, Uint8Array][];
      readonly parts: PartsText;
    }
  /** The day as YYYY-MM-DD. */
  | { readonly kind: 'walk'; readonly as: ReportKind; readonly document: string; readonly day: string }
  | {
      readonly kind: 'draw';
      readonly wish: DrawWish;
      readonly document: string;
      readonly assets: [string, Uint8Array][];
      readonly faces: Faces;
      readonly day: string;
    }
  | { readonly kind: 'compare'; readonly before: string; readonly after: string }
  | { readonly kind: 'shortest'; readonly document: string; readonly tasks: readonly ReviewTask[] }
  /** The bytes of a package, and what the piece is to be called by. */
  | { readonly kind: 'bring in'; readonly bytes: Uint8Array; readonly id: string };

/** What came of an errand. */
export interface Written {
  readonly bytes: Uint8Array;
  /** What of the piece is not in it, each by name. */
  readonly leftOut: readonly string[];
}

export interface TakenPicture {
  readonly bytes: Uint8Array;
  readonly mediaType: Asset['mediaType'];
  /** CSS pixels. */
  readonly width: number;
  readonly height: number;
}

export interface BroughtIn {
  readonly id: string;
  readonly name: string;
  readonly document: string;
  readonly assets: readonly { id: string; mediaType: string; width: number; height: number; bytes: Uint8Array }[];
}

export interface Card {
  readonly frames: number;
  /** Null where exploring took too long to be waited for. */
  readonly looseEnds: number | null;
  /** Whether all there is was explored, so that the number is the whole truth. */
  readonly complete: boolean;
  readonly cover: PieceJson | null;
}

export interface ShownPiece {
  readonly document: string;
  readonly assets: readonly string[];
  readonly frames: readonly string[];
  /** Why there is nothing to show. */
  readonly problem: string | null;
}

export type TrailRun = Pick<ResultTrail, 'from' | 'steps' | 'reached' | 'ms'>;

export interface PartsText {
  readonly runtime: string;
  readonly element: string;
  readonly css: string;
  readonly fonts: Readonly<Record<string, string>>;
}
