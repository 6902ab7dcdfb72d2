import { keysOf } from '../../motion/track.ts';
import { sectionsOf } from '../../run/playhead.ts';
import type { MakeId } from '../make-id.ts';
import { takeName } from '../../words.ts';
import { clampTime, mapped, mapTimes, MOST_FRAMES, sectionOf, trackValue, withKeys, type Ending, type Section, type Timeline } from './timeline.ts';
import { setSpan } from './spans.ts';
import type { LabelOf, SpanOf, TrackOf } from './types.ts';

/** Labels and the sections that they open: a section is one thing, with its ending and all that stands in it. */

/** A new label. The section that it opens ends as the one does that it is cut out of, so that none of them runs through into the next unasked. */
export function addLabel(timeline: Timeline, id: string, name: string, time: number): Timeline {
  const at = clampTime(time, 0, timeline.length - 1);
  const names = new Set(Object.values(timeline.labels ?? {}).map((label) => label.name));
  if (Object.values(timeline.labels ?? {}).some((label) => label.time === at)) return timeline;
  const around = sectionsOf(timeline).find((section) => at >= section.from && at <= section.to)!;
  const label: LabelOf = { time: at, name: takeName(names, name), ending: around.label === null ? { do: 'hold' } : around.ending };
  return { ...timeline, labels: { ...timeline.labels, [id]: label } };
}

export function setLabel(timeline: Timeline, id: string, change: Partial<Pick<LabelOf, 'name' | 'ending'>>): Timeline {
  const label = timeline.labels?.[id];
  return label ? { ...timeline, labels: { ...timeline.labels, [id]: { ...label, ...change } } } : timeline;
}

export const setEnding = (timeline: Timeline, id: string, ending: Ending): Timeline => setLabel(timeline, id, { ending });

/** Takes a label away: its section becomes part of the one before, which then ends as it did. */
export function removeLabel(timeline: Timeline, id: string): Timeline {
  const sections = sectionsOf(timeline);
  const at = sections.findIndex((section) => section.label === id);
  if (at < 0) return timeline;
  const { [id]: gone, ...rest } = timeline.labels!;
  const before = sections[at - 1]?.label;
  const labels = before ? { ...rest, [before]: { ...rest[before]!, ending: gone!.ending } } : rest;
  return { ...timeline, labels: mapped(labels, (label) => (isTo(label.ending, id) ? { ...label, ending: { do: 'go to', label: null } } : label)) };
}

const isTo = (ending: Ending, id: string) => ending.do === 'go to' && ending.label === id;

/** Puts in so many frames before a time: all from there on comes later, and what spans it becomes longer. */
export function insertTime(timeline: Timeline, at: number, frames: number): Timeline {
  const by = Math.min(Math.max(0, Math.round(frames)), MOST_FRAMES - timeline.length);
  if (by === 0) return timeline;
  return { ...mapTimes(timeline, (time) => (time >= at ? time + by : time)), length: timeline.length + by };
}

/** Holds a moment for so many frames more: nothing moves in them, and all after comes later. */
export function holdMoment(timeline: Timeline, at: number, frames: number): Timeline {
  const wide = insertTime(timeline, at + 1, frames);
  const by = wide.length - timeline.length;
  if (by === 0 || !timeline.tracks) return wide;
  const held = (track: TrackOf, old: TrackOf): TrackOf => {
    const keys = keysOf(old);
    const [first, last] = [keys[0]!, keys.at(-1)!];
    if (at < first.time || at >= last.time) return track;
    const value = trackValue(old, at);
    // What leads away from here leads away from the end of the held time.
    const leads = keys.findLast((key) => key.time <= at)?.easing;
    const { easing: _easing, ...here } = keysOf(track).find((key) => key.time === at) ?? { time: at };
    const rest = keysOf(track).filter((key) => key.time !== at);
    return withKeys(track, [...rest, { ...here, value }, { time: at + by, value, ...(leads !== undefined && { easing: leads }) }]);
  };
  return { ...wide, tracks: mapped(wide.tracks!, (track, id) => held(track, timeline.tracks![id]!)) };
}

/** A section with so many frames more at its end, in which all that is there on its last frame stays there. */
export function lengthenSection(timeline: Timeline, { to }: Section, frames: number): Timeline {
  const wide = insertTime(timeline, to + 1, frames);
  const by = wide.length - timeline.length;
  if (by === 0 || !timeline.spans) return wide;
  return { ...wide, spans: mapped(wide.spans!, (span) => (span.to === to ? { ...span, to: to + by } : span)) };
}

/** Cuts so many frames out from a time on, with all that stands in them. */
export function cutTime(timeline: Timeline, from: number, frames: number): Timeline {
  const by = Math.min(Math.max(0, Math.round(frames)), timeline.length - 1, timeline.length - from);
  if (by === 0) return timeline;
  const end = from + by;
  const time = (at: number) => (at < from ? at : at >= end ? at - by : null);
  const cut = mapTimes({ ...timeline, spans: undefined }, time);
  const spans = mapped(timeline.spans ?? {}, (span) => {
    const [a, b] = [time(span.from) ?? from, time(span.to) ?? from - 1];
    return b < a ? null : { ...span, from: a, to: b };
  });
  return { ...cut, ...(timeline.spans && { spans }), length: timeline.length - by };
}

