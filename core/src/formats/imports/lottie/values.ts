import { cubicBezier } from '../../../motion/easing.ts';
import { isRecord } from '../../../record.ts';

/** Properties of the Lottie format (community specification 1.0, also as older files write them) at whole frames. */

export type Json = Readonly<Record<string, unknown>>;

export const recordIn = (value: unknown): Json => (isRecord(value) ? value : {});
export const listIn = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);
export const numberOf = (value: unknown, usual: number): number => (typeof value === 'number' && Number.isFinite(value) ? value : usual);

const numbersOf = (value: unknown): number[] =>
  Array.isArray(value) ? value.map((one) => numberOf(one, 0)) : typeof value === 'number' && Number.isFinite(value) ? [value] : [];

interface Key {
  readonly t: number;
  readonly from: unknown;
  readonly to: unknown;
  readonly isHeld: boolean;
  readonly ease: (share: number, dimension: number) => number;
  /** Handles of a curved way, beside its ends. */
  readonly out: readonly number[];
  readonly into: readonly number[];
}

/** Whether a property has keyframes. */
export const isMoving = (property: unknown): boolean => {
  const { k } = recordIn(property);
  return Array.isArray(k) && isRecord(k[0]) && 't' in k[0];
};

function keysOf(property: Json): Key[] {
  const written = listIn(property['k']).filter(isRecord);
  return written.map((key, i) => {
    const next = written[i + 1];
    // Older files write where a key ends, and then nothing in the last.
    const from = key['s'] ?? written[i - 1]?.['e'];
    const to = key['e'] ?? next?.['s'] ?? from;
    const [o, into] = [recordIn(key['o']), recordIn(key['i'])];
    const at = (side: Json, axis: 'x' | 'y', dimension: number, usual: number) => {
      const list = numbersOf(side[axis]);
      return list[dimension] ?? list[0] ?? usual;
    };
    const eased = new Map<number, (share: number) => number>();
    const ease = (share: number, dimension: number) => {
      let one = eased.get(dimension);
      if (!one) {
        const within = (value: number) => Math.min(1, Math.max(0, value));
        const [x1, y1] = [within(at(o, 'x', dimension, 0)), at(o, 'y', dimension, 0)];
        const [x2, y2] = [within(at(into, 'x', dimension, 1)), at(into, 'y', dimension, 1)];
        eased.set(dimension, (one = cubicBezier(x1, y1, x2, y2)));
      }
      return one(share);
    };
    return { t: numberOf(key['t'], 0), from, to, isHeld: key['h'] === 1, ease, out: numbersOf(key['to']), into: numbersOf(key['ti']) };
  });
}

/** A property of numbers at a frame. */
export function numbersAt(property: unknown, frame: number, usual: readonly number[]): number[] {
  const own = recordIn(property);
  // A position may be written a side at a time.
  if (own['s'] === true) return [...numbersAt(own['x'], frame, [usual[0] ?? 0]), ...numbersAt(own['y'], frame, [usual[1] ?? 0])];
  if (!isMoving(own)) {
    const still = numbersOf(own['k']);
    return usual.map((value, i) => still[i] ?? value);
  }
  const { key, share } = momentOf(keysOf(own), frame);
  const [from, to] = [numbersOf(key.from), numbersOf(key.to)];
  return usual.map((value, i) => {
    const a = from[i] ?? value;
    const b = to[i] ?? a;
    if (share <= 0) return a;
    const t = share >= 1 ? 1 : key.ease(share, i);
    const [one, two] = [key.out[i], key.into[i]];
    if (one === undefined || two === undefined) return a + (b - a) * t;
    const u = 1 - t;
    return u * u * u * a + 3 * u * u * t * (a + one) + 3 * u * t * t * (b + two) + t * t * t * b;
  });
}

/** The key that a frame is behind, and how far it is on to the next. */
function momentOf(keys: readonly Key[], frame: number): { key: Key; share: number } {
  const at = keys.findLastIndex(({ t }) => t <= frame);
  if (at < 0) return { key: keys[0]!, share: 0 };
  const key = keys[at]!;
  const next = keys[at + 1];
  if (!next || key.isHeld) return { key, share: next || key.isHeld ? 0 : key.to === key.from ? 0 : 1 };
  return { key, share: next.t === key.t ? 1 : (frame - key.t) / (next.t - key.t) };
}

/** An outline at a frame, as it is written: points with their handles beside them. */
export function outlineAt(property: unknown, frame: number): Json {
  const own = recordIn(property);
  if (!isMoving(own)) return recordIn(own['k']);
  const { key, share } = momentOf(keysOf(own), frame);
  const [from, to] = [key.from, key.to].map((side) => recordIn(Array.isArray(side) ? (side as unknown[])[0] : side));
  if (share <= 0) return from!;
  const t = key.ease(share, 0);
  const mixed = (name: string) =>
    listIn(from![name]).map((point, i) => numbersOf(point).map((value, k) => value + ((numbersOf(listIn(to![name])[i])[k] ?? value) - value) * t));
  return { c: from!['c'], v: mixed('v'), i: mixed('i'), o: mixed('o') };
}

/** SVG path data of an outline, with its points moved and scaled. */
export function pathData(outline: Json, [left, top]: readonly [number, number], byX: number, byY: number): string | null {
  const [v, into, out] = ['v', 'i', 'o'].map((name) => listIn(outline[name]).map(numbersOf)) as [number[][], number[][], number[][]];
  if (v.length === 0) return null;
  const said = (x: number, y: number) => `${tidy((x - left) * byX)} ${tidy((y - top) * byY)}`;
  const at = (i: number, beside: number[][] | null) => said((v[i]?.[0] ?? 0) + (beside?.[i]?.[0] ?? 0), (v[i]?.[1] ?? 0) + (beside?.[i]?.[1] ?? 0));
  const isStraight = (i: number, next: number) => [out[i], into[next]].every((handle) => (handle ?? [0, 0]).every((side) => side === 0));
  const step = (i: number, next: number) => (isStraight(i, next) ? `L${at(next, null)}` : `C${at(i, out)} ${at(next, into)} ${at(next, null)}`);
  const steps = v.slice(1).map((_, i) => step(i, i + 1));
  const closed = outline['c'] === true;
  return `M${at(0, null)}${steps.join('')}${closed ? `${isStraight(v.length - 1, 0) ? '' : step(v.length - 1, 0)}Z` : ''}`;
}

const tidy = (value: number): number => Math.round(value * 100) / 100;

/** The box of the points of an outline, with their handles. */
export function boxOf(outlines: readonly Json[]): { left: number; top: number; width: number; height: number } {
  const xs: number[] = [];
  const ys: number[] = [];
  for (const outline of outlines)
    for (const [i, point] of listIn(outline['v']).map(numbersOf).entries())
      for (const beside of [[0, 0], numbersOf(listIn(outline['i'])[i]), numbersOf(listIn(outline['o'])[i])]) {
        xs.push((point[0] ?? 0) + (beside[0] ?? 0));
        ys.push((point[1] ?? 0) + (beside[1] ?? 0));
      }
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return { left, top, width: Math.max(1, Math.max(...xs) - left), height: Math.max(1, Math.max(...ys) - top) };
}
