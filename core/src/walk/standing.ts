import type { ExpressionFault, ValueType } from '../expression/ast.ts';
import { checkTypes } from '../expression/check.ts';
import { parseExpression } from '../expression/parse.ts';
import { typesIn, variableType } from '../expression/scope.ts';
import { textParts } from '../expression/text.ts';
import { onceFor } from '../once.ts';
import type { Layer, Piece, Scene, Thread } from '../piece/piece.ts';
import { BINDABLE } from '../piece/bindable.ts';
import { GIVES, type Gives } from '../fields/scalars.ts';
import { fieldsOf, type Field } from '../piece/visit.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { asBefore, inEach } from './again.ts';
import { ownerOf, placeOfThread, threadsIn } from './at-thread.ts';
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
  /** The variable that is set to it. */
  readonly sets?: string;
  /** What of a layer's place, size or opacity follows it, as `id.property`. */
  readonly poses?: string;
  /** What it brings into the state that it names: a scene. */
  readonly puts?: string;
  /** Begins a sentence: `A condition of Pay`. */
  readonly what: string;
}

/** Every expression of a piece. */
export function standingExpressions(program: Program): readonly Standing[] {
  const { threads, scenes, head } = program.piece;
  return asBefore(program, 'expressions', [threads, scenes, head, program.variables, spoken(program)], () => [...expressionsOf(program)]);
}

/** All of layers that expressions, and what is compared, can depend on; the same map as long as that is so. */
export const spoken = (program: Program): ReadonlyMap<string, string> => inEach(program, 'spoken', spokenIn);

const spokenIn = onceFor((scene: SceneProgram): string => {
  const layers = new Map(scene.items.map(({ layer }) => [layer.id, layer] as const));
  const around = (layer: Layer): readonly unknown[] => {
    const parent = layer.parent === null ? undefined : layers.get(layer.parent);
    return [layer.hidden, layer.disabled, ...(parent ? [parent.id, ...around(parent)] : [])];
  };
  return JSON.stringify(
    scene.items.map(({ layer }) => {
      const { id, name, bindings, text, looks, fills, field, drag, part, pose } = layer;
      return [id, name, bindings, text, looks, fills, field, drag, part, ...(field || drag ? around(layer) : []), ...(drag ? [pose] : [])];
    })
  );
});

/** Every expression of a piece: in conditions, steps, bindings and texts. */
function* expressionsOf({ piece, scenes }: Program): Iterable<Standing> {
  for (const thread of threadsIn(piece)) if (computingIn(thread).length) yield* inThread(piece, thread);
  for (const scene of scenes.values()) for (const layer of speaking(scene)) yield* inLayer(piece, layer);
  for (const scene of piece.scenes.values()) yield* inScene(piece, scene);
}

/** The layers of a scene that can hold expressions at all. */
const speaking = onceFor((scene: SceneProgram): readonly Layer[] =>
  scene.items.map(({ layer }) => layer).filter(({ bindings, text, looks, fills }) => bindings || looks || fills || text?.includes('{'))
);

function* inThread(piece: Piece, thread: Thread): Iterable<Standing> {
  const fields = computingIn(thread);
  const place = placeOfThread(piece, thread);
  const owner = ownerOf(piece, thread);
  for (const field of fields)
    yield* standingIn(piece, field, place.scene, place, field.path.includes('steps') ? `A step of ${owner}` : `A condition of ${owner}`);
}

/** The fields of a thread that hold expressions. */
const computingIn = onceFor((thread: Thread): readonly Field[] => fieldsOf('threads', thread).filter(({ reads }) => reads !== null));

function* inLayer(piece: Piece, layer: Layer): Iterable<Standing> {
  const place = { scene: layer.scene, layer: layer.id };
  for (const field of fieldsOf('layers', layer)) {
    const [where, , , path] = field.path;
    const inside = where === 'looks' && path !== undefined ? `${nameAt(piece, path)} in a look of ${layer.name}` : layer.name;
    const what = where === 'bindings' ? `What ${field.path[1]} of ${layer.name} follows` : `The text of ${inside}`;
    const poses = where === 'bindings' && POSES.has(field.path[1]!) ? { poses: `${layer.id}.${field.path[1]}` } : {};
    const puts = where === 'bindings' && field.path[1] === 'state' && layer.part !== undefined ? { puts: layer.part } : {};
    for (const standing of standingIn(piece, field, layer.scene, place, what)) yield { ...standing, ...poses, ...puts };
  }
}

const POSES: ReadonlySet<string> = new Set(BINDABLE.filter((what) => !['shown', 'enabled', 'selected', 'state'].includes(what)));

function* inScene(piece: Piece, scene: Scene): Iterable<Standing> {
  const place = { scene: scene.id };
  for (const field of fieldsOf('scenes', scene)) {
    const [where, state, , path] = field.path;
    if (where !== 'states' || path === undefined)
      for (const standing of standingIn(piece, field, scene.id, place, `The state of ${scene.name}`)) yield { ...standing, puts: scene.id };
    else {
      const at = path.includes('/') ? place : { ...place, layer: path };
      yield* standingIn(piece, field, scene.id, at, `The text of ${nameAt(piece, path)} in ${scene.states![state!]!.name}`);
    }
  }
}

const nameAt = (piece: Piece, path: string) => piece.layers.get(path.split('/').at(-1)!)?.name ?? 'a layer';

/** The expression that a field holds, or those in its text. */
function* standingIn(piece: Piece, field: Field, scene: string | null, place: Place, what: string): Iterable<Standing> {
  const { reads, value } = field;
  if (reads === null || value === null) return;
  if (reads === 'expression') yield { stored: value, scene, wanted: wantedOf(piece, field), place, what, ...setBy(field) };
  else if (value.includes('{'))
    for (const { expression } of textParts(value))
      if (expression !== undefined) yield { stored: expression, scene, wanted: null, place, isShown: true, what };
}

/** The variable that is set to what a field gives. */
const setBy = ({ schema, holder }: Field): Pick<Standing, 'sets'> =>
  schema[GIVES] === 'variable' && typeof holder['variable'] === 'string' ? { sets: holder['variable'] } : {};

/** Whether an expression of a thread is faulty, which rules of its own tell. */
export const isFaulty = (piece: Piece, thread: Thread): boolean =>
  computingIn(thread).some((field) => {
    const isRead = field.reads === 'expression' && field.value !== null;
    return isRead && faultOf(piece, field.value!, wantedOf(piece, field)) !== null;
  });

/** What is wrong with a stored expression, or null. */
export function faultOf(piece: Piece, stored: string, wanted: ValueType | null): ExpressionFault | null {
  const parsed = parseExpression(stored);
  if (!parsed.ok) return parsed.error;
  return checkTypes(parsed.value, typesIn(piece), wanted)[0] ?? null;
}

/** What an expression has to give; null for anything. */
function wantedOf(piece: Piece, { schema, holder }: Field): ValueType | null {
  const gives = schema[GIVES] as Gives;
  if (gives !== 'variable') return gives;
  const variable = holder['variable'];
  return typeof variable === 'string' ? variableType(piece, variable) : null;
}
