import { bringInPages, cutText, emptyPiece, importFor, naturally, type Operation, type Piece } from '@zany/core';
import { ask } from '$lib/client/api';
import { newId } from '$lib/client/ids';
import { comeIn } from '$lib/client/come-in';
import { isDocument, unfoldDocuments } from '$lib/client/documents';
import { PageFile } from '$lib/client/page-file';
import { isMedia, isPicture, uploadPictures } from '$lib/client/pictures';
import { fewOf } from '$lib/shared/few';

interface Listener {
  readonly say: (text: string) => void;
  readonly problem: (text: string) => void;
  readonly open: (piece: string) => unknown;
  /** Brings in a package. */
  readonly bringIn: (file: File) => Promise<void>;
}

/** Files given to the Workroom: each package becomes a piece, all pictures together become one. */
export async function takeFiles(files: readonly File[], listener: Listener): Promise<void> {
  const pages = files.filter((file) => isPicture(file) || isDocument(file));
  const media = files.filter((file) => isMedia(file));
  for (const { name } of media) listener.problem(`${name} is a film or a sound. Open the piece it belongs to and drop it on a frame there.`);
  for (const file of files.filter((other) => !pages.includes(other) && !isMedia(other))) {
    if (importFor(file.name)?.isWhole) {
      await pieceFrom(file, listener);
      continue;
    }
    await listener.bringIn(file);
  }
  const read = await unfoldDocuments(pages, (done, all) => listener.say(`Reading ${done} of ${all} pages…`), new AbortController().signal);
  fewOf(read.left).forEach((problem) => listener.problem(problem));
  if (read.files.length) await pieceOf(read.files, listener);
}

async function pieceOf(pictures: readonly File[], listener: Listener): Promise<void> {
  const first = [...pictures].sort((a, b) => naturally(a.name, b.name))[0]!;
  const page = first instanceof PageFile ? first : null;
  const shown = page?.about.size ?? (await createImageBitmap(first).catch(() => null));
  const size = { width: Math.min(shown?.width ?? 390, 20_000), height: Math.min(shown?.height ?? 844, 20_000) };
  const name = cutText(page?.source ?? first.name.replace(/\.[a-z0-9]+$/i, ''), 100) || 'New piece';
  const isWhole = pictures.every((other) => (page ? other instanceof PageFile && other.source === page.source : other === first));
  const piece = await emptied(isWhole ? name : `${name} and more`, size);
  if (typeof piece === 'string') return listener.problem(piece);
  const { taken, problems } = await uploadPictures(piece.id, pictures, (done, all) => listener.say(`Bringing in ${done} of ${all} pictures…`));
  fewOf(problems).forEach((problem) => listener.problem(problem));
  if (taken.length === 0) return void (await ask('DELETE', `/api/pieces/${piece.id}`));
  const brought = bringInPages(piece.empty, taken, false, newId);
  fewOf(brought.left).forEach((problem) => listener.problem(problem));
  await fill(piece.id, 'Bring in pages', [...piece.clear, ...brought.operations], listener);
}

/** A document with frames of its own: a presentation, a state chart. */
async function pieceFrom(file: File, listener: Listener): Promise<void> {
  listener.say(`Bringing in ${file.name}…`);
  const name = cutText(file.name.replace(/\.[a-z0-9]+$/i, ''), 100) || 'New piece';
  const piece = await emptied(name, { width: 1280, height: 720 });
  if (typeof piece === 'string') return listener.problem(piece);
  const say = (done: number, all: number) => listener.say(`Bringing in ${done} of ${all} pictures…`);
  const read = await comeIn(piece.id, () => piece.empty, file, say, new AbortController().signal);
  if (typeof read === 'string') {
    await ask('DELETE', `/api/pieces/${piece.id}`);
    return listener.problem(read);
  }
  fewOf(read.left.map((line) => `${file.name}: ${line}`)).forEach((problem) => listener.problem(problem));
  const size = Object.entries(read.size ?? {}).map(([side, value]): Operation => ({ op: 'set', table: 'piece', id: piece.id, path: [side], value }));
  await fill(piece.id, `Bring in ${file.name}`, [...piece.clear, ...size, ...read.operations], listener);
}

interface Emptied {
  readonly id: string;
  readonly empty: Piece;
  /** Takes away what a new piece begins with. */
  readonly clear: readonly Operation[];
}

/** A new piece with nothing in it; a sentence where none can be made. */
async function emptied(name: string, size: { width: number; height: number }): Promise<Emptied | string> {
  const made = await ask<{ id: string }>('POST', '/api/pieces', { name, ...size });
  if (!made.ok) return made.error.sentence;
  const { id } = made.value;
  const opened = await ask<{ piece: { scenes: Record<string, unknown> } }>('GET', `/api/pieces/${id}`);
  if (!opened.ok) return opened.error.sentence;
  const clear = Object.keys(opened.value.piece.scenes).map((scene): Operation => ({ op: 'remove', table: 'scenes', id: scene }));
  return { id, empty: emptyPiece({ id, name, ...size, start: [] }), clear };
}

async function fill(id: string, name: string, operations: readonly Operation[], listener: Listener): Promise<void> {
  const saved = await ask('POST', `/api/pieces/${id}/batches`, { batches: [{ id: newId(), name, operations }] });
  if (!saved.ok) return listener.problem(saved.error.sentence);
  await listener.open(id);
}