/** Makes a piece of time longer or shorter with all in it; what comes after moves along. Its first and last frame stay its ends. */
export function stretchTime(timeline: Timeline, from: number, to: number, frames: number): Timeline {
  const old = to - from + 1;
  const length = clampTime(frames, 1, MOST_FRAMES - timeline.length + old);
  if (length === old) return timeline;
  const factor = old === 1 ? 0 : (length - 1) / (old - 1);
  const time = (at: number) => (at < from ? at : at > to ? at + length - old : from + Math.round((at - from) * factor));
  return { ...mapTimes(timeline, time), length: timeline.length + length - old };
}

export type Resizing = 'push' | 'eat' | 'stretch';

/** A section of another length: all after it moves along, or it takes from the next one, or what is in it is stretched as well. */
export function resizeSection(timeline: Timeline, label: string | null, frames: number, how: Resizing): Timeline {
  const sections = sectionsOf(timeline);
  const at = sections.findIndex((section) => section.label === label);
  const section = sections[at];
  if (!section) return timeline;
  const old = section.to - section.from + 1;
  if (how === 'stretch') return stretchTime(timeline, section.from, section.to, frames);
  const next = sections[at + 1];
  if (how === 'eat' && next) {
    const time = clampTime(section.from + frames, section.from + 1, next.to);
    return { ...timeline, labels: { ...timeline.labels, [next.label!]: { ...timeline.labels![next.label!]!, time } } };
  }
  const length = Math.max(1, Math.round(frames));
  return length >= old ? lengthenSection(timeline, section, length - old) : cutTime(timeline, section.from + length, old - length);
}

/** A section put before another one, or at the end: all that stands in it goes along, and nothing else does. */
export function moveSection(timeline: Timeline, label: string, before: string | null): Timeline {
  const sections = sectionsOf(timeline);
  const moving = sections.find((section) => section.label === label);
  if (!moving || label === before) return timeline;
  const rest = sections.filter((section) => section !== moving);
  const at = before === null ? rest.length : rest.findIndex((section) => section.label === before);
  if (at < 0) return timeline;
  return arranged(timeline, [...rest.slice(0, at), moving, ...rest.slice(at)]);
}

/** The sections in another order, each with what stands in it. */
function arranged(timeline: Timeline, order: readonly Section[]): Timeline {
  const begin = new Map<Section, number>();
  let next = 0;
  for (const section of order) {
    begin.set(section, next);
    next += section.to - section.from + 1;
  }
  const of = (time: number) => order.find((section) => time >= section.from && time <= section.to) ?? null;
  const time = (at: number): number => {
    const section = of(at);
    return section ? begin.get(section)! + at - section.from : at;
  };
  const moved = mapTimes({ ...timeline, spans: undefined }, time);
  const spans = Object.entries(timeline.spans ?? {}).flatMap(([id, span]) =>
    piecesOf(span, order, time).map((piece, i) => [i ? `${id}-${i}`.slice(-40) : id, piece] as const)
  );
  const tracks = mapped(moved.tracks ?? {}, (track, id) => sealed(track, timeline.tracks![id]!, order, time));
  return { ...moved, ...(timeline.tracks && { tracks }), ...(timeline.spans && { spans: Object.fromEntries(spans) }) };
}

/** A span section by section, each piece at its new time; what then touches is one again. */
function piecesOf(span: SpanOf, order: readonly Section[], time: (at: number) => number): SpanOf[] {
  const pieces = order
    .flatMap(({ from, to }) => {
      const [a, b] = [Math.max(from, span.from), Math.min(to, span.to)];
      return a <= b ? [{ ...span, from: time(a), to: time(b) }] : [];
    })
    .sort((a, b) => a.from - b.from);
  return joined(pieces);
}

/** Pieces of one span, in order; those that touch are one. */
const joined = (pieces: readonly SpanOf[]): SpanOf[] =>
  pieces.reduce<SpanOf[]>((all, piece) => {
    const last = all.at(-1);
    return last && last.to + 1 >= piece.from ? [...all.slice(0, -1), { ...last, to: piece.to }] : [...all, piece];
  }, []);

/** Keys at the ends of sections where their values hung on what stood before or after them and now is elsewhere. */
function sealed(track: TrackOf, old: TrackOf, order: readonly Section[], time: (at: number) => number): TrackOf {
  const isLost = (end: number) => trackValue(track, time(end)) !== trackValue(old, end);
  const lost = order.filter(({ from, to }) => isLost(from) || isLost(to));
  if (lost.length === 0) return track;
  // Where one end has to be held, the inside hangs on both.
  const given = new Set(keysOf(track).map((key) => key.time));
  const added = lost
    .flatMap(({ from, to }) => [from, to])
    .filter((end) => !given.has(time(end)))
    .map((end) => ({ time: time(end), value: trackValue(old, end) }));
  // What is held here may pull at what is beside it.
  return added.length ? sealed(withKeys(track, [...keysOf(track), ...added]), old, order, time) : track;
}

