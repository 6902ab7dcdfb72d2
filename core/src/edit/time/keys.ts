import { parseEasing } from '../../motion/easing.ts';
import { keysOf } from '../../motion/track.ts';
import { clampTime, mapped, withKeys, type Keyframe, type Timeline } from './timeline.ts';
import type { TrackOf, Tracked } from './types.ts';

/** Keys by hand: one is named by its track and its time. */
export interface KeyAt {
  readonly track: string;
  readonly time: number;
}

/** The track of a layer's property, if there is one. */
export const trackOf = (timeline: Timeline, layer: string, property: Tracked): [string, TrackOf] | undefined =>
  Object.entries(timeline.tracks ?? {}).find(([, track]) => track.layer === layer && track.property === property);

/** The keys of a timeline that are meant. */
export const keysIn = (timeline: Timeline, isMeant: (track: TrackOf, time: number) => boolean): KeyAt[] =>
  Object.entries(timeline.tracks ?? {}).flatMap(([id, track]) =>
    keysOf(track).flatMap(({ time }) => (isMeant(track, time) ? [{ track: id, time }] : []))
  );

export const hasKeyAt = (track: TrackOf, time: number): boolean => keysOf(track).some((key) => key.time === time);

/** The times at which a layer has keys of some properties, in order, each once. */
export const keyTimesOf = (timeline: Timeline, layer: string, properties: readonly Tracked[]): number[] =>
  [
    ...new Set(
      Object.values(timeline.tracks ?? {})
        .filter((track) => track.layer === layer && properties.includes(track.property))
        .flatMap((track) => keysOf(track).map(({ time }) => time))
    ),
  ].sort((a, b) => a - b);

/** Sets a key; the one at that time is replaced and keeps its easing. The first of a track makes it, under `id`. */
export function setKey(timeline: Timeline, id: string, layer: string, property: Tracked, key: Keyframe): Timeline {
  const [known, track] = trackOf(timeline, layer, property) ?? [id, { layer, property, keys: {} }];
  const old = keysOf(track).find((one) => one.time === key.time);
  const easing = key.easing ?? old?.easing;
  const made = { ...(old && { id: old.id }), time: key.time, value: key.value, ...(easing !== undefined && { easing }) };
  return { ...timeline, tracks: { ...timeline.tracks, [known]: withKeys(track, [...keysOf(track), made]) } };
}

const timesOf = (keys: readonly KeyAt[]) => {
  const times = new Map<string, Set<number>>();
  for (const { track, time } of keys) times.set(track, (times.get(track) ?? new Set()).add(time));
  return times;
};

/** Changes the chosen keys of every track; what comes out at the time of another key stands in its place. */
function changed(
  timeline: Timeline,
  keys: readonly KeyAt[],
  change: (chosen: readonly Keyframe[], rest: readonly Keyframe[], track: string) => readonly Keyframe[]
): Timeline {
  const times = timesOf(keys);
  const tracks = mapped(timeline.tracks ?? {}, (track, id) => {
    const chosen = times.get(id);
    if (!chosen) return track;
    const keys = keysOf(track);
    const next = change(
      keys.filter((key) => chosen.has(key.time)),
      keys.filter((key) => !chosen.has(key.time)),
      id
    );
    return next.length ? withKeys(track, next) : null;
  });
  return { ...timeline, tracks };
}

const rangeOf = (keys: readonly KeyAt[]) => ({ first: Math.min(...keys.map(({ time }) => time)), last: Math.max(...keys.map(({ time }) => time)) });

/** How far keys can be moved without one leaving the timeline. */
function within({ length }: Timeline, keys: readonly KeyAt[], by: number): number {
  const { first, last } = rangeOf(keys);
  return clampTime(by, -first, length - 1 - last);
}

/** Moves keys in time, and numbers by `value` as well. */
export function moveKeys(timeline: Timeline, keys: readonly KeyAt[], by: number, value = 0): Timeline {
  if (keys.length === 0) return timeline;
  const shift = within(timeline, keys, by);
  return changed(timeline, keys, (chosen, rest) => [
    ...rest,
    ...chosen.map((key) => ({ ...key, time: key.time + shift, ...(value !== 0 && typeof key.value === 'number' && { value: key.value + value }) })),
  ]);
}

export const movedKeys = (timeline: Timeline, keys: readonly KeyAt[], by: number): KeyAt[] => {
  const shift = keys.length ? within(timeline, keys, by) : 0;
  return keys.map((key) => ({ ...key, time: key.time + shift }));
};

export function copyKeys(timeline: Timeline, keys: readonly KeyAt[], by: number): Timeline {
  if (keys.length === 0) return timeline;
  const shift = within(timeline, keys, by);
  return shift === 0
    ? timeline
    : changed(timeline, keys, (chosen, rest) => [...rest, ...chosen, ...chosen.map((key) => ({ ...key, time: key.time + shift }))]);
}

export const removeKeys = (timeline: Timeline, keys: readonly KeyAt[]): Timeline => changed(timeline, keys, (_chosen, rest) => rest);

/** Stretches keys about a time that stays: by 2 they take twice as long. */
export function stretchKeys(timeline: Timeline, keys: readonly KeyAt[], anchor: number, factor: number): Timeline {
  return changed(timeline, keys, (chosen, rest) => [
    ...rest,
    ...chosen.map((key) => ({ ...key, time: clampTime(anchor + (key.time - anchor) * factor, 0, timeline.length - 1) })),
  ]);
}

