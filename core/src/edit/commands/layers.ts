import { layerKind } from '../../vocabulary/layers/all.ts';
import { byOrder, layersUnder, withDescendants, type Layer, type Piece } from '../../piece/piece.ts';
import type { Letters, Style } from '../../piece/schema.ts';
import { union, type Rect } from '../../program/geometry.ts';
import type { Item, Program } from '../../program/program.ts';
import { keysBetween } from '../order.ts';
import type { Operation } from '../operation.ts';
import { timeOf, withoutLayers } from '../time/along.ts';
import { mapped, timelineOperations, withNumbers } from '../time/timeline.ts';
import { inPlaceOf, originOf, outermost, type Origin } from './inside.ts';

/** Edits of layers, as operations. Rectangles are in CSS pixels of the scene. */

export function newLayer(piece: Piece, layer: Omit<Layer, 'order' | 'parent'>): Operation {
  const front = layersUnder(piece, layer.scene, null).at(-1)?.order ?? null;
  return { op: 'put', table: 'layers', value: { ...layer, parent: null, order: keysBetween(front, null, 1)[0]! } as Layer };
}

export const moveLayers = (piece: Piece, ids: readonly string[], dx: number, dy: number): Operation[] =>
  dx === 0 && dy === 0 ? [] : outermost(piece, ids).flatMap((layer) => setPose(layer, { ...layer.pose, x: layer.pose.x + dx, y: layer.pose.y + dy }));

/** Sets what changes of a place and size; how a layer is turned stays. */
const setPose = (layer: Layer, pose: Rect): Operation[] => {
  const to = { x: tidy(pose.x), y: tidy(pose.y), width: Math.max(1, tidy(pose.width)), height: Math.max(1, tidy(pose.height)) };
  return (['x', 'y', 'width', 'height'] as const)
    .filter((key) => to[key] !== layer.pose[key])
    .map((key) => ({ op: 'set', table: 'layers', id: layer.id, path: ['pose', key], value: to[key] }));
};

/** Places keep at most a hundredth of a pixel, so that sums of drags stay readable. */
const tidy = (n: number) => Math.round(n * 100) / 100;

/** Stretches layers as the rectangle around them goes from `from` to `to`; what is in groups goes along. */
export function resizeLayers(program: Program, scene: string, ids: readonly string[], from: Rect, to: Rect): Operation[] {
  const items = program.scenes.get(scene)?.byId;
  const sx = to.width / from.width;
  const sy = to.height / from.height;
  const stretch = (box: Rect): Rect => ({
    x: to.x + (box.x - from.x) * sx,
    y: to.y + (box.y - from.y) * sy,
    width: box.width * sx,
    height: box.height * sy,
  });
  return outermost(program.piece, ids).flatMap((layer) => {
    const item = items?.get(layer.id);
    return item ? placeItem(item, stretch, originOf(item.parent)) : [];
  });
}

/** Gives one layer its place and size by numbers. */
export function setBox(program: Program, scene: string, id: string, to: Rect): Operation[] {
  const item = program.scenes.get(scene)?.byId.get(id);
  return item ? resizeLayers(program, scene, [id], item.box, to) : [];
}

function placeItem(item: Item, place: (box: Rect) => Rect, origin: Origin): Operation[] {
  const box = place(item.box);
  const pose = { x: box.x - origin.x, y: box.y - origin.y, width: box.width, height: box.height };
  const inside = item.children.flatMap((child) => placeItem(child, place, { x: tidy(box.x), y: tidy(box.y) }));
  return [...setPose(item.layer, pose), ...inside];
}

export type Edge = 'left' | 'center' | 'right' | 'top' | 'middle' | 'bottom';

/** Lines layers up with the rectangle around them; a single one with its frame. */
export function alignLayers(program: Program, scene: string, ids: readonly string[], edge: Edge): Operation[] {
  const { boxes, layers } = boxesOf(program, scene, ids);
  const frame = program.scenes.get(scene)?.scene;
  const around = layers.length === 1 && frame ? { x: 0, y: 0, width: frame.width, height: frame.height } : union(boxes);
  if (!around) return [];
  return layers.flatMap((layer, i) => {
    const { dx, dy } = shiftTo(boxes[i]!, around, edge);
    return moveLayers(program.piece, [layer.id], dx, dy);
  });
}

function shiftTo(box: Rect, around: Rect, edge: Edge): { dx: number; dy: number } {
  switch (edge) {
    case 'left':
      return { dx: around.x - box.x, dy: 0 };
    case 'center':
      return { dx: around.x + around.width / 2 - (box.x + box.width / 2), dy: 0 };
    case 'right':
      return { dx: around.x + around.width - (box.x + box.width), dy: 0 };
    case 'top':
      return { dx: 0, dy: around.y - box.y };
    case 'middle':
      return { dx: 0, dy: around.y + around.height / 2 - (box.y + box.height / 2) };
    case 'bottom':
      return { dx: 0, dy: around.y + around.height - (box.y + box.height) };
  }
}

