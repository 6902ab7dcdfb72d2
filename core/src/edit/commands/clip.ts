import { Pick } from '@sinclair/typebox';
import {
  byOrder,
  layerIdsOf,
  layersUnder,
  threadsOf,
  withDescendants,
  type Asset,
  type Head,
  type Layer,
  type Piece,
  type Thread,
} from '../../piece/piece.ts';
import { keyedTrack, takesEditsOf } from '../../piece/migrate.ts';
import { FORMAT, HeadSchema, tableSchemas, TimelineSchema } from '../../piece/schema.ts';
import { schemaFault } from '../../piece/read.ts';
import type { Program } from '../../program/program.ts';
import { fail, fault, ok, type Result } from '../../result.ts';
import { framesPerSecond } from '../../run/playhead.ts';
import { takeName } from '../../words.ts';
import { keysBetween } from '../order.ts';
import { timeOf, withLayerTime, type LayerTime } from '../time/along.ts';
import { timelineOperations, withNumbers } from '../time/timeline.ts';
import type { Operation } from '../operation.ts';
import type { MakeId } from '../make-id.ts';
import { originOf, outermost } from './inside.ts';
import { ledTo, renamedDelta, renamedLayer, renamedPath, renamedThread, withSteps } from './remap.ts';
import { bringStyles, stylesUsed } from './swatches.ts';

/** Layers on the way from one place to another, with their threads and the picture files they show. Plain JSON. */
export interface Clip {
  readonly kind: 'zany-thread/clip';
  /** The format that its layers are written in. */
  readonly format: string;
  readonly piece: string;
  readonly scene: string;
  /** Outermost layers have no parent and stand in the space of the scene. */
  readonly layers: readonly Layer[];
  readonly threads: readonly Thread[];
  readonly assets: readonly Asset[];
  /** Swatches and type styles that the layers refer to. */
  readonly styles?: { readonly [K in 'swatches' | 'typeStyles']?: Head[K] };
  /** What of the scene's time belongs to the layers, their places in the space of the scene. */
  readonly time?: LayerTime;
}

/** A clip from a clipboard, whatever page put it there; else why it cannot be pasted. */
export function readClip(text: string): Result<Clip> {
  const unreadable = fault('unreadable', [], 'What is on the clipboard cannot be read.');
  let clip: Partial<Clip> | null;
  try {
    clip = JSON.parse(text) as Partial<Clip> | null;
  } catch {
    return fail(unreadable);
  }
  if (clip?.kind !== 'zany-thread/clip' || ![clip.layers, clip.threads, clip.assets].every(Array.isArray)) return fail(unreadable);
  const { format = 'zany-thread/2', time } = clip;
  if (!takesEditsOf(format))
    return fail(
      fault('other-format', [], `It was copied in ${format}, and this page works in ${FORMAT}: load both pages again, and copy it once more.`)
    );
  if (time && ![time.tracks, time.spans, time.cues].every(Array.isArray)) return fail(unreadable);
  const read = { ...(clip as Clip), format: FORMAT, ...(time && { time: { ...time, tracks: time.tracks.map(keyedTrack) as LayerTime['tracks'] } }) };
  return isSound(read) ? ok(read) : fail(unreadable);
}

/** Whether all that a clip brings could stand in a piece. */
function isSound({ styles = {}, time, ...clip }: Clip): boolean {
  const fits = (schema: Parameters<typeof schemaFault>[0], value: unknown) => schemaFault(schema, value, []) === null;
  const numbered = (list: readonly unknown[]) => Object.fromEntries(list.map((one, i) => [`n${i}`, one]));
  return (
    (['layers', 'threads', 'assets'] as const).every((table) => clip[table].every((one) => fits(tableSchemas[table], one))) &&
    fits(StylesSchema, styles) &&
    (!time || fits(TimelineSchema, { length: time.length, tracks: numbered(time.tracks), spans: numbered(time.spans), cues: numbered(time.cues) }))
  );
}

const StylesSchema = Pick(HeadSchema, ['swatches', 'typeStyles']);

