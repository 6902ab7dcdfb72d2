import { keysOf } from '../../motion/track.ts';
import { freshTimeline, mapped, withKeys, type Timeline } from './timeline.ts';
import type { SpanOf, TrackOf } from './types.ts';

/** What of a timeline belongs to some layers, on its way with them from one scene to another. */
export interface LayerTime {
  readonly length: number;
  readonly tracks: readonly TrackOf[];
  readonly spans: readonly SpanOf[];
  readonly cues: readonly NonNullable<Timeline['cues']>[string][];
}

const first = (path: string) => path.split('/', 1)[0]!;

/** The keys, spans and cues of layers; null where they have none. */
export function timeOf(timeline: Timeline | undefined, layers: ReadonlySet<string>): LayerTime | null {
  if (!timeline) return null;
  const of = <T extends { readonly layer: string }>(map: Readonly<Record<string, T>> | undefined) =>
    Object.values(map ?? {}).filter((one) => layers.has(first(one.layer)));
  const [tracks, spans, cues] = [of(timeline.tracks), of(timeline.spans), of(timeline.cues)];
  return tracks.length || spans.length || cues.length ? { length: timeline.length, tracks, spans, cues } : null;
}

/** A timeline in which layers have nothing any more. */
export function withoutLayers(timeline: Timeline, layers: ReadonlySet<string>): Timeline {
  const rest = <T extends { readonly layer: string }>(map: Readonly<Record<string, T>>) =>
    mapped(map, (one) => (layers.has(first(one.layer)) ? null : one));
  return {
    ...timeline,
    ...(timeline.tracks && { tracks: rest(timeline.tracks) }),
    ...(timeline.spans && { spans: rest(timeline.spans) }),
    ...(timeline.cues && { cues: rest(timeline.cues) }),
  };
}

export interface Arrival {
  /** New paths by old ones; what has none stays behind. */
  readonly pathOf: (old: string) => string | undefined;
  /** How far a layer stands from where it stood, and how much larger: its places and sizes go along. */
  readonly shiftOf?: (old: string) => { readonly dx: number; readonly dy: number; readonly sx?: number; readonly sy?: number };
  /** Frames later than it was. */
  readonly later?: number;
}

/** Puts what belongs to layers into a timeline; where there is none one begins, as long as theirs was. */
export function withLayerTime(
  timeline: Timeline | undefined,
  time: LayerTime,
  fps: number,
  makeId: () => string,
  { pathOf, shiftOf, later = 0 }: Arrival
): Timeline {
  const base = timeline ?? { ...freshTimeline(fps), length: time.length };
  const last = Math.max(base.length, time.length + later) - 1;
  const tracks = time.tracks.flatMap((track) => {
    const layer = pathOf(track.layer);
    if (layer === undefined) return [];
    const { dx, dy, sx = 1, sy = 1 } = shiftOf?.(track.layer) ?? { dx: 0, dy: 0 };
    const change = { x: (n: number) => n * sx + dx, y: (n: number) => n * sy + dy, width: (n: number) => n * sx, height: (n: number) => n * sy }[
      track.property as 'x'
    ];
    const keys = keysOf(track).map((key) => ({
      ...key,
      time: Math.min(key.time + later, last),
      ...(change && typeof key.value === 'number' && { value: Math.round(change(key.value) * 1e4) / 1e4 }),
    }));
    return [[makeId(), { ...withKeys(track, keys), layer }] as const];
  });
  const spans = time.spans.flatMap((span) => {
    const layer = pathOf(span.layer);
    return layer === undefined || layer.includes('/')
      ? []
      : [[makeId(), { layer, from: span.from + later, to: Math.min(span.to + later, last) }] as const];
  });
  const cues = time.cues.flatMap((cue) => {
    const layer = pathOf(cue.layer);
    return layer === undefined || layer.includes('/') ? [] : [[makeId(), { ...cue, layer, time: Math.min(cue.time + later, last) }] as const];
  });
  return {
    ...base,
    length: last + 1,
    ...((base.tracks || tracks.length) && { tracks: { ...base.tracks, ...Object.fromEntries(tracks) } }),
    ...((base.spans || spans.length) && { spans: { ...base.spans, ...Object.fromEntries(spans) } }),
    ...((base.cues || cues.length) && { cues: { ...base.cues, ...Object.fromEntries(cues) } }),
  };
}
