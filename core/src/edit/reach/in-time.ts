import { placeOfProperty, properties, propertyKinds } from '../../vocabulary/properties/all.ts';
import { layerIdsOf, type Layer, type Piece } from '../../piece/piece.ts';
import { sectionAt } from '../../run/playhead.ts';
import type { Operation, SetOperation } from '../operation.ts';
import { readPath } from '../path.ts';
import { keysOf } from '../../motion/track.ts';
import { hasKeyAt, setKey, trackOf } from '../time/keys.ts';
import { timelineOperations, trackValue, withKeys, type Timeline } from '../time/timeline.ts';
import type { Tracked } from '../time/types.ts';

/**
 * Which moments an edit of a layer is to touch, with the playhead at one: this moment alone (a key), from here to the end of the
 * section, the whole section, all of time (every key by the same difference), or the layer itself, which shows only where it
 * has no keys.
 */
export type TimeReach = 'moment' | 'on' | 'section' | 'all' | 'rest';

export const TIME_REACHES: readonly TimeReach[] = ['moment', 'on', 'section', 'all', 'rest'];

export const timeReachWords: Readonly<Record<TimeReach, string>> = {
  moment: 'this moment',
  on: 'from here to the end of the section',
  section: 'the whole section',
  all: 'all of time',
  rest: 'its rest value',
};

/** Properties by where a layer keeps them. */
const placed = new Map(properties.map((kind) => [placeOfProperty(kind).join('.'), { property: kind.name, otherwise: kind.neutral }]));

/** A layer's own value of a property, keys aside. */
export function restValue(layer: Layer, property: Tracked): number | string {
  const kind = propertyKinds[property];
  return (readPath(layer, placeOfProperty(kind)).value as number | string | undefined) ?? kind.neutral;
}

/** The reach that an edit has unless another is chosen: a key where there are keys or the section has begun, else all of time. */
export function usualReach(timeline: Timeline, frame: number, operations: readonly Operation[]): TimeReach {
  const begins = sectionAt(timeline, frame)?.from ?? 0;
  const isKeyed = operations.some(
    (operation) =>
      operation.op === 'set' && operation.table === 'layers' && leavesOf(operation).some(({ property }) => trackOf(timeline, operation.id, property))
  );
  return isKeyed || frame > begins ? 'moment' : 'all';
}

/**
 * Sends the edits of layers in a scene to the moments that they reach; `frame` is null where time is not looked at: then what
 * has keys is changed for all of time, so that no edit is swallowed.
 */
export function withReachInTime(
  piece: Piece,
  scene: string,
  frame: number | null,
  reach: TimeReach | null,
  operations: readonly Operation[],
  makeId: () => string
): Operation[] {
  const timeline = piece.scenes.get(scene)?.timeline;
  if (!timeline) return [...operations];
  const how = reach ?? (frame === null ? 'all' : usualReach(timeline, frame, operations));
  const ids = layerIdsOf(piece, scene);
  let next = timeline;
  const others = operations.flatMap((operation): Operation[] => {
    if (operation.op !== 'set' || operation.table !== 'layers' || !ids.has(operation.id) || how === 'rest') return [operation];
    const layer = piece.layers.get(operation.id)!;
    const leaves = leavesOf(operation);
    if (leaves.length === 0) return [operation];
    const open = leaves.filter((leaf) => {
      const has = trackOf(next, layer.id, leaf.property) !== undefined;
      if (!has && how === 'all') return true;
      next = reached(next, layer, leaf, frame ?? 0, how, makeId);
      return false;
    });
    // What has no keys is the layer's own; a whole field of which some has keys is taken apart.
    return open.length === leaves.length
      ? [operation]
      : open.map(({ path, value }) => ({ ...operation, path, ...(value !== undefined && { value }) }));
  });
  return [...others, ...(next === timeline ? [] : timelineOperations(piece, scene, next))];
}

interface Leaf {
  readonly path: string[];
  readonly property: Tracked;
  readonly value: number | string;
}

/** What an operation sets of the properties that can have keys. */
function leavesOf({ path, value }: SetOperation): Leaf[] {
  const found: Leaf[] = [];
  const visit = (at: string[], one: unknown) => {
    const place = placed.get(at.join('.'));
    if (place) found.push({ path: at, property: place.property, value: (one as number | string | undefined) ?? place.otherwise });
    else if (typeof one === 'object' && one !== null) for (const [key, inner] of Object.entries(one)) visit([...at, key], inner);
  };
  visit([...path], value);
  return found;
}

function reached(
  timeline: Timeline,
  layer: Layer,
  { property, value }: Leaf,
  frame: number,
  how: Exclude<TimeReach, 'rest'>,
  makeId: () => string
): Timeline {
  const track = trackOf(timeline, layer.id, property)?.[1];
  const old = (time: number) => (track ? trackValue(track, time) : restValue(layer, property));
  if (old(frame) === value) return timeline;
  const id = makeId();
  const put = (at: Timeline, time: number, to: number | string) =>
    time < 0 || time >= timeline.length ? at : setKey(at, id, layer.id, property, { time, value: to });
  const hasKey = (time: number) => track !== undefined && hasKeyAt(track, time);
  const moved = shiftOf(old(frame), value);
  const section = sectionAt(timeline, frame) ?? { from: 0, to: timeline.length - 1 };
  if (how === 'all') return withValues(timeline, layer.id, property, (key) => moved(key));
  if (how === 'moment') {
    const isFirst = !(track && keysOf(track).some((key) => key.time >= section.from && key.time < frame));
    let next = timeline;
    // Nothing before it changes: neither in the section, nor before where it begins here.
    if (frame > section.from && isFirst) next = put(next, section.from, old(section.from));
    else if (frame === section.from && !(track && keysOf(track).some((key) => key.time < frame))) next = put(next, frame - 1, old(frame - 1));
    return put(next, frame, value);
  }
  const from = how === 'on' ? frame : section.from;
  const { to } = section;
  let next = track ? withValues(timeline, layer.id, property, (key, time) => (time >= from && time <= to ? moved(key) : key)) : timeline;
  if (!hasKey(from)) next = put(next, from, moved(old(from)));
  if (!hasKey(to)) next = put(next, to, moved(old(to)));
  if (!hasKey(from - 1)) next = put(next, from - 1, old(from - 1));
  return hasKey(to + 1) ? next : put(next, to + 1, old(to + 1));
}

/** How another value goes along as one is changed: numbers by the difference, colours and paths where they were the same. */
function shiftOf(from: number | string, to: number | string): (value: number | string) => number | string {
  if (typeof from === 'number' && typeof to === 'number')
    return (value) => (typeof value === 'number' ? Math.round((value + to - from) * 1e4) / 1e4 : value);
  return (value) => (value === from ? to : value);
}

function withValues(
  timeline: Timeline,
  layer: string,
  property: Tracked,
  change: (value: number | string, time: number) => number | string
): Timeline {
  const [id, track] = trackOf(timeline, layer, property)!;
  const keys = keysOf(track).map((key) => ({ ...key, value: change(key.value, key.time) }));
  return { ...timeline, tracks: { ...timeline.tracks, [id]: withKeys(track, keys) } };
}
