import { createHash } from 'node:crypto';
import { writeFile } from 'node:fs/promises';
import { compile, htmlPage, toScxml, writePackage, type ExportKind, type PageParts, type Piece } from '@zany/core';
import parts from '@zany/player/page-parts.json' with { type: 'json' };
import { load, Unreadable } from './files.ts';

/** Writes a piece in another form. */
export async function exportFile(file: string, to: ExportKind, out: string, print: (text: string) => void): Promise<number> {
  const { piece, assets } = await load(file);
  if (to === 'scxml') return exportChart(piece, out, print);
  const missing = [...piece.assets.values()].filter((asset) => !assets.has(asset.id));
  if (missing.length) throw new Unreadable(`${file}: the picture “${missing[0]!.name}” is not there; use a package, which holds the pictures.`);
  const bytes = to === 'html' ? Buffer.from(htmlPage(piece, assets, pageParts())) : writePackage(piece, assets);
  await write(out, bytes, print);
  return 0;
}

/** A chart says the flow only; what it leaves out is printed, and stands in the file too. */
async function exportChart(piece: Piece, out: string, print: (text: string) => void): Promise<number> {
  const { xml, omitted } = toScxml(compile(piece));
  await write(out, Buffer.from(xml), print);
  for (const line of omitted) print(`  left out: ${line}`);
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