/** The same section once more, right behind it, under a free name. */
export function copySection(timeline: Timeline, label: string, makeId: MakeId): Timeline {
  const section = sectionOf(timeline, label);
  const source = timeline.labels?.[label];
  if (!section || !source) return timeline;
  const { from, to } = section;
  const length = to - from + 1;
  if (timeline.length + length > MOST_FRAMES) return timeline;
  const wide = insertTime(timeline, to + 1, length);
  const names = new Set(Object.values(timeline.labels!).map((one) => one.name));
  const isIn = (time: number) => time >= from && time <= to;
  const again = <T extends { time: number }>(map: Readonly<Record<string, T>>) =>
    Object.fromEntries(Object.values(map).flatMap((one) => (isIn(one.time) ? [[makeId(), { ...one, time: one.time + length }] as const] : [])));
  return {
    ...wide,
    labels: { ...wide.labels, [makeId()]: { ...source, time: from + length, name: takeName(names, source.name) } },
    ...(timeline.cues && { cues: { ...wide.cues, ...again(timeline.cues) } }),
    ...(timeline.tracks && {
      tracks: mapped(wide.tracks!, (track, id) => {
        const keys = keysOf(timeline.tracks![id]!)
          .filter((key) => isIn(key.time))
          .map(({ id: _id, ...key }) => ({ ...key, time: key.time + length }));
        if (!keys.length) return track;
        const first = keys[0]!.time === from + length ? [] : [{ time: from + length, value: trackValue(timeline.tracks![id]!, from) }];
        return withKeys(track, [...keysOf(track), ...first, ...keys]);
      }),
    }),
    ...(timeline.spans && {
      spans: Object.fromEntries(
        Object.entries(timeline.spans).flatMap(([id, span]) => {
          const part = (a: number, b: number, by: number) =>
            Math.max(a, span.from) <= Math.min(b, span.to) ? [{ ...span, from: Math.max(a, span.from) + by, to: Math.min(b, span.to) + by }] : [];
          const pieces = joined([...part(0, to, 0), ...part(from, to, length), ...part(to + 1, timeline.length, length)]);
          return pieces.map((piece, i) => [i ? makeId() : id, piece] as const);
        })
      ),
    }),
  };
}

/** Takes a section away with all that stands in it. */
export function removeSection(timeline: Timeline, label: string): Timeline {
  const section = sectionOf(timeline, label);
  if (!section) return timeline;
  const length = section.to - section.from + 1;
  if (length >= timeline.length)
    return { length: timeline.length, ...(timeline.loop && { loop: true }), ...(timeline.autoplay === false && { autoplay: false }) };
  const { [label]: _gone, ...labels } = timeline.labels!;
  const cut = cutTime({ ...timeline, labels }, section.from, length);
  return { ...cut, labels: mapped(cut.labels ?? {}, (one) => (isTo(one.ending, label) ? { ...one, ending: { do: 'go to', label: null } } : one)) };
}

/** Sections by their names, each so long, that hold: pages in time at once, behind what is there. A timeline of nothing is filled from its beginning. */
export function addSections(timeline: Timeline, names: readonly string[], frames: number, makeId: MakeId): Timeline {
  const isEmpty = !timeline.labels && !timeline.tracks && !timeline.spans && !timeline.cues;
  const begin = isEmpty ? 0 : timeline.length;
  const length = Math.max(1, Math.round(frames));
  const taken = new Set(Object.values(timeline.labels ?? {}).map((label) => label.name));
  const made = names.map(
    (name, i) => [makeId(), { time: begin + i * length, name: takeName(taken, name), ending: { do: 'hold' as const } }] as const
  );
  if (begin + names.length * length > MOST_FRAMES || names.length === 0) return timeline;
  return { ...timeline, length: begin + names.length * length, labels: { ...timeline.labels, ...Object.fromEntries(made) } };
}

/** A section for each layer, named after it, in which that layer alone of them is there: pictures become pages in time. */
export function sectionsFor(
  timeline: Timeline,
  layers: readonly { readonly id: string; readonly name: string }[],
  frames: number,
  makeId: MakeId
): Timeline {
  const before = new Set(Object.keys(timeline.labels ?? {}));
  const names = layers.map(({ name }) => name);
  const made = addSections(timeline, names, frames, makeId);
  const sections = sectionsOf(made).filter(({ label }) => label !== null && !before.has(label));
  return sections.reduce((all, { from, to }, i) => setSpan(all, [layers[i]!.id], from, to, makeId), made);
}
