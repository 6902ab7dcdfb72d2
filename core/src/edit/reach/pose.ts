import { setAll } from '../../table.ts';
import { mainOutline } from '../../motion/path.ts';
import type { Layer, Piece } from '../../piece/piece.ts';
import { layerIdsOf } from '../../piece/piece.ts';
import type { Delta, LookName } from '../../piece/schema.ts';
import { update, type Program } from '../../program/program.ts';
import { trackedIn } from '../../run/playhead.ts';

/** How a scene is looked at while it is edited: in one of its states, and layers in one of their looks. */
export interface Posing {
  readonly scene: string;
  /** Null for the values of the layers themselves, which is the first state. */
  readonly state: string | null;
  readonly look: { readonly layers: readonly string[]; readonly name: LookName } | null;
  /** The timeline frame that it stands at; null or not given for the layers as they are without time. */
  readonly frame?: number | null;
  /** Those that a moment is worked out for; all where not given. */
  readonly only?: ((layer: Layer) => boolean) | null;
}

/**
 * The program with the layers of one scene as they are in a state, at a moment and in a look: commands that read where layers are and give
 * operations work on it unchanged. The same program comes back where nothing differs.
 */
export function posed(program: Program, posing: Posing): Program {
  const deltas = deltasOf(program.piece, posing);
  if (deltas.size === 0) return program;
  const { layers: own } = program.piece;
  const layers = setAll(
    own,
    [...deltas].flatMap(([id, list]) => {
      const layer = own.get(id);
      return layer ? [[id, list.reduce(withDelta, layer)] as const] : [];
    })
  );
  const touched = { scenes: new Set([posing.scene]), frames: false, pieceThreads: false, variables: false };
  return update(program, { ...program.piece, layers }, touched);
}

/** What the state and the look change of the scene's own layers; a look's changes come last, as they win. */
function deltasOf(piece: Piece, { scene, state, look, frame = null, only = null }: Posing): Map<string, Delta[]> {
  const found = new Map<string, Delta[]>();
  const add = (layer: string, delta: Delta | undefined) => {
    if (delta && layerIdsOf(piece, scene).has(layer)) found.set(layer, [...(found.get(layer) ?? []), delta]);
  };
  const states = piece.scenes.get(scene)?.states ?? {};
  if (state !== null) for (const [path, delta] of Object.entries(states[state]?.deltas ?? {})) add(path, delta);
  const timeline = piece.scenes.get(scene)?.timeline;
  if (timeline && frame !== null)
    for (const path of new Set(Object.values(timeline.tracks ?? {}).map((track) => track.layer))) {
      const layer = piece.layers.get(path);
      const tracked = layer && (!only || only(layer)) && trackedIn(timeline, path, frame, layer);
      if (tracked) add(path, { ...tracked, ...(tracked.path !== undefined && { path: mainOutline(tracked.path) }) });
    }
  for (const layer of look?.layers ?? []) {
    const shown = piece.layers.get(layer)?.looks?.[look!.name];
    if (!shown) continue;
    add(layer, shown);
    for (const [path, delta] of Object.entries(shown.inside ?? {})) add(path, delta);
  }
  return found;
}

/** A layer with what a state or a look changes of it. */
export function withDelta(layer: Layer, delta: Delta): Layer {
  const { pose, style, letters, text, asset, path, hidden, state } = delta;
  return {
    ...layer,
    ...(pose && { pose: { ...layer.pose, ...pose } }),
    ...(style && { style: { ...layer.style, ...style } }),
    ...(letters && { letters: { ...layer.letters, ...letters } }),
    ...(text !== undefined && { text }),
    ...(asset !== undefined && { asset }),
    ...(path !== undefined && { path }),
    ...(hidden !== undefined && { hidden }),
    ...(state !== undefined && { state }),
  };
}
