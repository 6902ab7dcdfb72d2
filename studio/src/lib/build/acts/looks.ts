import { colorOf, type Layer, type LookName, type Operation, type Piece } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';
import { aLook, labelOfLook, looks } from '../look-poses';

/** Looks of layers. Each is one named edit. */

/**
 * The same look for layers, each made from another one of its own where it has that, else from what it is at rest; its fill is a shade,
 * so that something is seen at once. Those that have it keep theirs.
 */
export function addLook(session: EditorSession, ids: readonly string[], look: LookName, from: LookName | 'rest'): void {
  const layers = ids.flatMap((id) => session.piece.layers.get(id) ?? []).filter((layer) => !layer.looks?.[look]);
  const operations = layers.map((layer): Operation => {
    const value = freshLook(session.piece, layer, look, from);
    return { op: 'set', table: 'layers', id: layer.id, path: ['looks', look], value };
  });
  const name = `Add ${aLook(look)}${layers.length > 1 ? ` to ${layers.length} layers` : ''}`;
  if (session.edit(name, operations, 'plain')) session.openLookOf(ids, look);
}

/** The looks that a button that can be chosen is seen in, each with the one that it is made from. */
const OF_A_BUTTON = [
  ['hover', 'rest'],
  ['press', 'hover'],
  ['selected', 'rest'],
  ['selectedHover', 'selected'],
] as const satisfies readonly (readonly [LookName, LookName | 'rest'])[];

/** Those of them that a layer does not have yet. */
export const looksLeft = ({ looks: own }: Layer, all: readonly LookName[] = OF_A_BUTTON.map(([look]) => look)): LookName[] =>
  all.filter((look) => own?.[look] === undefined);

/** Gives layers looks that they do not have, each made from another one. */
export function lookOperations(piece: Piece, layers: readonly Layer[], wanted: readonly LookName[]): Operation[] {
  return layers.flatMap((layer) => {
    let now = layer;
    return OF_A_BUTTON.filter(([look]) => wanted.includes(look) && !layer.looks?.[look]).map(([look, from]): Operation => {
      const value = freshLook(piece, now, look, from);
      now = { ...now, looks: { ...now.looks, [look]: value } };
      return { op: 'set', table: 'layers', id: layer.id, path: ['looks', look], value };
    });
  });
}

/** All looks of a button that can be chosen, at once; the last of them is open then. */
export function addAllLooks(session: EditorSession, ids: readonly string[]): void {
  const layers = ids.flatMap((id) => session.piece.layers.get(id) ?? []);
  const operations = lookOperations(
    session.piece,
    layers,
    OF_A_BUTTON.map(([look]) => look)
  );
  if (operations.length && session.edit(`Add ${operations.length} looks`, operations, 'plain')) session.openLookOf(ids, 'selectedHover');
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

export function removeLook(session: EditorSession, ids: readonly string[], look: LookName): void {
  if (session.look === look) session.openLookOf(ids, 'rest');
  const operations = ids.flatMap((id): Operation[] => {
    const names = Object.keys(session.piece.layers.get(id)?.looks ?? {});
    if (!names.includes(look)) return [];
    return [{ op: 'set', table: 'layers', id, path: names.length > 1 ? ['looks', look] : ['looks'] }];
  });
  session.edit(`Remove the ${labelOfLook(look)} look`, operations, 'plain');
}
