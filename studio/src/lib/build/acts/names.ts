import { takeName, type LayerType } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';

/** Names of layers, and of selections in the names of edits. */

export const names: Record<LayerType, string> = {
  box: 'Box',
  oval: 'Oval',
  line: 'Line',
  path: 'Path',
  text: 'Text',
  picture: 'Picture',
  video: 'Video',
  sound: 'Sound',
  field: 'Field',
  group: 'Group',
  placement: 'Placement',
  hit: 'Hit area',
};

/** `Box 3`: the first number that no layer of the scene has. */
export const freeLayerName = (session: EditorSession, type: LayerType): string =>
  takeName(new Set(session.scene?.items.map((item) => item.layer.name)), `${names[type]} 1`);

export const named = (session: EditorSession, ids: readonly string[]): string =>
  ids.length === 1 ? (session.piece.layers.get(ids[0]!)?.name ?? 'layer') : `${ids.length} layers`;

export const nameOf = (session: EditorSession, ids: readonly string[], otherwise: string): string =>
  (ids.length === 1 && session.piece.layers.get(ids[0]!)?.name) || otherwise;
