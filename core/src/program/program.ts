import type { Touched } from '../edit/apply.ts';
import { framesOf, layerIdsOf, layersUnder, threadsOf, type Layer, type Piece, type Scene, type Thread } from '../piece/piece.ts';
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
  /** It reacts to pointers: by a thread or by a look. All else lets the pointer through. */
  readonly catches: boolean;
}

export interface SceneProgram {
  readonly scene: Scene;
  /** Every layer, back to front; a group stands before what is in it. */
  readonly items: readonly Item[];
  readonly byId: ReadonlyMap<string, Item>;
  readonly threads: readonly Thread[];
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
}

export function compile(piece: Piece): Program {
  const frames = framesOf(piece).map((scene) => scene.id);
  return {
    piece,
    scenes: Table.from(frames.map((id) => [id, compileScene(piece, id)!] as const)),
    frames,
    frameAt: placesOf(frames),
    threads: threadsOf(piece, piece.head.id),
  };
}

/** The program of an edited piece, from the program before and what the edit touched. */
export function update(program: Program, piece: Piece, touched: Touched): Program {
  let scenes = program.scenes;
  for (const id of touched.scenes) {
    const compiled = compileScene(piece, id);
    scenes = compiled ? scenes.set(id, compiled) : scenes.delete(id);
  }
  const frames = touched.frames ? framesOf(piece).map((scene) => scene.id) : program.frames;
  return {
    piece,
    scenes,
    frames,
    frameAt: touched.frames ? placesOf(frames) : program.frameAt,
    threads: touched.pieceThreads ? threadsOf(piece, piece.head.id) : program.threads,
  };
}

/** The frame a piece starts on: its first start frame, else its first frame. */
export const startFrame = (program: Program): string | null => program.piece.head.start[0] ?? program.frames[0] ?? null;

/** All frames a piece can start on. */
export const startFrames = (program: Program): readonly string[] =>
  program.piece.head.start.length ? program.piece.head.start : program.frames.slice(0, 1);

const placesOf = (frames: readonly string[]) => new Map(frames.map((id, place) => [id, place]));

function compileScene(piece: Piece, id: string): SceneProgram | null {
  const scene = piece.scenes.get(id);
  if (!scene) return null;
  const byParent = new Map<string | null, Layer[]>();
  if (layerIdsOf(piece, id).size) collectByParent(piece, id, null, byParent);
  const items: Item[] = [];
  for (const layer of byParent.get(null) ?? []) compileLayer(piece, layer, byParent, null, { x: 0, y: 0, shown: true }, items);
  return { scene, items, byId: new Map(items.map((item) => [item.layer.id, item])), threads: threadsOf(piece, id) };
}

function collectByParent(piece: Piece, scene: string, parent: string | null, found: Map<string | null, Layer[]>): void {
  const layers = layersUnder(piece, scene, parent);
  found.set(parent, layers);
  for (const layer of layers) if (layer.type === 'group') collectByParent(piece, scene, layer.id, found);
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
  if (layer.type === 'group') item.box = union(children.map((child) => child.box)) ?? item.box;
  return item;
}

const catchesPointer = (layer: Layer, threads: readonly Thread[]): boolean =>
  layer.looks?.hover !== undefined ||
  layer.looks?.press !== undefined ||
  threads.some((thread) => thread.enabled && (thread.cue.type === 'click' || thread.cue.type === 'hover'));
