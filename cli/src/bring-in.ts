import { randomUUID } from 'node:crypto';
import { apply, cameInWords, importFor, imports, listWords, writePackage, type Asset } from '@zany/core';
import { imageSize } from 'image-size';
import { bytesOf, faultText, load, sha256, Unreadable, write } from './files.ts';

/** Brings a file into a piece, and writes the piece as a package; what came in and what was left is printed. */
export async function bringIn(piece: string, file: string, out: string, print: (text: string) => void): Promise<number> {
  const known = importFor(file);
  if (!known)
    throw new Unreadable(`${file}: what can be brought in is ${listWords(imports.map(({ label, endings }) => `${label} (${endings.join(', ')})`))}.`);
  const opened = await load(piece);
  const bytes = await bytesOf(file);
  const form = importFor(file, bytes) ?? known;
  const pictures = form.pictures?.(bytes);
  if (pictures && !pictures.ok) throw new Unreadable(`${file}: ${faultText(pictures.error)}`);
  const taken = picturesIn(pictures?.value ?? new Map());
  const byName = new Map([...taken].map(([name, { asset }]) => [name, asset] as const));
  const read = form.read(opened.piece, bytes, () => randomUUID(), byName);
  if (!read.ok) throw new Unreadable(`${file}: ${faultText(read.error)}`);
  const applied = apply(opened.piece, read.value.operations);
  if (!applied.ok) throw new Unreadable(`${file}: ${faultText(applied.error)}`);
  const assets = new Map([...opened.assets, ...[...taken.values()].map((one) => [one.asset.id, one.bytes] as const)]);
  await write(out, writePackage(applied.value.piece, assets));
  print(cameInWords(read.value));
  for (const line of read.value.left) print(`  left: ${line}`);
  return 0;
}

interface Taken {
  readonly asset: Asset;
  readonly bytes: Uint8Array;
}

/** Pictures that can be shown as they are; what is in another form is left. */
function picturesIn(files: ReadonlyMap<string, Uint8Array>): Map<string, Taken> {
  return new Map(
    [...files].flatMap(([file, bytes]): [string, Taken][] => {
      const { width, height, type } = measured(bytes);
      const mediaType = MEDIA[type ?? ''];
      if (!mediaType || !width || !height) return [];
      const asset: Asset = { id: sha256(bytes), name: file.replace(/^.*\//, '').slice(0, 100), mediaType, size: bytes.length, width, height };
      return [[file, { asset, bytes }]];
    })
  );
}

const MEDIA: Readonly<Record<string, Asset['mediaType']>> = { png: 'image/png', jpg: 'image/jpeg', webp: 'image/webp' };

function measured(bytes: Uint8Array): { width?: number; height?: number; type?: string } {
  try {
    return imageSize(bytes);
  } catch {
    return {};
  }
}
