import type { Piece } from '../../piece/piece.ts';
import type { PageParts } from '../html.ts';
import type { AssetBytes } from '../package.ts';
import type { ExportGroup } from './groups.ts';

/** What a piece can be handed over as. */
export interface ExportForm<K extends string = string> {
  readonly kind: K;
  readonly group: ExportGroup;
  readonly label: string;
  /** On the button. */
  readonly act: string;
  readonly ending: string;
  readonly mediaType: string;
  readonly meaning: string;
  /** It holds the pictures, so they have to be there. */
  readonly holdsPictures?: true;
  /** It says what came of walking, so the piece is walked before it is written. */
  readonly walks?: true;
  /** What takes it takes only so much, so its weight is held against a limit. */
  readonly weighed?: true;
  /** The file; a text is written in UTF-8. */
  readonly write: (piece: Piece, assets: AssetBytes, parts: PageParts) => Uint8Array | string;
  /** What of a piece it cannot say, each by name. */
  readonly omits?: (piece: Piece) => readonly string[];
}

export const defineExport = <const K extends string>(form: ExportForm<K>): ExportForm<K> => form;