/** Makes the gaps between layers alike, the outermost two staying where they are. */
export function spreadLayers(program: Program, scene: string, ids: readonly string[], axis: 'x' | 'y'): Operation[] {
  const { boxes, layers } = boxesOf(program, scene, ids);
  if (layers.length < 3) return [];
  const side = axis === 'x' ? 'width' : 'height';
  const sorted = layers.map((layer, i) => ({ layer, box: boxes[i]! })).sort((a, b) => a.box[axis] - b.box[axis]);
  const [first, last] = [sorted[0]!.box, sorted.at(-1)!.box];
  const taken = sorted.reduce((sum, { box }) => sum + box[side], 0);
  const gap = (last[axis] + last[side] - first[axis] - taken) / (sorted.length - 1);
  let at = first[axis];
  return sorted.flatMap(({ layer, box }) => {
    const shift = at - box[axis];
    at += box[side] + gap;
    return moveLayers(program.piece, [layer.id], axis === 'x' ? shift : 0, axis === 'y' ? shift : 0);
  });
}

function boxesOf(program: Program, scene: string, ids: readonly string[]): { layers: Layer[]; boxes: Rect[] } {
  const items = program.scenes.get(scene)?.byId;
  const layers = outermost(program.piece, ids).filter((layer) => items?.has(layer.id));
  return { layers, boxes: layers.map((layer) => items!.get(layer.id)!.box) };
}

export type Way = 'front' | 'forward' | 'backward' | 'back';

/** Moves layers in their stacking order, each among the layers of its own group or scene. */
export function restack(piece: Piece, ids: readonly string[], way: Way): Operation[] {
  const parents = new Map<string | null, Layer[]>();
  for (const layer of outermost(piece, ids)) parents.set(layer.parent, [...(parents.get(layer.parent) ?? []), layer]);
  return [...parents.values()].flatMap((layers) => restackIn(piece, layers.sort(byOrder), way));
}

function restackIn(piece: Piece, layers: readonly Layer[], way: Way): Operation[] {
  const { scene, parent } = layers[0]!;
  const all = layersUnder(piece, scene, parent);
  const moving = new Set(layers.map((layer) => layer.id));
  const rest = all.filter((layer) => !moving.has(layer.id));
  const below = rest.filter((layer) => byOrder(layer, layers[0]!) < 0).length;
  const above = rest.filter((layer) => byOrder(layer, layers.at(-1)!) < 0).length;
  // What lies locked at the very back, a page picture or a ground, stays behind.
  const ground = layers.some((layer) => layer.locked) ? 0 : rest.findIndex((layer) => !layer.locked);
  const least = ground < 0 ? rest.length : ground;
  const at = { back: least, backward: Math.max(Math.min(least, below), below - 1), forward: Math.min(rest.length, above + 1), front: rest.length }[
    way
  ];
  return placeAmong(rest, at, layers);
}

/** Puts layers at a place of a parent: before the one at `at`, back to front. On the screen they stay where they are. */
export function moveInto(program: Program, ids: readonly string[], scene: string, parent: string | null, at: number): Operation[] {
  const { piece } = program;
  const items = program.scenes.get(scene)?.byId;
  const layers = outermost(piece, ids).sort(byOrder);
  const moving = new Set(ids);
  const rest = layersUnder(piece, scene, parent).filter((layer) => !moving.has(layer.id));
  const to = originOf(parent === null ? null : (items?.get(parent) ?? null));
  return placeAmong(rest, at, layers).flatMap((operation, i): Operation[] => {
    const layer = layers[i]!;
    if (layer.parent === parent) return [operation];
    const from = originOf(items?.get(layer.id)?.parent ?? null);
    const pose = { ...layer.pose, x: tidy(layer.pose.x + from.x - to.x), y: tidy(layer.pose.y + from.y - to.y) };
    const value: Layer = { ...layer, parent, pose, order: (operation as { value: string }).value };
    return [{ op: 'put', table: 'layers', value }, ...shiftInside(piece, layer, from.x - to.x, from.y - to.y)];
  });
}

function placeAmong(rest: readonly Layer[], at: number, layers: readonly Layer[]): Operation[] {
  const keys = keysBetween(rest[at - 1]?.order ?? null, rest[at]?.order ?? null, layers.length);
  return layers.map((layer, i) => ({ op: 'set', table: 'layers', id: layer.id, path: ['order'], value: keys[i] }));
}

/** Places that states and keyframes give a layer, in the space of what it is in, moved along as that space changes. */
const shiftInside = (piece: Piece, layer: Layer, dx: number, dy: number): Operation[] => [
  ...shiftInStates(piece, layer, dx, dy),
  ...shiftInTime(piece, layer, dx, dy),
];