/** Takes layers with all that is in them. Layers inside another one of the list go along with it. */
export function copyLayers(program: Program, scene: string, ids: readonly string[]): Clip {
  const { piece } = program;
  const tops = outermost(piece, ids);
  const items = program.scenes.get(scene)?.byId;
  const layers = tops.sort(byOrder).flatMap((top) => {
    const box = items?.get(top.id);
    const origin = originOf(box?.parent ?? null);
    const inside = withDescendants(piece, top.id).slice(1);
    return [
      { ...top, parent: null, pose: { ...top.pose, x: origin.x + top.pose.x, y: origin.y + top.pose.y } },
      ...inside.map((id) => piece.layers.get(id)!),
    ];
  });
  const time = timeOf(piece.scenes.get(scene)?.timeline, new Set(layers.map((layer) => layer.id)));
  const clip = clipOf(piece, scene, layers);
  if (!time) return clip;
  const origins = new Map(tops.map((top) => [top.id, originOf(items?.get(top.id)?.parent ?? null)]));
  const inScene = time.tracks.map((track) => {
    const by = track.property === 'x' || track.property === 'y' ? (origins.get(track.layer)?.[track.property] ?? 0) : 0;
    return by === 0 ? track : withNumbers(track, (value) => value + by);
  });
  return { ...clip, time: { ...time, tracks: inScene } };
}

export function copyScene(piece: Piece, scene: string): Clip {
  const layers = [...layerIdsOf(piece, scene)].map((id) => piece.layers.get(id)!);
  const clip = clipOf(piece, scene, layers);
  return { ...clip, threads: [...clip.threads, ...threadsOf(piece, scene)] };
}

const clipOf = (piece: Piece, scene: string, layers: readonly Layer[]): Clip => ({
  kind: 'zany-thread/clip',
  format: FORMAT,
  piece: piece.head.id,
  scene,
  layers,
  threads: layers.flatMap((layer) => threadsOf(piece, layer.id)),
  assets: [...new Set(layers.flatMap((layer) => layer.asset ?? []))].flatMap((id) => piece.assets.get(id) ?? []),
  styles: stylesUsed(piece.head, layers),
});

/**
 * Puts a clip into a scene, in front of all that is there, moved by an offset. Copies remember what they are copies of, and get
 * names of their own. In their own scene they can take along what its states change of the originals.
 */
export function pasteClip(
  piece: Piece,
  clip: Clip,
  scene: string,
  makeId: MakeId,
  offset = { x: 0, y: 0 },
  withStates = false
): { operations: Operation[]; ids: string[] } {
  const samePiece = clip.piece === piece.head.id;
  const names = new Map(clip.layers.map((layer) => [layer.id, makeId()]));
  const tops = clip.layers.filter((layer) => layer.parent === null);
  const front = layersUnder(piece, scene, null).at(-1)?.order ?? null;
  const keys = keysBetween(front, null, tops.length);
  const taken = new Set([...layerIdsOf(piece, scene)].map((id) => piece.layers.get(id)!.name));
  const layers = clip.layers.map((layer) => {
    const { copyOf: _old, ...rest } = layer;
    const copy: Layer = {
      ...renamedLayer(rest, names),
      id: names.get(layer.id)!,
      scene,
      parent: layer.parent === null ? null : names.get(layer.parent)!,
    };
    if (samePiece) copy.copyOf = layer.id;
    if (layer.parent !== null) return copy;
    const pose = { ...layer.pose, x: layer.pose.x + offset.x, y: layer.pose.y + offset.y };
    return { ...copy, name: takeName(taken, layer.name), order: keys[tops.indexOf(layer)]!, pose };
  });
  const threads = clip.threads.flatMap((thread) => {
    const owner = names.get(thread.owner);
    return owner === undefined ? [] : [{ ...renamedThread(forPiece(thread, samePiece), names), id: makeId(), owner }];
  });
  const assets = clip.assets.filter((asset) => !piece.assets.has(asset.id));
  return {
    ids: tops.map((layer) => names.get(layer.id)!),
    operations: [
      ...putAll('assets', assets),
      ...bringStyles(piece, clip.styles ?? {}),
      ...putAll('layers', layers),
      ...putAll('threads', threads),
      ...(withStates && samePiece && scene === clip.scene ? inStates(piece, scene, names, layers) : []),
      ...inTime(piece, clip, scene, names, makeId, offset),
    ],
  };
}

