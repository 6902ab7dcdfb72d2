import { keysOf } from '../../motion/track.ts';
import { sectionsOf } from '../../run/playhead.ts';
import { moveKeys, movedKeys, staggerKeys, stretchKeys, type KeyAt } from './keys.ts';
import { lengthenSection, resizeSection } from './sections.ts';
import { MOST_FRAMES, type Section, type Timeline } from './timeline.ts';

/**
 * Keys that are pulled in time. Where the last of them stands on the last frame of its section, it holds the ending there: a clip
 * that is made slower or faster by its last key ends where that key comes to stand.
 */

/** Moves keys in time; gives where they stand then as well. */
export function pullKeys(timeline: Timeline, keys: readonly KeyAt[], by: number): { readonly timeline: Timeline; readonly keys: readonly KeyAt[] } {
  const section = heldBy(timeline, keys);
  const shift = Math.min(Math.round(by), MOST_FRAMES - timeline.length);
  if (!section || shift === 0 || Math.min(...keys.map(({ time }) => time)) + shift < section.from)
    return { timeline: moveKeys(timeline, keys, by), keys: movedKeys(timeline, keys, by) };
  return {
    timeline: carried(timeline, section, keys, shift, (now) => moveKeys(now, keys, shift)),
    keys: keys.map((key) => ({ ...key, time: key.time + shift })),
  };
}

/** Stretches keys about a time that stays, see `stretchKeys`; a section that they would run out of becomes as long as they need. */
export function pullStretched(timeline: Timeline, keys: readonly KeyAt[], anchor: number, factor: number): Timeline {
  const stretched = (now: Timeline) => stretchKeys(now, keys, anchor, factor);
  const around = sectionAround(timeline, keys);
  if (!around) return stretched(timeline);
  const last = Math.round(anchor + (Math.max(...keys.map(({ time }) => time)) - anchor) * factor);
  if (last > around.to) return stretched(lengthenSection(timeline, around, last - around.to));
  const held = heldBy(timeline, keys);
  return held ? carried(timeline, held, keys, last - held.to, stretched) : stretched(timeline);
}

/** The section whose ending keys hold: all of them are in it, and the last one is on its last frame. */
function heldBy(timeline: Timeline, keys: readonly KeyAt[]): Section | undefined {
  const section = sectionAround(timeline, keys);
  return section && section.to > section.from && keys.some(({ time }) => time === section.to) ? section : undefined;
}

const sectionAround = (timeline: Timeline, keys: readonly KeyAt[]): Section | undefined =>
  sectionsOf(timeline).find(({ from, to }) => keys.every(({ time }) => time >= from && time <= to));

function carried(timeline: Timeline, section: Section, keys: readonly KeyAt[], by: number, change: (now: Timeline) => Timeline): Timeline {
  if (by >= 0) return change(lengthenSection(timeline, section, by));
  // What else stands near the end keeps it there.
  const isChosen = (track: string, time: number) => keys.some((key) => key.track === track && key.time === time);
  const others = [
    ...Object.entries(timeline.tracks ?? {}).flatMap(([id, track]) => keysOf(track).filter(({ time }) => !isChosen(id, time))),
    ...Object.values(timeline.cues ?? {}),
  ].flatMap(({ time }) => (time >= section.from && time <= section.to ? [time] : []));
  const to = Math.max(section.from, section.to + by, ...others);
  return resizeSection(change(timeline), section.label, to - section.from + 1, 'push');
}

/** Keys of one layer after the other, see `staggerKeys`; a section that they would run out of becomes as long as they need. */
export function pullStaggered(timeline: Timeline, keys: readonly KeyAt[], layers: readonly string[], by: number): Timeline {
  const lastOf = (layer: string) => Math.max(...keys.filter(({ track }) => timeline.tracks?.[track]?.layer === layer).map(({ time }) => time));
  const order = layers.filter((layer) => lastOf(layer) >= 0);
  const last = Math.max(...order.map((layer, i) => lastOf(layer) + i * by));
  const section = sectionAround(timeline, keys);
  const wide = section && last > section.to ? lengthenSection(timeline, section, last - section.to) : timeline;
  return staggerKeys(wide, keys, order, by);
}
