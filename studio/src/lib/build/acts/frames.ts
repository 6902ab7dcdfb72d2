import { cutText, duplicateFrame, keyBetween, MOST_NAME, moveFrames, newFrame, type Operation, type Scene } from '@zany/core';
import { newId } from '$lib/client/ids';
import type { EditorSession } from '$lib/client/session.svelte';

/** Frames, their kinds and bundles. Each is one named edit. */

export function addFrame(session: EditorSession, options: { name?: string; draft?: boolean; open?: boolean } = {}): string | null {
  const id = newId();
  const { open = true, ...rest } = options;
  if (!session.edit(rest.draft ? 'New draft frame' : 'New frame', newFrame(session.piece, id, { after: session.sceneId, ...rest }))) return null;
  if (open) session.openScene(id);
  return id;
}

export function copyFrame(session: EditorSession): void {
  if (!session.sceneId) return;
  const { operations, id } = duplicateFrame(session.piece, session.sceneId, newId);
  if (session.edit('Duplicate the frame', operations)) session.openScene(id);
}

export function removeFrames(session: EditorSession): void {
  const ids = session.frameSelection.filter((id) => session.piece.scenes.has(id));
  const first = session.program.frames.findIndex((id) => ids.includes(id));
  const next = session.program.frames.filter((id) => !ids.includes(id));
  if (
    !session.edit(
      ids.length === 1 ? `Delete ${session.piece.scenes.get(ids[0]!)?.name}` : `Delete ${ids.length} frames`,
      ids.map((id) => ({ op: 'remove', table: 'scenes', id }))
    )
  )
    return;
  session.openScene(next[Math.min(first, next.length - 1)] ?? null);
}

export const setFrame = (session: EditorSession, id: string, name: string, path: string, value: unknown): boolean =>
  session.edit(name, [{ op: 'set', table: 'scenes', id, path: [path], ...(value !== undefined && { value }) }]);

const palette = ['#0b7a75', '#b23a26', '#6d3a7c', '#1f5f9e', '#8f5c00', '#4a6b1f'];

/** The kinds that most pieces come to need, until the piece has kinds of its own. */
export const usualKinds = [
  { name: 'success', color: '#0b7a75', mark: '✓' },
  { name: 'error', color: '#b23a26', mark: '✕' },
  { name: 'menu', color: '#6d3a7c', mark: '☰' },
] as const;

/** Gives frames a kind by its name, made where it is new; null takes the kind away. */
/** The kinds of the piece, and those that are usual and not in it yet. */
export function kindsFor({ piece: { head } }: EditorSession) {
  const own = Object.values(head.kinds ?? {});
  return [...own, ...usualKinds.filter((usual) => !own.some(({ name }) => name === usual.name))];
}

/** Has the piece begin with a frame. */
export const startHere = (session: EditorSession, frame: string): boolean =>
  session.edit('Set the start frame', [{ op: 'set', table: 'piece', id: session.piece.head.id, path: ['start'], value: [frame] }]);

export const toggleEnding = (session: EditorSession, { id, ending }: Scene) =>
  setFrame(session, id, ending ? 'No ending' : 'Mark as an ending', 'ending', ending ? undefined : true);

export function setKind(session: EditorSession, frames: readonly string[], name: string | null): void {
  const { head } = session.piece;
  const known = Object.entries(head.kinds ?? {}).find(([, kind]) => kind.name === name)?.[0];
  const id = name === null ? undefined : (known ?? newId());
  const usual = usualKinds.find((kind) => kind.name === name);
  const fresh = usual ?? { name, color: palette[Object.keys(head.kinds ?? {}).length % palette.length], mark: name?.charAt(0).toUpperCase() };
  session.edit(name === null ? 'No kind' : `Mark as ${name}`, [
    ...(id !== undefined && known === undefined
      ? [{ op: 'set' as const, table: 'piece' as const, id: head.id, path: ['kinds', id], value: { ...fresh } }]
      : []),
    ...frames.map((frame): Operation => ({ op: 'set', table: 'scenes', id: frame, path: ['kind'], ...(id !== undefined && { value: id }) })),
  ]);
}

/** Frames in a bundle; in none with null. */
const bundled = (frames: readonly string[], bundle: string | null): Operation[] =>
  frames.map((frame) => ({ op: 'set', table: 'scenes', id: frame, path: ['bundle'], ...(bundle !== null && { value: bundle }) }));

/** Puts frames into a bundle by its name, made where it is new; null takes them out. */
export function setBundle(session: EditorSession, frames: readonly string[], name: string | null): void {
  const bundle = name === null ? null : bundleNamed(session, name);
  session.edit(name === null ? 'Out of the bundle' : `Bundle as ${name}`, [...(bundle?.operations ?? []), ...bundled(frames, bundle?.id ?? null)]);
}

/** Puts frames before another one (null: at the end), and into a bundle or out of all. */
export function putFrames(session: EditorSession, frames: readonly string[], before: string | null, bundle: string | null): void {
  const { piece } = session;
  const moves = frames.includes(before ?? '') ? [] : moveFrames(piece, frames, before);
  const others = frames.filter((frame) => (piece.scenes.get(frame)?.bundle ?? null) !== bundle);
  const into = bundled(others, bundle);
  const name = piece.head.bundles?.[bundle ?? '']?.name;
  if (moves.length || into.length) session.edit(into.length && name !== undefined ? `Move into ${name}` : 'Reorder frames', [...moves, ...into]);
}

export function renameBundle(session: EditorSession, id: string, name: string): void {
  const { head } = session.piece;
  session.edit(`Rename ${head.bundles?.[id]?.name}`, [{ op: 'set', table: 'piece', id: head.id, path: ['bundles', id, 'name'], value: name }]);
}

/** Takes a bundle away; its frames stay. */
export function takeApart(session: EditorSession, id: string): void {
  const { head, scenes } = session.piece;
  const frames = [...scenes.values()].flatMap((scene) => (scene.bundle === id ? scene.id : []));
  session.edit(`Take ${head.bundles?.[id]?.name} apart`, [
    ...bundled(frames, null),
    { op: 'set', table: 'piece', id: head.id, path: ['bundles', id] },
  ]);
}

/** A bundle by its name, with what makes it where there is none yet. */
export function bundleNamed(session: EditorSession, name: string): { id: string; operations: Operation[] } {
  const { head } = session.piece;
  const bundles = Object.entries(head.bundles ?? {});
  const known = bundles.find(([, bundle]) => bundle.name === name)?.[0];
  if (known !== undefined) return { id: known, operations: [] };
  const id = newId();
  const last = bundles
    .map(([, bundle]) => bundle.order)
    .sort()
    .at(-1);
  const value = { name: cutText(name, MOST_NAME), order: keyBetween(last ?? null, null) };
  return { id, operations: [{ op: 'set', table: 'piece', id: head.id, path: ['bundles', id], value }] };
}
