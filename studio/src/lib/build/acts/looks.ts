import { colorOf, type Layer, type LookName, type Piece } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';
import { aLook, labelOfLook, looks } from '../look-poses';

/** Looks of layers. Each is one named edit. */

/** A look made from another one; its fill is a shade of that, so that something is seen at once. */
export function addLook(session: EditorSession, id: string, look: LookName | 'rest', from: LookName | 'rest'): void {
  const layer = session.piece.layers.get(id);
  if (!layer || look === 'rest') return;
  const value = freshLook(session.piece, layer, look, from);
  if (session.edit(`Add ${aLook(look)}`, [{ op: 'set', table: 'layers', id, path: ['looks', look], value }], 'plain')) session.openLookOf(id, look);
}

/** The same look for several layers at once, each from what it is at rest; those that have it keep theirs. */
export function addLooks(session: EditorSession, ids: readonly string[], look: LookName): void {
  const layers = ids.flatMap((id) => session.piece.layers.get(id) ?? []).filter((layer) => !layer.looks?.[look]);
  session.edit(
    `Add ${aLook(look)} to ${layers.length} layers`,
    layers.map((layer) => ({
      op: 'set',
      table: 'layers',
      id: layer.id,
      path: ['looks', look],
      value: freshLook(session.piece, layer, look, 'rest'),
    })),
    'plain'
  );
}

/** What a new look of a layer begins as. */
export function freshLook(piece: Piece, layer: Layer, look: LookName, from: LookName | 'rest'): object {
  const source = from === 'rest' ? undefined : layer.looks?.[from];
  const { fill, opacity } = { ...layer.style, ...source?.style };
  const ownFill = colorOf(piece.head, fill);
  const by = looks.find((one) => one.name === look)!.shade;
  if (look === 'disabled') return { ...source, style: { ...source?.style, opacity: 0.4 } };
  if (ownFill) return { ...source, style: { ...source?.style, fill: shade(ownFill, by) } };
  return { ...source, style: { ...source?.style, opacity: (opacity ?? 1) * (look === 'hover' ? 0.85 : 0.7) } };
}

/** Lighter for a positive share, darker for a negative one. */
function shade(color: string, by: number): string {
  const toward = by > 0 ? 255 : 0;
  const part = (at: number) => Math.round(parseInt(color.slice(at, at + 2), 16) + (toward - parseInt(color.slice(at, at + 2), 16)) * Math.abs(by));
  return `#${[1, 3, 5].map((at) => part(at).toString(16).padStart(2, '0')).join('')}${color.slice(7)}`;
}

export function removeLook(session: EditorSession, id: string, look: LookName): void {
  const left = Object.keys(session.piece.layers.get(id)?.looks ?? {}).filter((name) => name !== look);
  if (session.look === look) session.openLookOf(id, 'rest');
  session.edit(
    `Remove the ${labelOfLook(look)} look`,
    [{ op: 'set', table: 'layers', id, path: left.length ? ['looks', look] : ['looks'] }],
    'plain'
  );
}
