import { createHash } from 'node:crypto';
import { exportKinds, exportName, htmlPage, writePackage, type ExportKind, type PageParts } from '@zany/core';
import parts from '@zany/player/page-parts.json';
import type { Person } from '$lib/shared/types';
import { bytesOf } from './assets';
import { pieceAt } from './loading';
import { access } from './rights';

export interface Exported {
  readonly bytes: Uint8Array;
  readonly name: string;
  readonly mediaType: string;
}

export async function exportPiece(person: Person | null, id: string, kind: ExportKind): Promise<Exported> {
  const { row } = await access(person, id, 'reviewer');
  const piece = await pieceAt(id, row.revision);
  const assets = await bytesOf(piece);
  const bytes = kind === 'html' ? Buffer.from(htmlPage(piece, assets, pageParts())) : writePackage(piece, assets);
  return { bytes, name: exportName(row.name, kind), mediaType: exportKinds[kind].mediaType };
}

const pageParts = (): PageParts => ({
  runtime: parts.runtime,
  css: parts.css,
  fonts: new Map(Object.entries(parts.fonts).map(([family, base64]) => [family, Buffer.from(base64, 'base64')])),
  hash: (text) => createHash('sha256').update(text).digest('base64'),
  base64: (bytes) => Buffer.from(bytes).toString('base64'),
});