function shiftInTime(piece: Piece, layer: Layer, dx: number, dy: number): Operation[] {
  const timeline = piece.scenes.get(layer.scene)?.timeline;
  if (!timeline?.tracks) return [];
  const tracks = mapped(timeline.tracks, (track) => {
    const by = track.layer !== layer.id ? 0 : track.property === 'x' ? dx : track.property === 'y' ? dy : 0;
    return by === 0 ? track : withNumbers(track, (value) => tidy(value + by));
  });
  return timelineOperations(piece, layer.scene, { ...timeline, tracks });
}

function shiftInStates(piece: Piece, layer: Layer, dx: number, dy: number): Operation[] {
  return Object.entries(piece.scenes.get(layer.scene)?.states ?? {}).flatMap(([state, { deltas }]) => {
    const pose = deltas[layer.id]?.pose;
    return (
      [
        ['x', dx],
        ['y', dy],
      ] as const
    ).flatMap(([axis, by]): Operation[] =>
      pose?.[axis] === undefined || by === 0
        ? []
        : [{ op: 'set', table: 'scenes', id: layer.scene, path: ['states', state, 'deltas', layer.id, 'pose', axis], value: tidy(pose[axis] + by) }]
    );
  });
}

/** Puts layers into a new group, at the place of the frontmost of them. */
export function groupLayers(program: Program, scene: string, ids: readonly string[], groupId: string): Operation[] {
  const { piece } = program;
  const layers = outermost(piece, ids).sort(byOrder);
  const { boxes } = boxesOf(program, scene, ids);
  const around = union(boxes);
  if (layers.length === 0 || !around) return [];
  const { parent, order } = inPlaceOf(piece, layers);
  const items = program.scenes.get(scene)!.byId;
  const outer = parent === null ? { x: 0, y: 0 } : originOf(items.get(parent)!);
  const group: Layer = {
    id: groupId,
    scene,
    parent,
    order,
    name: 'Group',
    type: 'group',
    pose: { ...around, x: around.x - outer.x, y: around.y - outer.y },
    style: {},
  };
  const keys = keysBetween(null, null, layers.length);
  const inside = layers.flatMap((layer, i) => {
    const { box } = items.get(layer.id)!;
    const here = layerKind(layer).holdsLayers ? originOf(items.get(layer.id)!) : box;
    const pose = { ...layer.pose, x: here.x - around.x, y: here.y - around.y };
    const value: Layer = { ...layer, parent: groupId, order: keys[i]!, pose };
    const shifts = shiftInside(piece, layer, pose.x - layer.pose.x, pose.y - layer.pose.y);
    return [{ op: 'put' as const, table: 'layers' as const, value }, ...shifts];
  });
  return [{ op: 'put', table: 'layers', value: group }, ...inside];
}

/** Takes groups apart; what was in them keeps its place on the screen and in the stacking order. The group's threads go. */
export function ungroupLayers(piece: Piece, ids: readonly string[]): { operations: Operation[]; ids: string[] } {
  const operations: Operation[] = [];
  const freed: string[] = [];
  for (const group of outermost(piece, ids)) {
    if (group.type !== 'group') continue;
    const siblings = layersUnder(piece, group.scene, group.parent);
    const at = siblings.findIndex((layer) => layer.id === group.id);
    const inside = layersUnder(piece, group.scene, group.id);
    const keys = keysBetween(group.order, siblings[at + 1]?.order ?? null, inside.length);
    inside.forEach((layer, i) => {
      const pose = { ...layer.pose, x: layer.pose.x + group.pose.x, y: layer.pose.y + group.pose.y };
      operations.push({ op: 'put', table: 'layers', value: { ...layer, parent: group.parent, order: keys[i]!, pose } as Layer });
      operations.push(...shiftInside(piece, layer, group.pose.x, group.pose.y));
      freed.push(layer.id);
    });
    operations.push({ op: 'remove', table: 'layers', id: group.id });
  }
  return { operations, ids: freed };
}

/** Takes layers away, with what is in them and what they have in time. */
export function removeLayers(piece: Piece, ids: readonly string[]): Operation[] {
  const layers = outermost(piece, ids);
  const gone = new Set(layers.flatMap((layer) => withDescendants(piece, layer.id)));
  const inTime = [...new Set(layers.map((layer) => layer.scene))].flatMap((scene) => {
    const timeline = piece.scenes.get(scene)?.timeline;
    return timeline && timeOf(timeline, gone) ? timelineOperations(piece, scene, withoutLayers(timeline, gone)) : [];
  });
  return [...inTime, ...layers.map((layer): Operation => ({ op: 'remove', table: 'layers', id: layer.id }))];
}

/** Sets one property of layers. An undefined value takes it away. */
export function restyle(
  piece: Piece,
  ids: readonly string[],
  path: readonly [keyof Style] | readonly ['letters', keyof Letters],
  value: unknown
): Operation[] {
  const inner = path.length === 1 ? ['style', path[0]] : [...path];
  return ids.flatMap((id): Operation[] => {
    const layer = piece.layers.get(id);
    if (!layer || layer.type === 'group' || layer.type === 'hit') return [];
    return [{ op: 'set', table: 'layers', id, path: inner, ...(value !== undefined && { value }) }];
  });
}
