import { onceFor } from '../once.ts';
import { propertyKinds } from '../vocabulary/properties/all.ts';
import type { Piece } from '../piece/piece.ts';
import type { Delta, Layer, Timeline, Tracked } from '../piece/schema.ts';
import { pathIn, type Instance, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { keysOf, valueAt } from '../motion/track.ts';
import type { Playhead, RootRun, RunState } from './state.ts';

/** Playheads: where a timeline is at a moment, what it shows there, and when something next happens on it. Timeline frames count from 0. */

export const framesPerSecond = ({ piece }: { readonly piece: Piece }): number => piece.head.fps ?? 24;

/** Milliseconds from the beginning of one timeline frame to the beginning of another. */
export const spanOf = (program: Program, frames: number): number => (frames * 1000) / framesPerSecond(program);

/** The timeline frame that a playhead is on. A playing head is never asked beyond its next deadline. */
export const frameAt = (program: Program, head: Playhead, clock: number): number =>
  head.playing ? head.at + Math.floor(((clock - head.since) * framesPerSecond(program)) / 1000 + 1e-6) : head.at;

export interface Section {
  /** The label that opens it; null for what comes before the first label. */
  readonly label: string | null;
  readonly from: number;
  /** The last timeline frame of it. */
  readonly to: number;
  readonly ending:
    | { readonly do: 'hold' | 'go on' }
    | { readonly do: 'loop'; readonly times?: number }
    | { readonly do: 'go to'; readonly label: string | null };
}

/** The sections of a timeline in order; together they cover it. */
export const sectionsOf = onceFor((timeline: Timeline): readonly Section[] => {
  const labels = Object.entries(timeline.labels ?? {})
    .map(([id, label]) => ({ id, ...label }))
    .filter((label) => label.time < timeline.length)
    .sort((a, b) => a.time - b.time || (a.id < b.id ? -1 : 1));
  const sections: Section[] = [];
  if ((labels[0]?.time ?? timeline.length) > 0)
    sections.push({
      label: null,
      from: 0,
      to: (labels[0]?.time ?? timeline.length) - 1,
      ending: { do: labels.length ? 'go on' : timeline.loop ? 'loop' : 'hold' },
    });
  labels.forEach((label, i) => {
    const end = labels[i + 1]?.time ?? timeline.length;
    if (end > label.time) sections.push({ label: label.id, from: label.time, to: end - 1, ending: label.ending });
  });
  return sections;
});

export const sectionAt = (timeline: Timeline, frame: number): Section | null =>
  sectionsOf(timeline).find((section) => frame >= section.from && frame <= section.to) ?? null;

export const headOf = (root: RootRun, instance: Instance): Playhead | undefined => root.heads[instance.key];

/** The frame that an instance's timeline shows; null without one. */
export function currentFrame(program: Program, run: RunState, root: RootRun, instance: Instance): number | null {
  const head = instance.scene.scene.timeline && headOf(root, instance);
  if (!head) return null;
  const frame = isAway(root, instance) ? head.at : frameAt(program, head, run.clock);
  return Math.min(frame, instance.scene.scene.timeline!.length - 1);
}

/** Whether what is placed is out of view, where its timeline stands. */
const isAway = (root: RootRun, { key }: Instance): boolean => key !== '' && root.present[key] !== true;

/** Whether a layer is there at this moment of its scene's timeline; one without a span always is. */
export function presentAt(program: Program, run: RunState, root: RootRun, node: Node): boolean {
  const { timeline } = node.instance.scene.scene;
  if (!timeline || !spansOf(timeline).has(node.layer.id)) return true;
  return isThereAt(timeline, node.layer.id, currentFrame(program, run, root, node.instance) ?? 0);
}

/** Whether one of a layer's spans reaches a frame of its timeline; a layer without a span is always there. */
export function isThereAt(timeline: Timeline, layer: string, frame: number): boolean {
  const spans = spansOf(timeline).get(layer);
  return !spans || spans.some(({ from, to }) => frame >= from && frame <= to);
}

/** The spans of a timeline by layer. */
export const spansOf = onceFor((timeline: Timeline): ReadonlyMap<string, readonly { from: number; to: number }[]> => {
  const spans = new Map<string, { from: number; to: number }[]>();
  for (const { layer, from, to } of Object.values(timeline.spans ?? {})) spans.set(layer, [...(spans.get(layer) ?? []), { from, to }]);
  return spans;
});

const tracksOf = onceFor((timeline: Timeline): ReadonlyMap<string, readonly NonNullable<Timeline['tracks']>[string][]> => {
  const tracks = new Map<string, NonNullable<Timeline['tracks']>[string][]>();
  for (const track of Object.values(timeline.tracks ?? {})) tracks.set(track.layer, [...(tracks.get(track.layer) ?? []), track]);
  return tracks;
});

/** Where a playhead is between two timeline frames, for what keyframes move: never beyond its section, unless it goes on into the next. */
function exactFrame(program: Program, run: RunState, root: RootRun, instance: Instance): number | null {
  const { key, scene } = instance;
  const { timeline } = scene.scene;
  const head = timeline && root.heads[key];
  if (!timeline || !head) return null;
  const section = sectionAt(timeline, head.at);
  const end = section?.to ?? timeline.length - 1;
  const last = section?.ending.do === 'go on' && end + 1 < timeline.length ? end + 1 : end;
  const passed = head.playing && !isAway(root, instance) ? ((run.clock - head.since) * framesPerSecond(program)) / 1000 : 0;
  return Math.min(last, head.at + Math.max(0, Math.abs(passed - Math.round(passed)) < 1e-6 ? Math.round(passed) : passed));
}

/** What the keyframes of the timelines around a layer make of it at this moment; asked for its place, only what can move it is looked at. */
export function trackedAt(program: Program, run: RunState, root: RootRun, node: Node, isForPlace = false): Delta | null {
  let delta: Delta | null = null;
  for (let at: Instance | null = node.instance; at; at = at.outer) {
    const { timeline } = at.scene.scene;
    if (!timeline?.tracks) continue;
    const path = at.key === '' ? node.key : node.key.slice(at.key.length + 1);
    const tracks = tracksOf(timeline).get(path);
    if (!tracks || (isForPlace && !node.layer.turnsAlong && !tracks.some(({ property }) => propertyKinds[property].places))) continue;
    const frame = exactFrame(program, run, root, at);
    if (frame !== null) delta = putTracks(delta, tracks, frame, node.layer);
  }
  return delta;
}

/** The tracks of all timelines around that are about a layer. */
export function tracksOn(node: Node): readonly NonNullable<Timeline['tracks']>[string][] {
  const found: NonNullable<Timeline['tracks']>[string][] = [];
  for (let at: Instance | null = node.instance; at; at = at.outer) {
    const { timeline } = at.scene.scene;
    const path = timeline?.tracks ? pathIn(at, node) : null;
    if (path !== null) found.push(...(tracksOf(timeline!).get(path) ?? []));
  }
  return found;
}

/** What the keyframes of one timeline make of a layer at a timeline frame; null where it has none. */
export function trackedIn(timeline: Timeline, path: string, frame: number, layer: Layer): Delta | null {
  const tracks = tracksOf(timeline).get(path);
  return tracks ? putTracks(null, tracks, frame, layer) : null;
}

function putTracks(delta: Delta | null, tracks: readonly NonNullable<Timeline['tracks']>[string][], frame: number, layer: Layer): Delta {
  const tracked = tracks.reduce((all, track) => put(all, track.property, valueAt(keysOf(track), frame, track.property), layer), delta ?? {});
  if (!layer.turnsAlong) return tracked;
  const along = directionAt(tracks, frame);
  return along === null ? tracked : put(tracked, 'rotation', (tracked.pose?.rotation ?? layer.pose.rotation ?? 0) + along, layer);
}

/** Timeline frames on either side of a moment that tell which way something goes there. */
const BESIDE = 0.05;

/**
 * The way that keyframes carry a layer at a moment, in degrees clockwise from the right; where it rests, the way it last went,
 * or before it has moved, the way it will go. Null where it never moves.
 */
function directionAt(tracks: readonly NonNullable<Timeline['tracks']>[string][], frame: number): number | null {
  const ways = tracks.filter(({ property }) => property === 'x' || property === 'y');
  const times = [...new Set(ways.flatMap((track) => keysOf(track).map(({ time }) => time)))].sort((a, b) => a - b);
  const at = (property: Tracked, time: number) => {
    const track = ways.find((one) => one.property === property);
    return track ? (valueAt(keysOf(track), time, property) as number) : 0;
  };
  const between = (from: number, to: number): number | null => {
    const [dx, dy] = [at('x', to) - at('x', from), at('y', to) - at('y', from)];
    return Math.hypot(dx, dy) < 1e-6 ? null : (Math.atan2(dy, dx) * 180) / Math.PI;
  };
  const here = between(frame - BESIDE, frame + BESIDE);
  if (here !== null) return here;
  // It rests: just before where it came to rest, else just behind where it sets out.
  const moving = times.flatMap((from, i) =>
    times[i + 1] !== undefined && between(from, times[i + 1]!) !== null ? [[from, times[i + 1]!] as const] : []
  );
  const last = moving.findLast(([, to]) => to <= frame);
  if (last) return between(Math.max(last[0], last[1] - BESIDE), last[1]) ?? between(...last);
  const next = moving.find(([from]) => from >= frame) ?? moving[0];
  return next ? (between(next[0], Math.min(next[1], next[0] + BESIDE)) ?? between(...next)) : null;
}

type Fields = Readonly<Record<string, unknown>>;

function put(delta: Delta, property: Tracked, value: number | string, layer: Layer): Delta {
  const { name, group, of } = propertyKinds[property];
  if (group === 'layer') return { ...delta, [name]: value };
  const fields = (delta as Fields)[group] as Fields | undefined;
  const own = of ? { ...((fields?.[of.field] ?? ((layer as Fields)[group] as Fields)[of.field] ?? of.fresh) as object), [of.inner]: value } : value;
  return { ...delta, [group]: { ...fields, [of ? of.field : name]: own } };
}

/** What a playhead next comes to: a label, the end of a section, a span's edge, or a cue on the timeline. */
export interface Stop {
  /** The timeline frame; for the end of a section the one after its last. */
  readonly frame: number;
  readonly isEnd: boolean;
}

/** The next stop of a playing head, and when it is reached; null for one that stands still. */
export function nextStop(program: Program, head: Playhead, timeline: Timeline): (Stop & { readonly due: number }) | null {
  if (!head.playing) return null;
  const section = sectionAt(timeline, head.at);
  const end = (section?.to ?? timeline.length - 1) + 1;
  let frame = end;
  for (const at of (program.marksOf ?? marksOf)(timeline)) if (at > head.at && at < frame) frame = at;
  return { frame, isEnd: frame === end, due: head.since + spanOf(program, frame - head.at) };
}

/** Timeline frames at which something begins or ends besides sections, in no order. */
export const marksOf = onceFor((timeline: Timeline): ReadonlySet<number> => {
  const marks = new Set<number>();
  for (const span of Object.values(timeline.spans ?? {})) marks.add(span.from).add(span.to + 1);
  for (const cue of Object.values(timeline.cues ?? {})) marks.add(cue.time);
  return marks;
});
