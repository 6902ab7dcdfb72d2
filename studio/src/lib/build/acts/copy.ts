import {
  addThreads,
  copyLayers,
  parseLines,
  pasteClip,
  printLine,
  scopeFor,
  scopeOf,
  threadsByName,
  threadsOf,
  type Clip,
  type LineThread,
  type Operation,
} from '@zany/core';
import { newId } from '$lib/client/ids';
import type { EditorSession } from '$lib/client/session.svelte';
import { named } from './names';

/** Copies: of layers and of threads. Each is one named edit. */

export const CLIP_TYPE = 'application/x-zany-thread-clip';

/** Where the last duplicate went, so that the next one goes as far again. */
let lastStep: { from: readonly string[]; dx: number; dy: number } | null = null;

/** Copies the selection in its scene, moved; the copies are selected. */
export function duplicate(session: EditorSession, offset?: { x: number; y: number }): void {
  const { sceneId, selection } = session;
  if (!sceneId || selection.length === 0) return;
  const repeats = lastStep && selection.length === lastStep.from.length && selection.every((id) => lastStep!.from.includes(id));
  const by = offset ?? (repeats ? { x: lastStep!.dx, y: lastStep!.dy } : defaultStep(session));
  const { operations, ids } = pasteClip(session.piece, copyLayers(session.settled, sceneId, selection), sceneId, newId, by, takesStates(session));
  if (!session.edit(`Duplicate ${named(session, selection)}`, operations)) return;
  session.select(ids);
  lastStep = { from: ids, dx: by.x, dy: by.y };
}

/** Copies go along with their originals from state to state, unless they are made of how those look in one of them. */
const takesStates = (session: EditorSession): boolean => session.isFirstState && session.openLook === null && session.reach === null;

/** Remembers how far a fresh duplicate was moved by hand. */
export function noteStep(ids: readonly string[], dx: number, dy: number): void {
  if (lastStep && ids.length === lastStep.from.length && ids.every((id) => lastStep!.from.includes(id)))
    lastStep = { from: ids, dx: lastStep.dx + dx, dy: lastStep.dy + dy };
}

/** Below what is selected, with a small gap. */
function defaultStep(session: EditorSession): { x: number; y: number } {
  const boxes = session.selection.flatMap((id) => session.scene?.byId.get(id)?.box ?? []);
  const top = Math.min(...boxes.map((box) => box.y));
  const bottom = Math.max(...boxes.map((box) => box.y + box.height));
  return { x: 0, y: Math.round(bottom - top + 12) };
}

export function clipOf(session: EditorSession): Clip | null {
  return session.sceneId && session.selection.length ? copyLayers(session.settled, session.sceneId, session.selection) : null;
}

/** The selection as thread lines, for pasting as text. */
export const linesOf = (session: EditorSession): string =>
  session.selection.flatMap((id) => threadsOf(session.piece, id).map((thread) => printLine(thread, scopeFor(session.piece, thread)))).join('\n');

/** Pastes into every chosen frame, at the place it was copied from; in its own frame a little aside. */
export function paste(session: EditorSession, clip: Clip): void {
  const targets = session.frameSelection.length ? session.frameSelection : session.sceneId ? [session.sceneId] : [];
  let operations: Operation[] = [];
  let here: string[] = [];
  const many = targets.length > 1;
  for (const scene of targets) {
    const isOrigin = clip.piece === session.piece.head.id && clip.scene === scene;
    if (many && isOrigin) continue;
    const pasted = pasteClip(session.piece, clip, scene, newId, isOrigin ? { x: 16, y: 16 } : { x: 0, y: 0 }, takesStates(session));
    const known = new Set(operations.flatMap((operation) => (operation.op === 'put' && operation.table === 'assets' ? [operation.value.id] : [])));
    operations = [
      ...operations,
      ...pasted.operations.filter((operation) => !(operation.op === 'put' && operation.table === 'assets' && known.has(operation.value.id))),
    ];
    if (scene === session.sceneId) here = pasted.ids;
  }
  if (session.edit(many ? `Paste into ${targets.length} frames` : 'Paste', operations) && here.length) session.select(here);
}

/**
 * Puts thread lines that were copied onto every selected layer. Of several, each leads to the frame that it is called after, where there
 * is one; what they now lead to alike is said. False where the text holds no lines.
 */
export function pasteThreads(session: EditorSession, text: string, byName = true): boolean {
  const { selection, sceneId, piece } = session;
  if (!sceneId || selection.length === 0 || !text.trim()) return false;
  const written = new Map<string, readonly LineThread[]>();
  for (const id of selection) {
    const lines = parseLines(text, scopeOf(piece, sceneId, id));
    if (!lines.ok) return false;
    written.set(id, lines.value);
  }
  const layers = selection.flatMap((id) => piece.layers.get(id) ?? []);
  const byLayer = byName && selection.length > 1 ? threadsByName(piece, layers, (id) => written.get(id)!) : null;
  const own = new Set<string>();
  const alike = new Set<string>();
  const operations = selection.flatMap((id) => {
    const { threads, frame } = byLayer?.get(id) ?? { threads: written.get(id)!, frame: null };
    if (frame !== null) own.add(frame);
    else
      for (const step of threads.flatMap(({ branches }) => branches.flatMap(({ steps }) => steps)))
        if (step.do === 'go' && step.target.to === 'frame' && step.target.frame) alike.add(step.target.frame);
    return addThreads(piece, 'layer', id, threads, newId);
  });
  const nameOf = (frame: string) => piece.scenes.get(frame)?.name ?? 'a frame that is gone';
  if (!session.edit(`Paste threads on ${named(session, selection)}`, operations, 'plain')) return false;
  session.notePasted(operations.flatMap((operation) => (operation.op === 'put' && operation.table === 'threads' ? [operation.value.id] : [])));
  if (own.size) {
    const others = alike.size ? ` The others lead to ${[...alike].map(nameOf).join(', ')}.` : '';
    session.notify(`Those called after a frame lead there: ${[...own].map(nameOf).join(', ')}.${others}`, {
      label: 'As they were copied',
      run: () => (session.undo(), pasteThreads(session, text, false)),
    });
  } else if (selection.length > 1 && alike.size)
    session.notify(`All ${selection.length} now lead to ${[...alike].map(nameOf).join(', ')}. Pair them up (P) to give each its own.`);
  return true;
}
