import { isInside, layerKind, threadIdsOf, type Layer, type Piece } from '@zany/core';

/** Whether the stage marks where a layer stands: one of those given, or something around or in it; a hit area; one that leads somewhere. */
export const isMarked =
  (piece: Piece, ids: readonly string[]) =>
  (layer: Layer): boolean =>
    layer.type === 'hit' || layerKind(layer).holdsLayers || threadIdsOf(piece, layer.id).size > 0 || ids.some((id) => isInside(piece, layer.id, id));
