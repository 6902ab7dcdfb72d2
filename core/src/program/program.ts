import { onceFor } from '../once.ts';
import { isLoose, layerKind } from '../vocabulary/layers/all.ts';
import type { Touched } from '../edit/touched.ts';
import type { Timeline } from '../piece/schema.ts';
import {
  framesOf,
  layerIdsOf,
  layersUnder,
  statesOf,
  threadsOf,
  type Layer,
  type Piece,
  type Scene,
  type Thread,
  type Variable,
} from '../piece/piece.ts';
import { isPointed } from '../vocabulary/cues/all.ts';
import type { Ast, ExpressionFault } from '../expression/ast.ts';
import type { Result } from '../result.ts';
import { areSame } from '../same.ts';
import { Table } from '../table.ts';
import { union, type Rect } from './geometry.ts';

/** A layer as it will run: where it is in the scene, what is in it, what it is wired to. */
export interface Item {
  readonly layer: Layer;
  /** In the scene's space. A group's box is what its layers take up. */
  readonly box: Rect;
  readonly parent: Item | null;
  readonly children: readonly Item[];
  readonly threads: readonly Thread[];
  /** Neither it nor a group around it is hidden. */
  readonly shown: boolean;
  /** It reacts to pointers: by a thread, a look, as a field or as something to drag. All else lets the pointer through. */
  readonly catches: boolean;
}

export interface SceneProgram {
  readonly scene: Scene;
  /** Every layer, back to front; a group stands before what is in it. */
  readonly items: readonly Item[];
  readonly byId: ReadonlyMap<string, Item>;
  readonly threads: readonly Thread[];
  /** In order; empty for a scene that always looks the same. */
  readonly states: readonly { readonly id: string; readonly name: string }[];
  /** The state a run begins in; null without states. */
  readonly initial: string | null;
  readonly variables: readonly Variable[];
}

/** A piece made ready to run. Scenes an edit did not touch keep their identity from one program to the next. */
export interface Program {
  readonly piece: Piece;
  readonly scenes: Table<SceneProgram>;
  /** Ids in the piece's order. */
  readonly frames: readonly string[];
  /** Place of a frame in `frames`. */
  readonly frameAt: ReadonlyMap<string, number>;
  readonly threads: readonly Thread[];
  /** Variables of the whole piece and of scenes, by id. */
  readonly variables: ReadonlyMap<string, Variable>;
  /** Reads a stored expression. */
  readonly parse: ParseExpression;
  /** Timeline frames at which playheads stop on their way, where they stop at more than usual, for whoever wants to see what is there. */
  readonly marksOf?: (timeline: Timeline) => Iterable<number>;
}

/** How expressions are read: by the parser, or from trees made before, which is how an exported page does without one. */
export type ParseExpression = (stored: string) => Result<Ast, ExpressionFault>;

/** A program of a piece, with a given way to read its expressions. */
export function compileWith(piece: Piece, parse: ParseExpression): Program {
  const frames = framesOf(piece).map((scene) => scene.id);
  const variables = new Map(piece.variables.entries());
  return {
    piece,
    scenes: Table.from([...piece.scenes.keys()].map((id) => [id, compileScene(piece, id, variables)!] as const)),
    frames,
    frameAt: placesOf(frames),
    threads: threadsOf(piece, piece.head.id),
    variables,
    parse,
  };
}

/** The program of an edited piece, from the program before and what the edit touched. */
export function update(program: Program, piece: Piece, touched: Touched): Program {
  let scenes = program.scenes;
  const variables = touched.variables ? new Map(piece.variables.entries()) : program.variables;
  const isSceneAlone = piece.layers === program.piece.layers && piece.threads === program.piece.threads;
  for (const id of touched.scenes) {
    const old = program.scenes.get(id);
    const compiled = old && isSceneAlone ? recompiled(piece, old, variables) : compileScene(piece, id, variables, old);
    scenes = compiled ? scenes.set(id, compiled) : scenes.delete(id);
  }
  const frames = touched.frames
    ? kept(
        framesOf(piece).map((scene) => scene.id),
        program.frames
      )
    : program.frames;
  return {
    piece,
    scenes,
    frames,
    frameAt: frames === program.frames ? program.frameAt : placesOf(frames),
    threads: touched.pieceThreads ? threadsOf(piece, piece.head.id) : program.threads,
    variables,
    parse: program.parse,
  };
}

/** A list, or the one before where the two are the same. */
const kept = (list: readonly string[], old: readonly string[]): readonly string[] => (areSame(list, old) ? old : list);

/** The frame a piece starts on: its first start frame, else its first frame. */
export const startFrame = (program: Program): string | null => program.piece.head.start[0] ?? program.frames[0] ?? null;

/** All frames a piece can start on. */
export const startFrames = (program: Program): readonly string[] =>
  program.piece.head.start.length ? program.piece.head.start : program.frames.slice(0, 1);

