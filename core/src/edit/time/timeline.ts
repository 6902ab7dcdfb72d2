import type { Ending, Piece, Timeline, TrackOf } from './types.ts';
import { framesPerSecond, sectionsOf, type Section } from '../../run/playhead.ts';
import { mainOutline } from '../../motion/path.ts';
import { keysById, keysOf, valueAt, type Keyframe, type KeyOf } from '../../motion/track.ts';
import type { Operation } from '../operation.ts';

/**
 * What is done to time by hand. A command takes a timeline and gives another one; `timelineOperations` turns the difference into
 * operations on just what differs, so that two people's edits of one scene meet. Times are timeline frames, counted from 0.
 */

export type Tracks = Readonly<Record<string, TrackOf>>;

/** A timeline that begins to be one: two seconds in which nothing happens yet. */
export const freshTimeline = (fps: number): Timeline => ({ length: Math.max(1, Math.round(fps * 2)) });

/** Most timeline frames that a scene can have. */
export const MOST_FRAMES = 1_000_000;

/** The section that a label opens; null is what comes before the first label. */
export const sectionOf = (timeline: Timeline, label: string | null): Section | undefined =>
  sectionsOf(timeline).find((section) => section.label === label);

/** The operations that make a scene's timeline another one; undefined takes it away. */
export function timelineOperations(piece: Piece, scene: string, next: Timeline | undefined): Operation[] {
  const old = piece.scenes.get(scene)?.timeline;
  const set = (path: readonly string[], value: unknown): Operation => ({
    op: 'set',
    table: 'scenes',
    id: scene,
    path: ['timeline', ...path],
    ...(value !== undefined && { value }),
  });
  if (!old || !next) return old === next ? [] : [set([], next && without(next))];
  const operations: Operation[] = [];
  const single = singleKeys(old, next);
  for (const field of ['length', 'loop', 'autoplay'] as const) if (old[field] !== next[field]) operations.push(set([field], next[field]));
  for (const map of ['labels', 'tracks', 'spans', 'cues'] as const) {
    const [before, after] = [old[map], next[map]] as [Record<string, object> | undefined, Record<string, object> | undefined];
    if (before === after) continue;
    const ids = Object.keys(after ?? {});
    if (!before || ids.length === 0) {
      if (before || ids.length) operations.push(set([map], ids.length ? after : undefined));
      continue;
    }
    for (const id of ids) {
      const keys = map === 'tracks' ? single.get(id) : undefined;
      if (keys) for (const key of keys) operations.push(set([map, id, 'keys', key], next.tracks![id]!.keys[key]));
      else if (!isSame(before[id], after![id])) operations.push(set([map, id], after![id]));
    }
    for (const id of Object.keys(before)) if (after![id] === undefined) operations.push(set([map, id], undefined));
  }
  return operations;
}

/** Keys that one edit sets one by one; where more differ, their tracks are set as a whole: every operation has its price. */
const MOST_SINGLE_KEYS = 60;

/** By track, the ids of the keys that differ where nothing else does, those that go last, so that it always has some; none where too many do. */
function singleKeys({ tracks: before = {} }: Timeline, { tracks: after = {} }: Timeline): ReadonlyMap<string, readonly string[]> {
  const found = new Map<string, string[]>();
  let count = 0;
  for (const [track, is] of Object.entries(after)) {
    const was = before[track];
    if (!was || was === is || was.layer !== is.layer || was.property !== is.property) continue;
    const ids = new Set([...Object.keys(is.keys), ...Object.keys(was.keys)]);
    const changed = [...ids].filter((id) => !isSame(was.keys[id], is.keys[id]));
    count += changed.length;
    if (count > MOST_SINGLE_KEYS) return new Map();
    found.set(track, changed);
  }
  return found;
}

/** Fields that say nothing are not kept. */
const without = (timeline: Timeline): Timeline =>
  Object.fromEntries(
    Object.entries(timeline).filter(([, value]) => value !== undefined && !(typeof value === 'object' && Object.keys(value).length === 0))
  ) as Timeline;

const isSame = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b);

export const setLength = (timeline: Timeline, length: number): Timeline => ({ ...timeline, length: clampTime(length, 1, MOST_FRAMES) });

export const clampTime = (time: number, least: number, most: number): number => Math.max(least, Math.min(most, Math.round(time)));

/** Another number of timeline frames a second for the whole piece: everything stays at its second. */
export function framesPerSecondOperations(piece: Piece, fps: number): Operation[] {
  const old = framesPerSecond({ piece });
  if (fps === old || !(fps >= 1)) return [];
  const by = (time: number) => Math.round((time * fps) / old);
  const scenes = [...piece.scenes.values()].flatMap((scene): Operation[] =>
    scene.timeline ? timelineOperations(piece, scene.id, { ...mapTimes(scene.timeline, by, by), length: Math.max(1, by(scene.timeline.length)) }) : []
  );
  return [{ op: 'set', table: 'piece', id: piece.head.id, path: ['fps'], value: fps }, ...scenes];
}

/**
 * A timeline with everything at other times. `time` gives the new time of what stands at one, null where it goes; `last` gives
 * that of the last frame of a span.
 */
export function mapTimes(timeline: Timeline, time: (at: number) => number | null, last: (at: number) => number | null = time): Timeline {
  const at = <T extends { time: number }>(one: T): T | null => {
    const to = time(one.time);
    return to === null ? null : to === one.time ? one : { ...one, time: to };
  };
  return {
    ...timeline,
    ...(timeline.labels && { labels: mapped(timeline.labels, at) }),
    ...(timeline.cues && { cues: mapped(timeline.cues, at) }),
    ...(timeline.tracks && {
      tracks: mapped(timeline.tracks, (track) => {
        const old = keysOf(track);
        const keys: KeyOf[] = [];
        for (const key of old) {
          const to = at(key);
          if (to) keys.push(to);
        }
        if (keys.length === old.length && keys.every((key, i) => key === old[i])) return track;
        return keys.length === 0 ? null : withKeys(track, keys);
      }),
    }),
    ...(timeline.spans && {
      spans: mapped(timeline.spans, (span) => {
        const [from, to] = [time(span.from), last(span.to)];
        return from === null || to === null || to < from ? null : { ...span, from, to };
      }),
    }),
  };
}

export function mapped<T, U>(map: Readonly<Record<string, T>>, change: (one: T, id: string) => U | null): Record<string, U> {
  const found: Record<string, U> = {};
  for (const [id, one] of Object.entries(map)) {
    const to = change(one, id);
    if (to !== null) found[id] = to;
  }
  return found;
}

/** A track with other keys; of two at one time the later in the list stands, see `keysById`. */
export const withKeys = (track: TrackOf, keys: readonly (Keyframe & { readonly id?: string })[]): TrackOf => ({ ...track, keys: keysById(keys) });

/** A track with other numbers; what is no number stays. */
export const withNumbers = (track: TrackOf, change: (value: number) => number): TrackOf => ({
  ...track,
  keys: mapped(track.keys, (key) => (typeof key.value === 'number' ? { ...key, value: change(key.value) } : key)),
});

/** The value of a track at a time, as a key there would have it: of outlines that are faded into each other the one that is seen most. */
export function trackValue(track: TrackOf, time: number): number | string {
  const value = valueAt(keysOf(track), time, track.property);
  return track.property === 'path' ? mainOutline(String(value)) : value;
}

export type { Ending, Keyframe, Section, Timeline };
