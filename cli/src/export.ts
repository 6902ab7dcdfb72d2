import { createHash } from 'node:crypto';
import { writeFile } from 'node:fs/promises';
import { htmlPage, writePackage, type ExportKind, type PageParts } from '@zany/core';
import parts from '@zany/player/page-parts.json' with { type: 'json' };
import { load, Unreadable } from './files.ts';

/** Writes a piece in another form. */
export async function exportFile(file: string, to: ExportKind, out: string, print: (text: string) => void): Promise<number> {
  const { piece, assets } = await load(file);
  const missing = [...piece.assets.values()].filter((asset) => !assets.has(asset.id));
  if (missing.length) throw new Unreadable(`${file}: the picture “${missing[0]!.name}” is not there; use a package, which holds the pictures.`);
  const bytes = to === 'html' ? Buffer.from(htmlPage(piece, assets, pageParts())) : writePackage(piece, assets);
  await writeFile(out, bytes).catch((error: Error) => {
    throw new Unreadable(`${out}: cannot be written: ${error.message}`);
  });
  print(`${out}: ${bytes.length} bytes`);
  return 0;
}

const pageParts = (): PageParts => ({
  runtime: parts.runtime,
  css: parts.css,
  fonts: new Map(Object.entries(parts.fonts).map(([family, base64]) => [family, Buffer.from(base64, 'base64')])),
  hash: (text) => createHash('sha256').update(text).digest('base64'),
  base64: (bytes) => Buffer.from(bytes).toString('base64'),
});