/** Turns keys round in time between the first and the last of them; each way between two keeps its shape, backwards. */
export function mirrorKeys(timeline: Timeline, keys: readonly KeyAt[]): Timeline {
  if (keys.length === 0) return timeline;
  const { first, last } = rangeOf(keys);
  return changed(timeline, keys, (chosen, rest) => [
    ...rest,
    ...chosen.map((key, i) => {
      const { easing: _easing, ...turned } = { ...key, time: first + last - key.time };
      const easing = i > 0 ? backwards(chosen[i - 1]!.easing) : undefined;
      return { ...turned, ...(easing !== undefined && { easing }) };
    }),
  ]);
}

const NAMED: Readonly<Record<string, string>> = { 'ease-in': 'ease-out', 'ease-out': 'ease-in', ease: 'cubic-bezier(0.75, 0, 0.75, 0.9)' };

/** The same way walked from its other end, as far as an easing can say it. */
function backwards(easing: string | undefined): string | undefined {
  if (easing === undefined) return undefined;
  if (NAMED[easing]) return NAMED[easing];
  const numbers = /^cubic-bezier\(([^)]*)\)$/.exec(easing)?.[1]?.split(',').map(Number);
  if (numbers?.length !== 4) return easing;
  const [x1, y1, x2, y2] = numbers as [number, number, number, number];
  const tidy = (n: number) => Math.round(n * 1e6) / 1e6;
  return `cubic-bezier(${tidy(1 - x2)}, ${tidy(1 - y2)}, ${tidy(1 - x1)}, ${tidy(1 - y1)})`;
}

/** Moves the keys of one layer after the other later by so much each: the first of `layers` stays. */
export function staggerKeys(timeline: Timeline, keys: readonly KeyAt[], layers: readonly string[], by: number): Timeline {
  const layerOf = (track: string) => timeline.tracks?.[track]?.layer ?? '';
  const order = layers.filter((layer) => keys.some(({ track }) => layerOf(track) === layer));
  return order.reduce((at, layer, i) => {
    const own = keys.filter(({ track }) => layerOf(track) === layer);
    return i === 0 ? at : moveKeys(at, own, i * by);
  }, timeline);
}

/** Brings the first or the last keys of all tracks to the time of the earliest or latest of them. */
export function alignKeys(timeline: Timeline, keys: readonly KeyAt[], edge: 'begin' | 'end'): Timeline {
  if (keys.length === 0) return timeline;
  const { first, last } = rangeOf(keys);
  return [...timesOf(keys)].reduce((at, [track, times]) => {
    const by = edge === 'begin' ? first - Math.min(...times) : last - Math.max(...times);
    return moveKeys(
      at,
      [...times].map((time) => ({ track, time })),
      by
    );
  }, timeline);
}

/** Makes the times between the chosen keys of each track alike, the first and the last staying. */
export function spreadKeys(timeline: Timeline, keys: readonly KeyAt[]): Timeline {
  return changed(timeline, keys, (chosen, rest) => {
    const [from, to] = [chosen[0]!.time, chosen.at(-1)!.time];
    const even = chosen.map((key, i) => ({ ...key, time: chosen.length < 2 ? from : Math.round(from + ((to - from) * i) / (chosen.length - 1)) }));
    return [...rest, ...even];
  });
}

/** How the ways that begin at keys go; an easing that is none is refused by leaving all as it is. */
export function easeKeys(timeline: Timeline, keys: readonly KeyAt[], easing: string): Timeline {
  if (parseEasing(easing) === null) return timeline;
  return changed(timeline, keys, (chosen, rest) => [
    ...rest,
    ...chosen.map(({ easing: _old, ...key }) => (easing === 'linear' ? key : { ...key, easing })),
  ]);
}

/** Keys of one property of one layer, to be put elsewhere. */
export interface CopiedKeys {
  readonly layer: string;
  readonly property: Tracked;
  readonly keys: readonly Keyframe[];
}

/** The chosen keys, by layer and property. */
export const copiedKeys = (timeline: Timeline, keys: readonly KeyAt[]): CopiedKeys[] =>
  Object.entries(timeline.tracks ?? {}).flatMap(([id, track]) => {
    const { layer, property } = track;
    const chosen = keysOf(track).filter((key) => keys.some((one) => one.track === id && one.time === key.time));
    return chosen.length ? [{ layer, property, keys: chosen }] : [];
  });

/**
 * Puts copied keys in from a moment on, the first of them there: onto other layers by property, each in its turn where several were
 * copied, or onto their own where none are given. The timeline grows where it would end too early.
 */
export function pasteKeys(
  timeline: Timeline,
  copied: readonly CopiedKeys[],
  layers: readonly string[],
  at: number,
  makeId: () => string
): { readonly timeline: Timeline; readonly keys: readonly KeyAt[] } {
  const times = copied.flatMap(({ keys }) => keys.map(({ time }) => time));
  const shift = at - Math.min(...times);
  const sources = [...new Set(copied.map(({ layer }) => layer))];
  const targets = layers.length ? layers : sources;
  const long = copied.length ? { ...timeline, length: Math.max(timeline.length, Math.max(...times) + shift + 1) } : timeline;
  const put = targets.flatMap((layer, i) =>
    copied
      .filter((one) => one.layer === sources[i % sources.length])
      .flatMap(({ property, keys }) => keys.map((key) => ({ layer, property, key: { ...key, time: key.time + shift } })))
  );
  const made = put.reduce((all, { layer, property, key }) => setKey(all, makeId(), layer, property, key), long);
  const keys = put.map(({ layer, property, key }) => ({ track: trackOf(made, layer, property)![0], time: key.time }));
  return { timeline: made, keys };
}
