import { withHolders } from '../piece/holders.ts';
import { layerIdsOf, scenesOf, statesOf, type Layer, type Piece, type Scene } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import type { Rect } from '../program/geometry.ts';
import { boundsOf, type Screen, type Shown } from '../run/resolve.ts';
import { stillScreen } from '../run/still.ts';
import { wordsOfAll } from '../same.ts';
import { isEqual } from './equal.ts';
import { changeSentences, sceneOf, type Sides } from './field-sentences.ts';

/** What of a layer is otherwise, in words. */
export interface LayerChange {
  readonly layer: string;
  readonly name: string;
  readonly kind: 'added' | 'removed' | 'changed';
  readonly what: readonly string[];
}

/** A scene in one of its states, where it is seen otherwise: what differs in each version, in the space of the scene. */
export interface LookChange {
  /** Null is the scene as it begins; states that one version lacks are told as such instead. */
  readonly state: string | null;
  readonly name: string | null;
  readonly before: readonly Rect[];
  readonly after: readonly Rect[];
}

export interface SceneChange {
  readonly scene: string;
  readonly name: string;
  readonly use: Scene['use'];
  readonly kind: 'added' | 'removed' | 'changed' | 'same but for what is in it';
  /** Of the scene itself. */
  readonly what: readonly string[];
  readonly layers: readonly LayerChange[];
  readonly looks: readonly LookChange[];
}

/** Every frame, part and sheet that differs, in the order of the later version, then what is gone. */
export function scenesBetween(before: Program, after: Program): readonly SceneChange[] {
  const sides = { before: before.piece, after: after.piece };
  const uses = ['frame', 'part', 'sheet'] as const;
  const all = uses.flatMap((use) => [...scenesOf(after.piece, use), ...scenesOf(before.piece, use).filter(({ id }) => !after.piece.scenes.has(id))]);
  const own = new Map(all.map(({ id }) => [id, ownChanges(sides, id)] as const));
  const paints = !isEqual([before.piece.head.swatches, before.piece.head.typeStyles], [after.piece.head.swatches, after.piece.head.typeStyles]);
  const values = !isEqual(variablesIn(before.piece), variablesIn(after.piece));
  const touched = touchedScenes(sides, own);
  return all.flatMap(({ id, name, use }): SceneChange[] => {
    const { what, layers } = own.get(id)!;
    const [was, is] = [sides.before.scenes.get(id), sides.after.scenes.get(id)];
    if (!was || !is) return [{ scene: id, name, use, kind: is ? 'added' : 'removed', what: [], layers: [], looks: [] }];
    const looks = touched.has(id) || paints || values ? looksBetween(before, after, was, is) : [];
    const isOwn = what.length > 0 || layers.length > 0;
    if (!isOwn && looks.length === 0) return [];
    return [{ scene: id, name, use, kind: isOwn ? 'changed' : 'same but for what is in it', what, layers, looks }];
  });
}

const variablesIn = (piece: Piece): unknown => Object.fromEntries(piece.variables.entries());

type Own = Pick<SceneChange, 'what' | 'layers'>;

function ownChanges(sides: Sides, scene: string): Own {
  const [was, is] = [sides.before.scenes.get(scene), sides.after.scenes.get(scene)];
  if (!was || !is) return { what: [], layers: [] };
  const what = changeSentences(sides, is, was, is);
  const ids = new Set([...layerIdsOf(sides.after, scene), ...layerIdsOf(sides.before, scene)]);
  return { what, layers: [...ids].flatMap((id) => layerChange(sides, sides.before.layers.get(id), sides.after.layers.get(id)) ?? []) };
}

function layerChange(sides: Sides, was: Layer | undefined, is: Layer | undefined): LayerChange | null {
  if (was === is) return null;
  const { id, name } = (is ?? was)!;
  if (!was || !is) return { layer: id, name, kind: is ? 'added' : 'removed', what: [] };
  const what = changeSentences(sides, sceneOf(sides, is), was, is);
  return what.length ? { layer: id, name, kind: 'changed', what } : null;
}

/** Scenes that differ, and those in which one of them stands. */
function touchedScenes(sides: Sides, own: ReadonlyMap<string, Own>): ReadonlySet<string> {
  const touched = new Set(
    [...own].filter(([id, { what, layers }]) => what.length || layers.length || !sides.before.scenes.has(id)).map(([id]) => id)
  );
  return withHolders([sides.before, sides.after], touched);
}

function looksBetween(before: Program, after: Program, was: Scene, is: Scene): LookChange[] {
  const begins = (scene: Scene) => scene.initial ?? statesOf(scene)[0]?.id;
  const looks = [{ id: null, name: null }, ...statesOf(is).filter(({ id }) => was.states?.[id] && !(begins(was) === id && begins(is) === id))];
  return looks.flatMap(({ id: state, name }) => {
    const boxes = boxesBetween(stillScreen(before, was.id, { state }), stillScreen(after, is.id, { state }));
    return boxes ? [{ state, name, ...boxes }] : [];
  });
}

/** What is seen otherwise on two screens; null where nothing is. */
function boxesBetween(was: Screen | null, is: Screen | null): Pick<LookChange, 'before' | 'after'> | null {
  if (!was || !is) return null;
  const [a, b] = [seenOn(was), seenOn(is)];
  const changed = (one: ReadonlyMap<string, Seen>, other: ReadonlyMap<string, Seen>) =>
    [...one].filter(([key, { signs }]) => other.get(key)?.signs !== signs).map(([, { box }]) => box);
  const grounds = (screen: Screen) =>
    screen.surfaces.map(({ scene, background, scrim, x, y, width, height }) => ({ scene, background, scrim, x, y, width, height }));
  const whole = ({ width, height }: Screen): Rect => ({ x: 0, y: 0, width, height });
  const isGround = !isEqual(grounds(was), grounds(is)) || was.width !== is.width || was.height !== is.height;
  const [before, after] = [
    [...changed(a, b), ...(isGround ? [whole(was)] : [])],
    [...changed(b, a), ...(isGround ? [whole(is)] : [])],
  ];
  return before.length || after.length ? { before, after } : null;
}

interface Seen {
  readonly box: Rect;
  readonly signs: string;
}

/** Every layer that is seen, by surface and key, with what is seen of it in its own surroundings. */
function seenOn(screen: Screen): Map<string, Seen> {
  const seen = new Map<string, Seen>();
  for (const { scene, all } of screen.surfaces)
    for (const shown of all) seen.set(`${scene} ${shown.node.key}`, { box: boundsOf(shown), signs: signsOf(shown) });
  return seen;
}

const signsOf = ({ x, y, width, height, rotation, scale, scroll, opacity, style, letters, text, asset, path, node, parent }: Shown): string =>
  JSON.stringify([
    x,
    y,
    width,
    height,
    rotation,
    scale,
    scroll,
    opacity,
    wordsOfAll(style),
    wordsOfAll(letters),
    text,
    asset,
    path,
    node.layer.type,
    parent?.node.key,
  ]);
