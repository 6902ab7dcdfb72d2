import type { Layer } from '../../piece/piece.ts';
import { trackedIn } from '../../run/playhead.ts';
import { keyTimesOf } from './keys.ts';
import type { Timeline } from './timeline.ts';

/** A moment on the way of a layer: where its middle is, in the space of what it is in. */
export interface WayPoint {
  readonly time: number;
  readonly x: number;
  readonly y: number;
  readonly isKey: boolean;
}

/** At most so many points; of a longer way only some moments are taken, its keys always. */
const MOST_POINTS = 240;

/** The way that a layer goes from the first key of its place to the last; empty where it stays. */
export function motionPath(timeline: Timeline, layer: Layer): WayPoint[] {
  const keys = keyTimesOf(timeline, layer.id, ['x', 'y']);
  if (keys.length < 2) return [];
  const [first, last] = [keys[0]!, keys.at(-1)!];
  const step = Math.max(1, Math.ceil((last - first) / MOST_POINTS));
  const times = new Set(keys);
  for (let time = first; time < last; time += step) times.add(time);
  const isKey = new Set(keys);
  return [...times]
    .sort((a, b) => a - b)
    .map((time) => {
      const pose = { ...layer.pose, ...trackedIn(timeline, layer.id, time, layer)?.pose };
      return { time, x: pose.x + pose.width / 2, y: pose.y + pose.height / 2, isKey: isKey.has(time) };
    });
}
