import type { Tracked } from '../piece/schema.ts';
import { mixColors } from './color.ts';
import { easingOf } from './easing.ts';
import { mixPaths } from './path.ts';

export interface Keyframe {
  readonly time: number;
  readonly value: number | string;
  /** From here to the next keyframe; linear if not given. */
  readonly easing?: string;
}

/** The value of a track at a timeline frame: exactly a keyframe's at its time, the first one's before it, the last one's after. */
export function valueAt(keys: readonly Keyframe[], frame: number, property: Tracked): number | string {
  let low = 0;
  let high = keys.length - 1;
  if (frame <= keys[0]!.time) return keys[0]!.value;
  if (frame >= keys[high]!.time) return keys[high]!.value;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (keys[middle]!.time <= frame) low = middle;
    else high = middle;
  }
  const [a, b] = [keys[low]!, keys[high]!];
  if (frame === a.time) return a.value;
  return between(a.value, b.value, easingOf(a.easing ?? 'linear')((frame - a.time) / (b.time - a.time)), property);
}

function between(a: number | string, b: number | string, t: number, property: Tracked): number | string {
  if (typeof a === 'number' && typeof b === 'number') return a + (b - a) * t;
  return property === 'path' ? mixPaths(String(a), String(b), t) : mixColors(String(a), String(b), t);
}
