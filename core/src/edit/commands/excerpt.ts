import { framesOf, layerIdsOf, sceneOfThread, type Piece } from '../../piece/piece.ts';
import { FORMAT, type PieceJson } from '../../piece/schema.ts';

/** One scene with all that it takes to be looked at: sheets it carries, parts in it, pictures, variables; no threads. */
export function excerpt(piece: Piece, scene: string): PieceJson {
  const scenes = withAllIn(piece, [scene]);
  return { ...onlyWith(piece, scenes), start: [scene] };
}

/**
 * Some frames as a piece of their own, with their threads; one that leads to a frame that is not among them leads nowhere. What
 * people keep with a piece for themselves (walks, loose ends set aside) stays behind.
 *
 * @param start the frame it begins on; the first of the piece's own that is among them if none is given
 */
export function framesAlone(piece: Piece, frames: ReadonlySet<string>, start: string | null = null): PieceJson {
  const scenes = withAllIn(piece, [...frames]);
  const { walks: _walks, aside: _aside, asked: _asked, ...json } = onlyWith(piece, scenes);
  const threads = [...piece.threads.values()].filter((thread) => thread.on === 'piece' || scenes.has(sceneOfThread(piece, thread) ?? ''));
  const begins = [start, ...piece.head.start, ...framesOf(piece).map(({ id }) => id)].find((id) => id !== null && frames.has(id));
  return { ...json, start: begins ? [begins] : [], threads: byId(threads) };
}

/** Some scenes with the sheets they carry and the parts in them. */
function withAllIn(piece: Piece, some: readonly string[]): Set<string> {
  const scenes = new Set(some);
  for (const id of scenes) {
    for (const { sheet } of piece.scenes.get(id)?.carries ?? []) if (piece.scenes.has(sheet)) scenes.add(sheet);
    for (const layer of layerIdsOf(piece, id)) {
      const part = piece.layers.get(layer)?.part;
      if (part !== undefined && piece.scenes.has(part)) scenes.add(part);
    }
  }
  return scenes;
}

const byId = <T extends { id: string }>(list: readonly T[]) => Object.fromEntries(list.map((entity) => [entity.id, entity]));

/** Some scenes with their layers, pictures and variables; no threads. */
function onlyWith(piece: Piece, scenes: ReadonlySet<string>): PieceJson {
  const layers = [...scenes].flatMap((id) => [...layerIdsOf(piece, id)].map((layer) => piece.layers.get(layer)!));
  const assets = new Set(JSON.stringify(layers).match(/[0-9a-f]{64}/g) ?? []);
  return {
    format: FORMAT,
    ...piece.head,
    scenes: byId([...scenes].map((id) => piece.scenes.get(id)!)),
    layers: byId(layers),
    threads: {},
    variables: byId([...piece.variables.values()].filter((variable) => variable.scene === null || scenes.has(variable.scene))),
    assets: byId([...piece.assets.values()].filter((asset) => assets.has(asset.id))),
  };
}
