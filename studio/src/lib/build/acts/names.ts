import { layerKinds, takeName, type LayerType } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';

/** Names of layers, and of selections in the names of edits. */

const capital = (words: string) => words[0]!.toUpperCase() + words.slice(1);

/** `Box 3`: the first number that no layer of the scene has. */
export const freeLayerName = (session: EditorSession, type: LayerType): string =>
  takeName(new Set(session.scene?.items.map((item) => item.layer.name)), `${capital(layerKinds[type].words)} 1`);

export const named = (session: EditorSession, ids: readonly string[]): string =>
  ids.length === 1 ? (session.piece.layers.get(ids[0]!)?.name ?? 'layer') : `${ids.length} layers`;

export const nameOf = (session: EditorSession, ids: readonly string[], otherwise: string): string =>
  (ids.length === 1 && session.piece.layers.get(ids[0]!)?.name) || otherwise;
