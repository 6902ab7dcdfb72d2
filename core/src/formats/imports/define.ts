import type { MakeId } from '../../edit/make-id.ts';
import type { Operation } from '../../edit/operation.ts';
import type { Asset, Piece } from '../../piece/piece.ts';
import type { Result } from '../../result.ts';

/** What comes of bringing something in: one edit, what it makes, and what it leaves, each by name. */
export interface CameIn {
  readonly operations: readonly Operation[];
  readonly made: readonly string[];
  readonly left: readonly string[];
  /** What a piece is as large as that is made of it alone, CSS px. */
  readonly size?: { readonly width: number; readonly height: number };
}

/** A form that can be brought into a piece. */
export interface ImportForm<K extends string = string> {
  readonly kind: K;
  /** In sentences: `design tokens`. */
  readonly label: string;
  readonly meaning: string;
  /** A file holds frames of its own, so that it can be a piece by itself. */
  readonly isWhole?: true;
  /** Endings of its files, in small letters. */
  readonly endings: readonly string[];
  /** Whether a file is in this form, where others have the same ending. */
  readonly fits?: (bytes: Uint8Array) => boolean;
  /** The pictures in it, by the names that `read` knows them by; to be taken in before it is read. */
  readonly pictures?: (bytes: Uint8Array) => Result<ReadonlyMap<string, Uint8Array>>;
  /** `assets` are the pictures that were taken in, by their names. */
  readonly read: (piece: Piece, bytes: Uint8Array, makeId: MakeId, assets: ReadonlyMap<string, Asset>) => Result<CameIn>;
}

export const defineImport = <const K extends string>(form: ImportForm<K>): ImportForm<K> => form;
