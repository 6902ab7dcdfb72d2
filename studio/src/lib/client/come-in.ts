import { importFor, type Asset, type CameIn, type Piece } from '@zany/core';
import { newId } from './ids';
import { uploadPictures } from './pictures';

/** Pictures in documents that can be shown; all others are named by what reads the document. */
const SHOWN = /\.(png|jpe?g|webp|svg)$/i;

/** Reads a file by its form, after the pictures in it were sent; a sentence where it cannot be read. `piece` is asked for when they are. */
export async function comeIn(
  id: string,
  piece: () => Piece,
  file: File,
  progress: (done: number, all: number) => void,
  stop: AbortSignal
): Promise<CameIn | string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const form = importFor(file.name, bytes);
  if (!form) return `${file.name} cannot be brought in.`;
  const pictures = form.pictures?.(bytes);
  if (pictures && !pictures.ok) return `${file.name}: ${pictures.error.sentence}`;
  const sent = [...(pictures?.value ?? [])].filter(([name]) => SHOWN.test(name));
  // Their own names may be the same in two folders.
  const names = new Map<string, string>(sent.map(([name], i) => [`${i + 1} ${name.replace(/^.*\//, '')}`, name] as const));
  const files = [...names].map(([own], i) => new File([sent[i]![1] as BlobPart], own));
  const { taken, problems } = files.length ? await uploadPictures(id, files, progress, stop) : { taken: [], problems: [] };
  const assets = new Map<string, Asset>(taken.map((one) => [names.get(one.file)!, one.asset] as const));
  const read = form.read(piece(), bytes, newId, assets);
  return read.ok ? { ...read.value, left: [...problems, ...read.value.left] } : `${file.name}: ${read.error.sentence}`;
}
