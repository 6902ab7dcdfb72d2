import { isMediaLayer } from '../vocabulary/layers/all.ts';
import type { Timeline } from '../piece/schema.ts';
import type { Instance, Node } from '../program/node.ts';
import { isThereAt, sectionsOf, spansOf, type Section } from './playhead.ts';

/** Where timelines are that have been left to play, without running them. */

/** Where a playhead that set out at a frame is so many frames later, by what the endings of sections say; it stops where one holds. */
export function playedOn(timeline: Timeline, from: number, frames: number): { readonly frame: number; readonly stops: boolean } {
  const sections = sectionsOf(timeline);
  let at = from;
  let left = frames;
  let rounds = 0;
  // Sections that lead round and round without a frame between them cannot be: each is at least one long.
  for (let turns = 0; turns < 100_000; turns++) {
    const section = sections.find((one) => at >= one.from && at <= one.to)!;
    const rest = section.to + 1 - at;
    if (left < rest) return { frame: at + left, stops: false };
    const { ending } = section;
    const isDone = ending.do === 'loop' && ++rounds >= (ending.times ?? Infinity);
    const next = isDone ? null : afterSection(timeline, section);
    if (next !== section.from) rounds = 0;
    if (next === null) return { frame: section.to, stops: true };
    left -= rest;
    at = next;
    // Rounds without a number are alike.
    if (ending.do === 'loop' && ending.times === undefined) left %= section.to + 1 - section.from;
  }
  return { frame: at, stops: false };
}

/** Where it goes on after a section has ended; null where it holds. */
export function afterSection(timeline: Timeline, { from, to, ending }: Section): number | null {
  if (ending.do === 'loop') return from;
  if (ending.do === 'go to') {
    const label = ending.label === null ? undefined : timeline.labels?.[ending.label];
    return label ? Math.min(label.time, timeline.length - 1) : null;
  }
  if (ending.do !== 'go on') return null;
  return to + 1 < timeline.length ? to + 1 : timeline.loop ? 0 : null;
}

/** A clip: how long it has been there, the frame it is at, and the one it was at so long ago; timeline frames. */
interface Clip {
  readonly there: number;
  readonly frame: number;
  readonly ago: (frames: number) => number;
}

/**
 * Where the timelines of placed parts are when the scene around them has played to a frame of its own: each as far as it has been
 * there, less the time that cues on the timeline kept it still. By the key of the instance; what is away is left out.
 */
export function clipFrames(instances: Iterable<Instance>, frame: number): Map<string, number> {
  const clipOf = clipsAt(frame);
  const frames = new Map<string, number>();
  for (const instance of instances) {
    const clip = instance.placement && instance.scene.scene.timeline ? clipOf(instance) : null;
    if (clip) frames.set(instance.key, clip.frame);
  }
  return frames;
}

/** How far videos and sounds have played, in timeline frames, when the scene around them has played to one of its own, and whether they play on. */
export function mediaFrames(nodes: Iterable<Node>, frame: number): Map<string, { readonly played: number; readonly runs: boolean }> {
  const clipOf = clipsAt(frame);
  const found = new Map<string, { played: number; runs: boolean }>();
  for (const node of nodes) {
    if (!isMediaLayer(node.layer)) continue;
    const around = clipOf(node.instance);
    const there = around && presenceOf(node, node.instance, around);
    if (around && there !== null) found.set(node.key, ranFor(node.layer.media?.autoplay === true, node, node.instance, around.frame, there));
  }
  return found;
}

/** Looks up the clips of one moment, each worked out once. */
function clipsAt(frame: number): (instance: Instance) => Clip | null {
  const found = new Map<string, Clip | null>();
  const clipOf = (instance: Instance): Clip | null => {
    const old = found.get(instance.key);
    if (old !== undefined) return old;
    const made = placed(instance);
    found.set(instance.key, made);
    return made;
  };
  const placed = ({ placement, outer, scene }: Instance): Clip | null => {
    if (!placement || !outer) return { there: frame, frame, ago: (frames) => frame - frames };
    const around = clipOf(outer);
    const there = around && presenceOf(placement, outer, around);
    if (!around || there === null) return null;
    const { timeline } = scene.scene;
    return timeline ? playing(timeline, placement, outer, around.frame, there) : { there, frame: there, ago: (frames) => there - frames };
  };
  return clipOf;
}

/** What has been there for so long counts as there from the beginning. */
const MOST_LOOKED_BACK = 20_000;

/** For how long a placement has been there without a break, in what its scene around it has played; null where it is away. */
function presenceOf(placement: Node, { scene }: Instance, around: Clip): number | null {
  const { timeline } = scene.scene;
  if (!timeline) return around.there;
  const held: string[] = [];
  for (let at: Node | null = placement; at; at = at.parent?.instance === placement.instance ? at.parent : null)
    if (spansOf(timeline).has(at.layer.id)) held.push(at.layer.id);
  if (held.length === 0) return around.there;
  const isThere = (frame: number) => held.every((layer) => isThereAt(timeline, layer, frame));
  if (!isThere(around.frame)) return null;
  const most = Math.min(around.there, MOST_LOOKED_BACK);
  for (let back = 1; back <= most; back++) if (!isThere(around.ago(back))) return back - 1;
  return around.there;
}

/** A clip that has been there for so long, by its own beginning and by the cues on the timeline around it. */
function playing(timeline: Timeline, placement: Node, outer: Instance, frame: number, there: number): Clip {
  const { played, runs, stood } = ranFor(timeline.autoplay !== false, placement, outer, frame, there);
  const ago = (frames: number) => playedOn(timeline, 0, Math.max(0, played - (runs ? frames : Math.max(0, frames - stood)))).frame;
  return { there, frame: ago(0), ago };
}

/** How long something that has been there for so long has played, whether it plays on, and since when it does not. */
function ranFor(byItself: boolean, node: Node, { scene }: Instance, frame: number, there: number): { played: number; runs: boolean; stood: number } {
  const since = frame - there;
  const cues = Object.values(scene.scene.timeline?.cues ?? {})
    .filter((cue) => cue.layer === node.layer.id && cue.time >= since && cue.time <= frame)
    .sort((a, b) => a.time - b.time);
  let played = 0;
  let at = since;
  let runs = byItself;
  for (const cue of cues) {
    if (runs) played += cue.time - at;
    at = cue.time;
    runs = cue.do !== 'pause';
    if (cue.do === 'start over') played = 0;
  }
  const rest = frame - at;
  return { played: runs ? played + rest : played, runs, stood: runs ? 0 : rest };
}
