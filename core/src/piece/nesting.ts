import { fault, type Fault } from '../result.ts';
import { childIdsOf, layerIdsOf, type Layer, type Piece } from './piece.ts';

/** How deep things may stand in each other, and how much they may come to: what lies beyond nobody can see or work with. */

/** Groups inside each other. */
export const MOST_GROUPS_DEEP = 100;
/** Parts inside each other, counted from a frame; the path of a layer has to hold an id for each. */
export const MOST_PARTS_DEEP = 12;
/** Layers of one scene with those of all its parts. */
export const MOST_LAYERS_SHOWN = 20_000;

/** A layer that stands too deep in groups, or has groups in it that then would. */
export function nestingFault(piece: Piece, layer: Layer): Fault | null {
  let depth = 0;
  for (let at = layer.parent; at !== null && depth <= MOST_GROUPS_DEEP; at = piece.layers.get(at)?.parent ?? null) depth++;
  let level: readonly string[] = [layer.id];
  while (depth <= MOST_GROUPS_DEEP) {
    level = level.flatMap((id) => [...childIdsOf(piece, id)]);
    if (level.length === 0) return null;
    depth++;
  }
  return tooDeep(layer);
}

export const tooDeep = (layer: Layer): Fault =>
  fault('too-deep', ['layers', layer.id, 'parent'], `“${layer.name}” would be in more than ${MOST_GROUPS_DEEP} groups inside each other.`);

/** The first layer of a whole piece that stands too deep; each layer is looked at once. */
export function deepestFault(piece: Piece): Fault | null {
  let level = [...piece.layers.values()].filter((layer) => layer.parent === null);
  for (let depth = 0; level.length; depth++) {
    if (depth > MOST_GROUPS_DEEP) return tooDeep(level[0]!);
    level = level.flatMap((layer) => [...childIdsOf(piece, layer.id)].map((id) => piece.layers.get(id)!));
  }
  return null;
}

interface Weight {
  readonly layers: number;
  readonly depth: number;
}

/**
 * A scene that would show too many layers, or parts too deep in each other. Every scene is weighed once, those in it
 * first; the piece must be without cycles.
 */
export function placingFault(piece: Piece): Fault | null {
  const placed = new Map<string, string[]>();
  for (const layer of piece.layers.values())
    if (layer.part !== undefined && piece.scenes.has(layer.part)) {
      const list = placed.get(layer.scene);
      if (list) list.push(layer.part);
      else placed.set(layer.scene, [layer.part]);
    }
  const weights = new Map<string, Weight>();
  for (const scene of placed.keys()) {
    const { layers, depth } = weigh(piece, placed, weights, scene);
    const name = piece.scenes.get(scene)?.name ?? scene;
    if (depth > MOST_PARTS_DEEP)
      return fault('too-deep', ['scenes', scene], `“${name}” would show parts more than ${MOST_PARTS_DEEP} deep inside each other.`);
    if (layers > MOST_LAYERS_SHOWN)
      return fault('too-large', ['scenes', scene], `“${name}” would show more than ${MOST_LAYERS_SHOWN} layers, with those of its parts.`);
  }
  return null;
}

function weigh(piece: Piece, placed: ReadonlyMap<string, readonly string[]>, weights: Map<string, Weight>, root: string): Weight {
  const open = [root];
  while (open.length) {
    const scene = open.at(-1)!;
    const parts = placed.get(scene) ?? [];
    const missing = weights.has(scene) ? undefined : parts.find((part) => !weights.has(part));
    if (missing !== undefined) {
      open.push(missing);
      continue;
    }
    open.pop();
    if (weights.has(scene)) continue;
    const inside = parts.map((part) => weights.get(part)!);
    weights.set(scene, {
      layers: inside.reduce((sum, one) => sum + one.layers, layerIdsOf(piece, scene).size),
      depth: inside.reduce((deepest, one) => Math.max(deepest, one.depth + 1), 0),
    });
  }
  return weights.get(root)!;
}
