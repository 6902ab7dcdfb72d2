import { createHash } from 'node:crypto';
import { compile, exportKinds, exportName, htmlPage, toScxml, writePackage, type ExportKind, type PageParts, type Piece } from '@zany/core';
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
  const bytes = await writers[kind](piece);
  return { bytes, name: exportName(row.name, kind), mediaType: exportKinds[kind].mediaType };
}

const writers: Record<ExportKind, (piece: Piece) => Promise<Uint8Array>> = {
  html: async (piece) => Buffer.from(htmlPage(piece, await bytesOf(piece), pageParts())),
  package: async (piece) => writePackage(piece, await bytesOf(piece)),
  scxml: async (piece) => Buffer.from(toScxml(compile(piece)).xml),
};

const pageParts = (): PageParts => ({
  runtime: parts.runtime,
  css: parts.css,
  fonts: new Map(Object.entries(parts.fonts).map(([family, base64]) => [family, Buffer.from(base64, 'base64')])),
  hash: (text) => createHash('sha256').update(text).digest('base64'),
  base64: (bytes) => Buffer.from(bytes).toString('base64'),
});
