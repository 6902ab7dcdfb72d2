import type { MakeId } from '../../edit/make-id.ts';
import type { Operation } from '../../edit/operation.ts';
import type { Piece } from '../../piece/piece.ts';
import type { Result } from '../../result.ts';

/** What comes of bringing something in: one edit, what it makes, and what it leaves, each by name. */
export interface CameIn {
  readonly operations: readonly Operation[];
  readonly made: readonly string[];
  readonly left: readonly string[];
}

/** A form that can be brought into a piece. */
export interface ImportForm<K extends string = string> {
  readonly kind: K;
  /** In sentences: `design tokens`. */
  readonly label: string;
  readonly meaning: string;
  /** Endings of its files, in small letters. */
  readonly endings: readonly string[];
  readonly read: (piece: Piece, bytes: Uint8Array, makeId: MakeId) => Result<CameIn>;
}

export const defineImport = <const K extends string>(form: ImportForm<K>): ImportForm<K> => form;
