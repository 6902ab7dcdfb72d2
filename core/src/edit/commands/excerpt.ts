import { layerIdsOf, type Piece } from '../../piece/piece.ts';
import { FORMAT, type PieceJson } from '../../piece/schema.ts';

/** One scene with all that it takes to be looked at: sheets it carries, parts in it, pictures, variables; no threads. */
export function excerpt(piece: Piece, scene: string): PieceJson {
  const scenes = new Set([scene]);
  for (const id of scenes) {
    for (const { sheet } of piece.scenes.get(id)?.carries ?? []) if (piece.scenes.has(sheet)) scenes.add(sheet);
    for (const layer of layerIdsOf(piece, id)) {
      const part = piece.layers.get(layer)?.part;
      if (part !== undefined && piece.scenes.has(part)) scenes.add(part);
    }
  }
  const layers = [...scenes].flatMap((id) => [...layerIdsOf(piece, id)].map((layer) => piece.layers.get(layer)!));
  const assets = new Set(JSON.stringify(layers).match(/[0-9a-f]{64}/g) ?? []);
  const byId = <T extends { id: string }>(list: readonly T[]) => Object.fromEntries(list.map((entity) => [entity.id, entity]));
  return {
    format: FORMAT,
    ...piece.head,
    start: [scene],
    scenes: byId([...scenes].map((id) => piece.scenes.get(id)!)),
    layers: byId(layers),
    threads: {},
    variables: byId([...piece.variables.values()].filter((variable) => variable.scene === null || scenes.has(variable.scene))),
    assets: byId([...piece.assets.values()].filter((asset) => assets.has(asset.id))),
  };
}
