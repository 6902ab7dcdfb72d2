import { insertStarter, likenessesOf, makePart, makeSheet, placePart, takeApart, type Operation, type Starter } from '@zany/core';
import { newId } from '$lib/client/ids';
import type { EditorSession } from '$lib/client/session.svelte';
import { named, nameOf } from './names';

/** Parts and sheets. Each is one named edit. */

/** Puts the selection into a new part; the placement that stands for it is selected. Where the same stands elsewhere, that can become it, too. */
export function makePartOfSelection(session: EditorSession): void {
  const { sceneId, selection } = session;
  if (!sceneId) return;
  const made = makePart(session.plain, sceneId, selection, nameOf(session, selection, 'Part 1'), newId);
  if (!made || !session.edit(`Make a part of ${named(session, selection)}`, made.operations, 'plain')) return;
  session.select([made.placement!]);
  if (likenessesOf(session.plain, made.scene).length) session.panel = 'in place';
}

/** Puts the selection into a new sheet that frames carry: those chosen in the shelf where there are several, else all. */
export function carryAcross(session: EditorSession): void {
  const { sceneId, selection, frameSelection, program } = session;
  if (!sceneId) return;
  const frames = frameSelection.length > 1 ? frameSelection : program.frames;
  const made = makeSheet(session.plain, sceneId, selection, nameOf(session, selection, 'Sheet 1'), frames, 'over', newId);
  if (made && session.edit(`Carry ${named(session, selection)} across ${frames.length} frames`, made.operations, 'plain')) session.select([]);
}

export function takeApartSelected(session: EditorSession): void {
  const groups: string[] = [];
  let operations: Operation[] = [];
  for (const id of session.selection) {
    const apart = takeApart(session.plain, id, newId);
    operations = [...operations, ...apart.operations];
    if (apart.group) groups.push(apart.group);
  }
  if (session.edit(`Take ${named(session, session.selection)} apart`, operations, 'plain')) session.select(groups);
}

/** Puts a placement of a part into the open scene. */
export function placeHere(session: EditorSession, part: string, middle?: { x: number; y: number }): void {
  if (!session.sceneId) return;
  const id = newId();
  const operations = placePart(session.piece, session.sceneId, part, id, middle);
  if (operations.length === 0) return session.notify('A part cannot be placed inside itself.');
  if (session.edit(`Place ${session.piece.scenes.get(part)?.name}`, operations)) session.select([id]);
}

/** Goes into the part that the selected placement shows. */
export function goInside(session: EditorSession): void {
  const part = session.piece.layers.get(session.selection[0] ?? '')?.part;
  if (part !== undefined && session.piece.scenes.has(part)) session.enterScene(part);
}

/** Puts a placement into a sheet that all frames carry (or those chosen in the shelf): it is on every page at once. */
export function placeEverywhere(session: EditorSession, starter: Starter): void {
  if (!session.sceneId) return;
  const { operations, placement } = insertStarter(session.plain.piece, starter, session.sceneId, newId, { x: 60, y: 44 });
  if (!placement || !session.edit(`Place ${starter.name}`, operations, 'plain')) return;
  session.select([placement]);
  carryAcross(session);
}
