import { bringInPages, cutText, emptyPiece, naturally, type Operation } from '@zany/core';
import { ask } from '$lib/client/api';
import { newId } from '$lib/client/ids';
import { isMedia, isPicture, uploadPictures } from '$lib/client/pictures';

interface Listener {
  readonly say: (text: string) => void;
  readonly problem: (text: string) => void;
  readonly open: (piece: string) => unknown;
}

/** Files given to the Workroom: each package becomes a piece, all pictures together become one. */
export async function takeFiles(files: readonly File[], listener: Listener): Promise<void> {
  const pictures = files.filter((file) => isPicture(file));
  const media = files.filter((file) => isMedia(file));
  for (const { name } of media) listener.problem(`${name} is a film or a sound. Open the piece it belongs to and drop it on a frame there.`);
  for (const file of files.filter((other) => !isPicture(other) && !isMedia(other))) {
    listener.say(`Bringing in ${file.name}…`);
    const answer = await ask<{ id: string }>('POST', '/api/packages', file, { 'Content-Type': 'application/octet-stream' });
    if (!answer.ok) listener.problem(`${file.name}: ${answer.error.sentence}`);
  }
  if (pictures.length) await pieceOf(pictures, listener);
}

async function pieceOf(pictures: readonly File[], listener: Listener): Promise<void> {
  const first = [...pictures].sort((a, b) => naturally(a.name, b.name))[0]!;
  const bitmap = await createImageBitmap(first).catch(() => null);
  const size = { width: Math.min(bitmap?.width ?? 390, 20_000), height: Math.min(bitmap?.height ?? 844, 20_000) };
  const name = cutText(first.name.replace(/\.[a-z0-9]+$/i, ''), 100) || 'New piece';
  const made = await ask<{ id: string }>('POST', '/api/pieces', { name: pictures.length > 1 ? `${name} and more` : name, ...size });
  if (!made.ok) return listener.problem(made.error.sentence);
  const { id } = made.value;
  const { taken, problems } = await uploadPictures(id, pictures, (done, all) => listener.say(`Bringing in ${done} of ${all} pictures…`));
  problems.forEach((problem) => listener.problem(problem));
  if (taken.length === 0) return void (await ask('DELETE', `/api/pieces/${id}`));
  const opened = await ask<{ piece: { scenes: Record<string, unknown>; start: string[] } }>('GET', `/api/pieces/${id}`);
  if (!opened.ok) return listener.problem(opened.error.sentence);
  const empty = emptyPiece({ id, name, ...size, start: [] });
  const clear: Operation[] = Object.keys(opened.value.piece.scenes).map((scene) => ({ op: 'remove', table: 'scenes', id: scene }));
  const operations = [...clear, ...bringInPages(empty, taken, false, newId)];
  const saved = await ask('POST', `/api/pieces/${id}/batches`, { batches: [{ id: newId(), name: 'Bring in pages', operations }] });
  if (!saved.ok) return listener.problem(saved.error.sentence);
  await listener.open(id);
}
