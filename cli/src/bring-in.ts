import { randomUUID } from 'node:crypto';
import { basename } from 'node:path';
import {
  apply,
  bringInPages,
  cameInWords,
  count,
  importFor,
  imports,
  listWords,
  writePackage,
  type Asset,
  type Operation,
  type Piece,
} from '@zany/core';
import { imageSize } from 'image-size';
import { bytesOf, faultText, load, sha256, Unreadable, write } from './files.ts';

/** A piece with what has come into it so far. */
interface Filled {
  readonly piece: Piece;
  readonly assets: ReadonlyMap<string, Uint8Array>;
}

/**
 * Brings files into a piece, all or none, and writes the piece as a package; what came in and what was left is printed. Pictures are
 * pages: each becomes a frame, of the picture's size or fitted into the piece's.
 */
export async function bringIn(piece: string, files: readonly string[], fit: boolean, out: string, print: (text: string) => void): Promise<number> {
  const pages = files.filter((file) => PICTURE.test(file));
  for (const file of files)
    if (!PICTURE.test(file) && !importFor(file))
      throw new Unreadable(
        `${file}: what can be brought in is ${listWords([...imports.map(({ label, endings }) => `${label} (${endings.join(', ')})`), 'pictures (.png, .jpg, .webp)'])}.`
      );
  let filled: Filled = await load(piece);
  const said: string[] = [];
  for (const file of files.filter((one) => !PICTURE.test(one))) filled = await documentInto(filled, file, said);
  if (pages.length) filled = await pagesInto(filled, pages, fit, said);
  await write(out, writePackage(filled.piece, filled.assets));
  said.forEach(print);
  return 0;
}

const PICTURE = /\.(png|jpe?g|webp)$/i;

async function documentInto(filled: Filled, file: string, said: string[]): Promise<Filled> {
  const bytes = await bytesOf(file);
  const form = importFor(file, bytes)!;
  const pictures = form.pictures?.(bytes);
  if (pictures && !pictures.ok) throw new Unreadable(`${file}: ${faultText(pictures.error)}`);
  const taken = picturesIn(pictures?.value ?? new Map());
  const byName = new Map([...taken].map(([name, { asset }]) => [name, asset] as const));
  const read = form.read(filled.piece, bytes, () => randomUUID(), byName);
  if (!read.ok) throw new Unreadable(`${file}: ${faultText(read.error)}`);
  said.push(cameInWords(read.value), ...read.value.left.map((line) => `  left: ${line}`));
  return filledWith(filled, file, read.value.operations, taken);
}

/** Pictures as frames, in the natural order of their names. */
async function pagesInto(filled: Filled, files: readonly string[], fit: boolean, said: string[]): Promise<Filled> {
  const taken = picturesIn(new Map(await Promise.all(files.map(async (file) => [file, await bytesOf(file)] as const))));
  const broken = files.find((file) => !taken.has(file));
  if (broken !== undefined) throw new Unreadable(`${broken}: it is no PNG, JPEG or WebP picture, or it is damaged.`);
  const pages = [...taken].map(([file, { asset }]) => ({ asset, file: basename(file) }));
  const { operations, left } = bringInPages(filled.piece, pages, fit, () => randomUUID());
  said.push(`Brought in: ${count(pages.length, 'frame')}.`, ...left.map((line) => `  left: ${line}`));
  return filledWith(filled, files[0]!, operations, taken);
}

function filledWith({ piece, assets }: Filled, file: string, operations: readonly Operation[], taken: ReadonlyMap<string, Taken>): Filled {
  const applied = apply(piece, operations);
  if (!applied.ok) throw new Unreadable(`${file}: ${faultText(applied.error)}`);
  return { piece: applied.value.piece, assets: new Map([...assets, ...[...taken.values()].map((one) => [one.asset.id, one.bytes] as const)]) };
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
