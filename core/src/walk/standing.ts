import type { ValueType } from '../expression/ast.ts';
import { variableType } from '../expression/scope.ts';
import { textParts } from '../expression/text.ts';
import { sceneOfThread, type Layer, type Piece, type Scene, type Thread } from '../piece/piece.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import type { Place } from './place.ts';

/** An expression where it stands in a piece. */
export interface Standing {
  readonly stored: string;
  /** The scene whose names it can use. */
  readonly scene: string | null;
  /** What it has to give; null for anything. */
  readonly wanted: ValueType | null;
  readonly place: Place;
  /** It is only read: part of a text. */
  readonly isShown?: true;
  /** Begins a sentence: `A condition of Pay`. */
  readonly what: string;
}

/** Every expression of a piece: in conditions, steps, bindings and texts. */
export function* expressionsOf({ piece, scenes }: Program): Iterable<Standing> {
  for (const thread of piece.threads.values()) yield* inThread(piece, thread);
  for (const scene of scenes.values()) for (const layer of speaking(scene)) yield* inLayer(piece, layer);
  for (const scene of piece.scenes.values()) yield* inScene(piece, scene);
}

const known = new WeakMap<SceneProgram, readonly Layer[]>();

/** The layers of a scene that can hold expressions at all; a scene that no edit touched keeps its answer. */
function speaking(scene: SceneProgram): readonly Layer[] {
  let layers = known.get(scene);
  if (!layers) {
    layers = scene.items.map(({ layer }) => layer).filter(({ bindings, text, looks, fills }) => bindings || looks || fills || text?.includes('{'));
    known.set(scene, layers);
  }
  return layers;
}

function* inThread(piece: Piece, thread: Thread): Iterable<Standing> {
  const scene = sceneOfThread(piece, thread);
  const place = { scene, ...(thread.on === 'layer' && { layer: thread.owner }), thread: thread.id };
  const owner =
    (thread.on === 'layer' ? piece.layers.get(thread.owner)?.name : scene === null ? piece.head.name : piece.scenes.get(scene)?.name) ?? 'A thread';
  for (const branch of thread.branches) {
    if (branch.if !== undefined) yield { stored: branch.if, scene, wanted: 'yes/no', place, what: `A condition of ${owner}` };
    for (const step of branch.steps) {
      const at = { scene, place, what: `A step of ${owner}` };
      if (step.do === 'set') yield { ...at, stored: step.value, wanted: step.variable === null ? null : variableType(piece, step.variable) };
      if (step.do === 'move') for (const stored of [step.x, step.y]) yield { ...at, stored, wanted: 'number' };
      if (step.do === 'tween') yield { ...at, stored: step.value, wanted: 'number' };
    }
  }
}

const bound: Record<string, ValueType> = { shown: 'yes/no', enabled: 'yes/no', selected: 'yes/no', state: 'text' };

function* inLayer(piece: Piece, layer: Layer): Iterable<Standing> {
  const place = { scene: layer.scene, layer: layer.id };
  if (layer.bindings)
    for (const [what, stored] of Object.entries(layer.bindings))
      if (stored !== undefined)
        yield { stored, scene: layer.scene, wanted: bound[what] ?? 'number', place, what: `What ${what} of ${layer.name} follows` };
  const looks = Object.values(layer.looks ?? {});
  for (const text of [layer.text, ...looks.map((look) => look?.text), ...Object.values(layer.fills ?? {}).map((fill) => fill.text)])
    yield* inText(text, layer.scene, place, layer.name);
  for (const look of looks)
    for (const [path, delta] of Object.entries(look?.inside ?? {}))
      yield* inText(delta.text, layer.scene, place, `${nameAt(piece, path)} in a look of ${layer.name}`);
}

function* inScene(piece: Piece, scene: Scene): Iterable<Standing> {
  const place = { scene: scene.id };
  if (scene.stateIs !== undefined) yield { stored: scene.stateIs, scene: scene.id, wanted: 'text', place, what: `The state of ${scene.name}` };
  for (const state of Object.values(scene.states ?? {}))
    for (const [path, delta] of Object.entries(state.deltas))
      yield* inText(delta.text, scene.id, path.includes('/') ? place : { ...place, layer: path }, `${nameAt(piece, path)} in ${state.name}`);
}

const nameAt = (piece: Piece, path: string) => piece.layers.get(path.split('/').at(-1)!)?.name ?? 'a layer';

function* inText(text: string | undefined, scene: string, place: Place, whose: string): Iterable<Standing> {
  if (!text?.includes('{')) return;
  for (const part of textParts(text))
    if (part.expression !== undefined) yield { stored: part.expression, scene, wanted: null, place, isShown: true, what: `The text of ${whose}` };
}
