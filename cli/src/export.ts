import { createHash } from 'node:crypto';
import { exported, exportKinds, type ExportForm, type ExportKind, type PageParts } from '@zany/core';
import parts from '@zany/player/page-parts.json' with { type: 'json' };
import { load, Unreadable, write } from './files.ts';

/** Writes a piece in another form; what that cannot say is printed. Where it is heavier than it may be (kB, of 1,000 bytes), the exit code is 1. */
export async function exportFile(
  file: string,
  to: ExportKind,
  out: string,
  most: number | undefined,
  print: (text: string) => void
): Promise<number> {
  const { piece, assets } = await load(file);
  const { holdsPictures, omits }: ExportForm = exportKinds[to];
  const missing = holdsPictures ? [...piece.assets.values()].filter((asset) => !assets.has(asset.id)) : [];
  if (missing.length) throw new Unreadable(`${file}: the picture “${missing[0]!.name}” is not there; use a package, which holds the pictures.`);
  const bytes = exported(to, piece, assets, pageParts());
  await write(out, bytes);
  print(`${out}: ${bytes.length} bytes`);
  for (const line of omits?.(piece) ?? []) print(`  left out: ${line}`);
  if (most === undefined) return 0;
  const isHeavy = bytes.length > most * 1000;
  print(`  ${(bytes.length / 1000).toFixed(1)} of ${most} kB${isHeavy ? ': too heavy' : ''}`);
  return isHeavy ? 1 : 0;
}

const pageParts = (): PageParts => ({
  runtime: parts.runtime,
  element: parts.element,
  css: parts.css,
  fonts: new Map(Object.entries(parts.fonts).map(([family, base64]) => [family, Buffer.from(base64, 'base64')])),
  hash: (text) => createHash('sha256').update(text).digest('base64'),
  base64: (bytes) => Buffer.from(bytes).toString('base64'),
});
