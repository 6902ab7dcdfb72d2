import { onceFor } from '../once.ts';
import type { Step } from '../vocabulary/steps/all.ts';
import type { Cue } from '../vocabulary/cues/all.ts';
import { Table } from '../table.ts';
import type { Asset, Head, Layer, PieceJson, Scene, State, Thread as ThreadShape, Variable } from './schema.ts';

/** A thread as the rest of the core sees it: the schema's shape with its unions named. */
export interface Thread extends Omit<ThreadShape, 'cue' | 'branches'> {
  cue: Cue;
  branches: Branch[];
}

/** Tried in order; the first whose condition holds runs. */
export interface Branch {
  if?: string;
  steps: Step[];
}

/** A piece in memory: persistent tables, with the look-ups that edits and programs need kept in step. */
export interface Piece {
  readonly head: Head;
  readonly scenes: Table<Scene>;
  readonly layers: Table<Layer>;
  readonly threads: Table<Thread>;
  readonly variables: Table<Variable>;
  readonly assets: Table<Asset>;
  readonly index: PieceIndex;
}

/** Which layers are in a scene, which layers are in a group, which threads an owner has. */
export interface PieceIndex {
  readonly layersOf: Table<ReadonlySet<string>>;
  readonly childrenOf: Table<ReadonlySet<string>>;
  readonly threadsOf: Table<ReadonlySet<string>>;
}

export type TableName = 'scenes' | 'layers' | 'threads' | 'variables' | 'assets';

export const TABLES: readonly TableName[] = ['scenes', 'layers', 'threads', 'variables', 'assets'];

export type Entity = Scene | Layer | Thread | Variable | Asset;

export type { Asset, Head, Layer, PieceJson, Scene, Variable };

const none: ReadonlySet<string> = new Set();

export const layerIdsOf = (piece: Piece, scene: string): ReadonlySet<string> => piece.index.layersOf.get(scene) ?? none;
export const childIdsOf = (piece: Piece, layer: string): ReadonlySet<string> => piece.index.childrenOf.get(layer) ?? none;
export const threadIdsOf = (piece: Piece, owner: string): ReadonlySet<string> => piece.index.threadsOf.get(owner) ?? none;

/** Document order: the fractional key first, the id where two keys are alike. */
export const byOrder = (a: { order: string; id: string }, b: { order: string; id: string }): number =>
  a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : a.id > b.id ? 1 : 0;

const sorted = <T extends { order: string; id: string }>(table: Table<T>, ids: Iterable<string>): T[] => {
  const found: T[] = [];
  for (const id of ids) {
    const entity = table.get(id);
    if (entity) found.push(entity);
  }
  return found.sort(byOrder);
};

/** The frames in the piece's order. */
export const framesOf = (piece: Piece): readonly Scene[] => scenesOf(piece, 'frame');

const byUse = onceFor((scenes: Piece['scenes']): Record<Scene['use'], readonly Scene[]> => {
  const all = [...scenes.values()].sort(byOrder);
  const of = (wanted: Scene['use']) => all.filter(({ use }) => use === wanted);
  return { frame: of('frame'), part: of('part'), sheet: of('sheet') };
});

/** The frames, parts or sheets in the piece's order; found once for each version of the table. */
export const scenesOf = ({ scenes }: Piece, use: Scene['use']): readonly Scene[] => byUse(scenes)[use];

/** The states of a scene in order, each with its id. */
export const statesOf = (scene: Scene): (State & { id: string })[] =>
  Object.entries(scene.states ?? {})
    .map(([id, state]) => ({ id, ...state }))
    .sort(byOrder);

/** The variables of a scene, or of the whole piece (null), in order. */
export const variablesOf = (piece: Piece, scene: string | null): Variable[] =>
  [...piece.variables.values()].filter((variable) => variable.scene === scene).sort(byOrder);

/** The layers of one parent (null: the scene itself), back to front. */
export const layersUnder = (piece: Piece, scene: string, parent: string | null): Layer[] =>
  sorted(piece.layers, parent === null ? layerIdsOf(piece, scene) : childIdsOf(piece, parent)).filter((layer) => layer.parent === parent);

/** The threads of a layer, a scene or the piece, top to bottom. */
export const threadsOf = (piece: Piece, owner: string): readonly Thread[] => {
  const ids = threadIdsOf(piece, owner);
  return ids.size ? sorted(piece.threads, ids) : NO_THREADS;
};

const NO_THREADS: readonly Thread[] = [];

/** A layer and all in it, outside in. */
export function withDescendants(piece: Piece, id: string): string[] {
  const found = [id];
  for (let i = 0; i < found.length; i++) found.push(...childIdsOf(piece, found[i]!));
  return found;
}

/** The scene a thread stands in; null for one of the whole piece. */
export function sceneOfThread(piece: Piece, thread: Thread): string | null {
  if (thread.on === 'scene') return thread.owner;
  if (thread.on === 'layer') return piece.layers.get(thread.owner)?.scene ?? null;
  return null;
}

export const indexOf = (layers: Table<Layer>, threads: Table<Thread>): PieceIndex => {
  const collect = <T>(values: Iterable<T>, key: (value: T) => string | null, id: (value: T) => string) => {
    const sets = new Map<string, Set<string>>();
    for (const value of values) {
      const at = key(value);
      if (at === null) continue;
      const set = sets.get(at);
      if (set) set.add(id(value));
      else sets.set(at, new Set([id(value)]));
    }
    return Table.from<ReadonlySet<string>>(sets);
  };
  return {
    layersOf: collect(
      layers.values(),
      (layer) => layer.scene,
      (layer) => layer.id
    ),
    childrenOf: collect(
      layers.values(),
      (layer) => layer.parent,
      (layer) => layer.id
    ),
    threadsOf: collect(
      threads.values(),
      (thread) => thread.owner,
      (thread) => thread.id
    ),
  };
};

/** A piece with nothing in it. */
export function emptyPiece(head: Head): Piece {
  const layers = Table.empty<Layer>();
  const threads = Table.empty<Thread>();
  return { head, scenes: Table.empty(), layers, threads, variables: Table.empty(), assets: Table.empty(), index: indexOf(layers, threads) };
}