const placesOf = (frames: readonly string[]) => new Map(frames.map((id, place) => [id, place]));

/** Compiles a scene; what has not changed since `old` keeps its identity, so that views need not draw it anew. */
function compileScene(piece: Piece, id: string, variables: ReadonlyMap<string, Variable>, old?: SceneProgram): SceneProgram | null {
  const scene = piece.scenes.get(id);
  if (!scene) return null;
  const byParent = new Map<string | null, Layer[]>();
  if (layerIdsOf(piece, id).size) collectByParent(piece, id, null, byParent);
  const items: Item[] = [];
  for (const layer of byParent.get(null) ?? []) {
    const known = old?.byId.get(layer.id);
    if (known && known.parent === null && known.layer === layer && isUnchanged(piece, known, byParent)) keep(known, items);
    else compileLayer(piece, layer, byParent, null, { x: 0, y: 0, shown: true }, items);
  }
  return {
    items,
    byId: new Map(items.map((item) => [item.layer.id, item])),
    threads: threadsOf(piece, id),
    ...ownOf(scene, variables, old),
  };
}

/** The same where nothing but the scene itself is another one: its layers and threads keep their identity, alone and as lists. */
function recompiled(piece: Piece, old: SceneProgram, variables: ReadonlyMap<string, Variable>): SceneProgram | null {
  const scene = piece.scenes.get(old.scene.id);
  return scene ? { ...old, ...ownOf(scene, variables, old) } : null;
}

/** What a scene has by itself. */
function ownOf(scene: Scene, variables: ReadonlyMap<string, Variable>, old: SceneProgram | undefined) {
  const isOld = old !== undefined && old.scene.states === scene.states;
  const states = isOld ? old.states : scene.states ? statesOf(scene).map(({ id, name }) => ({ id, name })) : none;
  return { scene, states, initial: scene.initial ?? states[0]?.id ?? null, variables: variablesByScene(variables).get(scene.id) ?? none };
}

/** The variables of each scene; sorted out once for each version of them all. */
const variablesByScene = onceFor((variables: ReadonlyMap<string, Variable>): ReadonlyMap<string, readonly Variable[]> => {
  const made = new Map<string, Variable[]>();
  for (const variable of variables.values()) {
    if (variable.scene === null) continue;
    const list = made.get(variable.scene);
    if (list) list.push(variable);
    else made.set(variable.scene, [variable]);
  }
  return made;
});

function collectByParent(piece: Piece, scene: string, parent: string | null, found: Map<string | null, Layer[]>): void {
  const layers = layersUnder(piece, scene, parent);
  found.set(parent, layers);
  for (const layer of layers) if (layerKind(layer).holdsLayers) collectByParent(piece, scene, layer.id, found);
}

/** Whether an item, whose layer is the same as before, has the same threads, and in it all is the same. */
function isUnchanged(piece: Piece, { layer, threads, children }: Item, byParent: Map<string | null, Layer[]>): boolean {
  const threadsNow = threadsOf(piece, layer.id);
  const layersNow = byParent.get(layer.id) ?? none;
  return (
    layersNow.length === children.length &&
    areSame(threads, threadsNow) &&
    children.every((child, i) => child.layer === layersNow[i] && isUnchanged(piece, child, byParent))
  );
}

function keep(item: Item, items: Item[]): void {
  items.push(item);
  for (const child of item.children) keep(child, items);
}

interface Around {
  readonly x: number;
  readonly y: number;
  readonly shown: boolean;
}

function compileLayer(piece: Piece, layer: Layer, byParent: Map<string | null, Layer[]>, parent: Item | null, around: Around, items: Item[]): Item {
  const threads = threadsOf(piece, layer.id);
  const shown = around.shown && layer.hidden !== true;
  const children: Item[] = [];
  const { pose } = layer;
  const item = {
    layer,
    box: { x: around.x + pose.x, y: around.y + pose.y, width: pose.width, height: pose.height },
    parent,
    children,
    threads,
    shown,
    catches: catchesPointer(layer, threads),
  };
  items.push(item);
  for (const child of byParent.get(layer.id) ?? [])
    children.push(compileLayer(piece, child, byParent, item, { x: item.box.x, y: item.box.y, shown }, items));
  if (isLoose(layer)) item.box = union(children.map((child) => child.box)) ?? item.box;
  return item;
}

const catchesPointer = (layer: Layer, threads: readonly Thread[]): boolean => {
  if (layer.hit?.how === 'none') return false;
  const { looks } = layer;
  return (
    layer.hit?.how === 'block' ||
    layer.type === 'field' ||
    layer.drag !== undefined ||
    looks?.hover !== undefined ||
    looks?.press !== undefined ||
    looks?.selectedHover !== undefined ||
    threads.some((thread) => thread.enabled && isPointed(thread.cue))
  );
};

const none: readonly never[] = [];
