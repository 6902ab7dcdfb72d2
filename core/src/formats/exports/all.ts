import { strToU8 } from 'fflate';
import type { Piece } from '../../piece/piece.ts';
import type { PageParts } from '../html.ts';
import type { AssetBytes } from '../package.ts';
import { auditOf, type Met } from '../audited.ts';
import { chart } from './chart.ts';
import { css } from './css.ts';
import type { ExportForm } from './define.ts';
import { banner } from './banner.ts';
import { dot } from './dot.ts';
import { folder } from './folder.ts';
import { gherkin } from './gherkin.ts';
import { graphml } from './graphml.ts';
import { lottie } from './lottie/lottie.ts';
import { mermaid } from './mermaid.ts';
import { fileName, takeFileName } from './names.ts';
import { npm } from './npm.ts';
import { page } from './page.ts';
import { playwright } from './playwright.ts';
import { threadsTable } from './threads-table.ts';
import { tokens } from './tokens.ts';
import { zipped } from './zipped.ts';

/** What a piece can be handed over as, in the order of the desk. To add one: its file, and its line here. */
const all = [page, folder, banner, zipped, npm, tokens, css, lottie, chart, playwright, gherkin, graphml, dot, mermaid, threadsTable] as const;

export type ExportKind = (typeof all)[number]['kind'];

/** One table for the desk, the command line, the server and the docs. */
export const exportKinds = Object.fromEntries(all.map((form) => [form.kind, form])) as { readonly [K in ExportKind]: ExportForm<K> };

/** The bytes of a piece in a form; where it is walked first, `met` hears how far that has come. */
export function exported(kind: ExportKind, piece: Piece, assets: AssetBytes, parts: PageParts, met?: Met): Uint8Array {
  const { walks, write } = exportKinds[kind];
  if (walks) auditOf(piece, met);
  const written = write(piece, assets, parts);
  return typeof written === 'string' ? strToU8(written) : written;
}

/** A file name made of the piece's name. */
export const exportName = (name: string, kind: ExportKind): string => `${fileName(name)}${exportKinds[kind].ending}`;

export { fileName, takeFileName };
export { exportGroups, type ExportGroup } from './groups.ts';
export type { ExportForm };
