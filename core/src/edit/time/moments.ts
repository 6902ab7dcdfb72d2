import { keysOf } from '../../motion/track.ts';
import { isThereAt, sectionAt, sectionsOf, spansOf } from '../../run/playhead.ts';
import { count, listWords } from '../../words.ts';
import { clampTime, type Section, type Timeline } from './timeline.ts';

/** Moments in words, as they are typed, and as they come one after the other. People count timeline frames from 1. */

/** A number of seconds as it is written beside frames: `0.58 s`. */
export const secondsWords = (frames: number, fps: number): string => `${Math.round((frames / fps) * 100) / 100} s`;

export const sectionName = (timeline: Timeline, section: Section | null): string =>
  section?.label ? (timeline.labels?.[section.label]?.name ?? '') : 'before the first label';

/** `Flood, frame 14 of 48 (0.58 s)`. */
export function momentWords(timeline: Timeline, frame: number, fps: number): string {
  const section = sectionAt(timeline, frame);
  const from = section?.from ?? 0;
  const name = section?.label ? `${sectionName(timeline, section)}, ` : '';
  const length = (section?.to ?? timeline.length - 1) - from + 1;
  return `${name}frame ${frame - from + 1} of ${length} (${secondsWords(frame, fps)})`;
}

/** How many layers are under way at a moment: `2 moving`. */
export function movingAt(timeline: Timeline, frame: number): number {
  const moving = new Set<string>();
  for (const track of Object.values(timeline.tracks ?? {})) {
    const keys = keysOf(track);
    if (keys.some((key, i) => key.time <= frame && (keys[i + 1]?.time ?? -1) > frame && keys[i + 1]!.value !== key.value)) moving.add(track.layer);
  }
  return moving.size;
}

export const movingWords = (timeline: Timeline, frame: number, layers: number): string => {
  const moving = movingAt(timeline, frame);
  return `${count(layers, 'layer')}${moving ? `, ${moving} moving` : ''}`;
};

/**
 * A moment as it is typed: `48` (a frame of the whole, from 1), `2 s`, `+10` and `-1.5 s` from the present one, `Flood`, or
 * `Flood + 0.5 s`. Null where it is none; else within the timeline.
 */
export function parseMoment(text: string, timeline: Timeline, fps: number, now: number): number | null {
  const amount = (written: string): number | null => {
    const found = /^(\d+(?:\.\d+)?)\s*(s|ms)?$/i.exec(written.trim());
    if (!found) return null;
    const unit = found[2]?.toLowerCase();
    return unit ? (Number(found[1]) * fps) / (unit === 'ms' ? 1000 : 1) : Number(found[1]);
  };
  const within = (frame: number | null) => (frame === null ? null : clampTime(frame, 0, timeline.length - 1));
  const typed = text.trim();
  const [, sign, by] = /^([+-])\s*(.+)$/.exec(typed) ?? [];
  if (sign) {
    const frames = amount(by!);
    return within(frames === null ? null : now + (sign === '-' ? -frames : frames));
  }
  const plain = amount(typed);
  if (plain !== null) return within(/[a-z]$/i.test(typed) ? plain : plain - 1);
  for (const { name, time } of Object.values(timeline.labels ?? {}).sort((a, b) => b.name.length - a.name.length)) {
    if (typed.toLowerCase() === name.toLowerCase()) return time;
    const rest = typed.toLowerCase().startsWith(name.toLowerCase()) ? /^\s*([+-])\s*(.+)$/.exec(typed.slice(name.length)) : null;
    const frames = rest && amount(rest[2]!);
    if (rest && frames !== null && frames !== undefined) return within(time + (rest[1] === '-' ? -frames : frames));
  }
  return null;
}

/** `holds`, `loops`, `loops 3 times`, `goes on`, `goes to Begin`. */
export function endingWords(timeline: Timeline, { ending }: Pick<Section, 'ending'>): string {
  if (ending.do === 'hold') return 'holds';
  if (ending.do === 'loop') return ending.times === undefined ? 'loops' : `loops ${ending.times} times`;
  if (ending.do === 'go on') return 'goes on';
  const to = ending.do === 'go to' && ending.label !== null ? timeline.labels?.[ending.label]?.name : undefined;
  return `goes to ${to ?? '…'}`;
}

/** `Plays by itself, round and round, 24 frames a second, 5 s`. */
export const timelineWords = (timeline: Timeline, fps: number): string =>
  [
    timeline.autoplay === false ? 'Waits to be played' : 'Plays by itself',
    timeline.loop ? 'round and round' : 'once',
    `${fps} frames a second`,
    secondsWords(timeline.length, fps),
  ].join(', ');

/** When a layer that is away at a moment is there: `only in Storm`; null where it is there. */
export function awayWords(timeline: Timeline, layer: string, frame: number): string | null {
  if (isThereAt(timeline, layer, frame)) return null;
  const spans = spansOf(timeline).get(layer)!;
  const sections = sectionsOf(timeline).filter(
    (section) => section.label !== null && spans.some(({ from, to }) => from <= section.to && to >= section.from)
  );
  if (sections.length === 0) return `only in frames ${listWords(spans.map(({ from, to }) => `${from + 1} to ${to + 1}`))}`;
  return `only in ${listWords(sections.map((section) => sectionName(timeline, section)))}`;
}

/** Where something happens in time besides where it is: keys, labels, ends of spans, cues; in order, each once. */
export function marksIn(timeline: Timeline): number[] {
  const marks = new Set<number>([0]);
  for (const { keys } of Object.values(timeline.tracks ?? {})) for (const key of Object.values(keys)) marks.add(key.time);
  for (const { time } of Object.values(timeline.labels ?? {})) marks.add(time);
  for (const { from, to } of Object.values(timeline.spans ?? {})) marks.add(from).add(to);
  for (const { time } of Object.values(timeline.cues ?? {})) marks.add(time);
  return [...marks].sort((a, b) => a - b);
}

/** A time, or the nearest mark within reach of it. */
export function snapped(marks: readonly number[], time: number, reach: number): number {
  let best = Math.round(time);
  let nearest = reach;
  for (const mark of marks)
    if (Math.abs(mark - time) <= nearest) {
      nearest = Math.abs(mark - time);
      best = mark;
    }
  return best;
}