/** Keys, spans and cues of what was copied, for the copies; a scene without time gets some. */
function inTime(
  piece: Piece,
  { time, layers }: Clip,
  scene: string,
  names: ReadonlyMap<string, string>,
  makeId: MakeId,
  offset: { x: number; y: number }
): Operation[] {
  if (!time) return [];
  const tops = new Set(layers.filter((layer) => layer.parent === null).map((layer) => layer.id));
  const next = withLayerTime(piece.scenes.get(scene)?.timeline, time, framesPerSecond({ piece }), makeId, {
    pathOf: (old) => renamedPath(old, names),
    shiftOf: (old) => (tops.has(old) ? { dx: offset.x, dy: offset.y } : { dx: 0, dy: 0 }),
  });
  return timelineOperations(piece, scene, next);
}

/** What the states of a scene change of layers, for their copies too; what they move goes as far from where the copy stands. */
function inStates(piece: Piece, scene: string, names: ReadonlyMap<string, string>, copies: readonly Layer[]): Operation[] {
  const byId = new Map(copies.map((copy) => [copy.id, copy]));
  return Object.entries(piece.scenes.get(scene)?.states ?? {}).flatMap(([state, { deltas }]) =>
    Object.entries(deltas).flatMap(([path, delta]): Operation[] => {
      const [original = '', ...inside] = path.split('/');
      const copy = byId.get(names.get(original) ?? '');
      const old = piece.layers.get(original);
      if (!copy || !old) return [];
      const { pose } = delta;
      const moved = pose && {
        ...pose,
        ...(pose.x !== undefined && { x: pose.x + copy.pose.x - old.pose.x }),
        ...(pose.y !== undefined && { y: pose.y + copy.pose.y - old.pose.y }),
      };
      const value = renamedDelta(moved && inside.length === 0 ? { ...delta, pose: moved } : delta, names);
      return [{ op: 'set', table: 'scenes', id: scene, path: ['states', state, 'deltas', [copy.id, ...inside].join('/')], value }];
    })
  );
}

/** A whole scene's clip into an empty scene: keys, places, where it leads and the scene's own threads stay. Gives the new ids by the old ones as well. */
export function pasteScene(
  clip: Clip,
  scene: string,
  makeId: MakeId,
  others: Iterable<readonly [string, string]> = []
): { operations: Operation[]; names: ReadonlyMap<string, string> } {
  const names = new Map([...others, [clip.scene, scene], ...clip.layers.map((layer) => [layer.id, makeId()] as const)]);
  const layers = clip.layers.map((layer) => ({
    ...renamedLayer(layer, names),
    id: names.get(layer.id)!,
    scene,
    parent: layer.parent === null ? null : names.get(layer.parent)!,
    copyOf: layer.id,
  }));
  const threads = clip.threads.map((thread) => ({
    // A copy leads where its original does, to the frame that it was copied on as well: what leads home on the first one does on the next.
    ...ledTo(renamedThread(thread, names), scene, clip.scene),
    id: makeId(),
    owner: names.get(thread.owner)!,
  }));
  return { operations: [...putAll('layers', layers), ...putAll('threads', threads)], names };
}

/** In another piece the frames of this one are not there: such targets are left to be chosen. */
const forPiece = (thread: Thread, samePiece: boolean): Thread =>
  samePiece
    ? thread
    : withSteps(thread, (step) => (step.do === 'go' && step.target.to === 'frame' ? { ...step, target: { to: 'frame', frame: null } } : step));

export const putAll = (table: 'assets' | 'layers' | 'threads', values: readonly { id: string }[]): Operation[] =>
  values.map((value) => ({ op: 'put', table, value }));
