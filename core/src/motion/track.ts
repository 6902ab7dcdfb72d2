import { Beside } from '../once.ts';
import type { Tracked } from '../piece/schema.ts';
import { easingOf } from './easing.ts';
import { mixValue } from './mix.ts';

export interface Keyframe {
  readonly time: number;
  readonly value: number | string;
  /** From here to the next keyframe; linear if not given. */
  readonly easing?: string;
}

/** A keyframe with the id that it has on its track. */
export interface KeyOf extends Keyframe {
  readonly id: string;
}

/** Keyframes by id, as a document keeps them. */
export type Keys = Readonly<Record<string, Keyframe>>;

const inTime = new Beside<Keys, readonly KeyOf[]>();

/** The keyframes of a track in the order of their times, each time once: of two at one time the one with the greater id stands. */
export function keysOf({ keys }: { readonly keys: Keys }): readonly KeyOf[] {
  let list = inTime.get(keys);
  if (!list) {
    const all = Object.entries(keys).map(([id, key]): KeyOf => ({ id, ...key }));
    all.sort((a, b) => a.time - b.time || (a.id < b.id ? -1 : 1));
    list = all.filter((key, i) => key.time !== all[i + 1]?.time);
    inTime.set(keys, list);
  }
  return list;
}

/**
 * Keyframes by id, from a list; of two at one time the later in the list stands. What has an id keeps it, unless one before it in the
 * list has the same; what has none is called after its time, so that the same key made twice by two people is one.
 */
export function keysById(list: readonly (Keyframe & { readonly id?: string })[]): Keys {
  const standing = list.every((key, i) => i === 0 || list[i - 1]!.time < key.time) ? list : [...new Map(list.map((key) => [key.time, key])).values()];
  const keys: Record<string, Keyframe> = {};
  const ordered: KeyOf[] = [];
  const place = (id: string, { time, value, easing }: Keyframe) => {
    keys[id] = easing === undefined ? { time, value } : { time, value, easing };
    ordered.push(easing === undefined ? { id, time, value } : { id, time, value, easing });
  };
  const fresh = standing.filter((key) => {
    if (key.id === undefined || Object.hasOwn(keys, key.id)) return true;
    place(key.id, key);
    return false;
  });
  for (const key of fresh) {
    let id = `k${key.time}`;
    while (Object.hasOwn(keys, id)) id += 'b';
    place(id, key);
  }
  // They will be asked for in order before long.
  inTime.set(
    keys,
    ordered.sort((a, b) => a.time - b.time)
  );
  return keys;
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
  return mixValue(property, a.value, b.value, easingOf(a.easing ?? 'linear')((frame - a.time) / (b.time - a.time)))!;
}
