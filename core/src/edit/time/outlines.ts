import { isAlike } from '../../motion/path.ts';
import { keysOf } from '../../motion/track.ts';
import { mapped, withKeys, type Timeline } from './timeline.ts';
import type { KeyAt } from './keys.ts';

/**
 * Outlines that keys lead from one to the other. Where two have the same commands each number goes its way; where they have not, the
 * one is faded into the other, until they are matched: drawn anew with the same points, each as near to the other's as can be.
 */

/** Tracks among those of the chosen keys in which an outline leads to an unlike one, and all are closed and drawn in one run. */
export function unlikeOutlines(timeline: Timeline, keys: readonly KeyAt[]): string[] {
  const chosen = new Set(keys.map(({ track }) => track));
  return Object.entries(timeline.tracks ?? {}).flatMap(([id, track]) => {
    if (track.property !== 'path' || !chosen.has(id)) return [];
    const outlines = keysOf(track).map(({ value }) => String(value));
    const differs = outlines.some((outline, i) => i > 0 && !isAlike(outlines[i - 1]!, outline));
    return differs && outlines.every(isOneRun) ? [id] : [];
  });
}

const isOneRun = (outline: string): boolean => (outline.match(/m/gi)?.length ?? 0) === 1 && /z\s*$/i.test(outline);

/** The timeline with the outlines of some tracks drawn anew; `match` gives as many as it is given. */
export const withOutlines = (timeline: Timeline, tracks: readonly string[], match: (outlines: readonly string[]) => readonly string[]): Timeline => ({
  ...timeline,
  tracks: mapped(timeline.tracks ?? {}, (track, id) => {
    if (!tracks.includes(id)) return track;
    const outlines = match(keysOf(track).map(({ value }) => String(value)));
    return withKeys(
      track,
      keysOf(track).map((key, i) => ({ ...key, value: outlines[i] ?? key.value }))
    );
  }),
});
