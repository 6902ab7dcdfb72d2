import { createHash } from 'node:crypto';
import { writeFile } from 'node:fs/promises';
import { exported, exportKinds, type ExportKind, type PageParts } from '@zany/core';
import parts from '@zany/player/page-parts.json' with { type: 'json' };
import { load, Unreadable } from './files.ts';

/** Writes a piece in another form; what that cannot say is printed. */
export async function exportFile(file: string, to: ExportKind, out: string, print: (text: string) => void): Promise<number> {
  const { piece, assets } = await load(file);
  const { holdsPictures, omits } = exportKinds[to];
  const missing = holdsPictures ? [...piece.assets.values()].filter((asset) => !assets.has(asset.id)) : [];
  if (missing.length) throw new Unreadable(`${file}: the picture “${missing[0]!.name}” is not there; use a package, which holds the pictures.`);
  await write(out, exported(to, piece, assets, pageParts()), print);
  for (const line of omits?.(piece) ?? []) print(`  left out: ${line}`);
  return 0;
}

async function write(out: string, bytes: Uint8Array, print: (text: string) => void): Promise<void> {
  await writeFile(out, bytes).catch((error: Error) => {
    throw new Unreadable(`${out}: cannot be written: ${error.message}`);
  });
  print(`${out}: ${bytes.length} bytes`);
}

const pageParts = (): PageParts => ({
  runtime: parts.runtime,
  css: parts.css,
  fonts: new Map(Object.entries(parts.fonts).map(([family, base64]) => [family, Buffer.from(base64, 'base64')])),
  hash: (text) => createHash('sha256').update(text).digest('base64'),
  base64: (bytes) => Buffer.from(bytes).toString('base64'),
});
