import { clampTime, mapped, type Timeline } from './timeline.ts';

/** Cues on a timeline: at a moment a placement, a video or a sound plays on, pauses, or starts over. */

export type TimelineCue = NonNullable<Timeline['cues']>[string];

export const CUE_WORDS: Readonly<Record<TimelineCue['do'], string>> = { play: 'plays on', pause: 'pauses', 'start over': 'starts over' };

/** Gives layers a cue at a moment, in place of what they had there. */
export function addCue(timeline: Timeline, layers: readonly string[], time: number, what: TimelineCue['do'], makeId: () => string): Timeline {
  const at = clampTime(time, 0, timeline.length - 1);
  const rest = mapped(timeline.cues ?? {}, (cue) => (cue.time === at && layers.includes(cue.layer) ? null : cue));
  return { ...timeline, cues: { ...rest, ...Object.fromEntries(layers.map((layer) => [makeId(), { time: at, layer, do: what }])) } };
}

/** Moves a cue in time; one of the same layer that stands where it comes to gives way. */
export function moveCue(timeline: Timeline, id: string, by: number): Timeline {
  const cue = timeline.cues?.[id];
  if (!cue) return timeline;
  const time = clampTime(cue.time + by, 0, timeline.length - 1);
  const rest = mapped(timeline.cues!, (one, other) => (other !== id && one.layer === cue.layer && one.time === time ? null : one));
  return { ...timeline, cues: { ...rest, [id]: { ...cue, time } } };
}

export const removeCue = (timeline: Timeline, id: string): Timeline => ({
  ...timeline,
  cues: mapped(timeline.cues ?? {}, (cue, one) => (one === id ? null : cue)),
});
