import { createHash } from 'node:crypto';
import { pieceFromTrusted, type PageParts, type Piece, type PieceJson } from '@zany/core';
import type { PartsText } from './tasks';

/** What comes to a worker as text. */

export const pieceFrom = (document: string): Piece => pieceFromTrusted(JSON.parse(document) as PieceJson);

export const pageParts = ({ runtime, element, css, fonts }: PartsText): PageParts => ({
  runtime,
  element,
  css,
  fonts: new Map(Object.entries(fonts).map(([family, base64]) => [family, Buffer.from(base64, 'base64')])),
  hash: (text) => createHash('sha256').update(text).digest('base64'),
  base64: (bytes) => Buffer.from(bytes).toString('base64'),
});
