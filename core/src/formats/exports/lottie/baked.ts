/** Values at whole timeline frames as keyframes of the Lottie format, as few as say the same: between two of them everything is linear. */

export type Baked = { readonly a: 0; readonly k: number | readonly number[] } | { readonly a: 1; readonly k: readonly Keyframe[] };

interface Keyframe {
  readonly t: number;
  readonly s: readonly number[];
  readonly i?: { readonly x: readonly number[]; readonly y: readonly number[] };
  readonly o?: { readonly x: readonly number[]; readonly y: readonly number[] };
}

/** A keyframe stands in for so many timeline frames at most. */
const LONGEST = 240;

/** Straight from one keyframe to the next. */
const LINEAR = { i: { x: [1], y: [1] }, o: { x: [0], y: [0] } } as const;

const rounded = (value: number): number => Math.round(value * 1000) / 1000;

/** One list of numbers for each timeline frame; `near` is how far off a number may be. */
export function baked(moments: readonly (readonly number[])[], near = 0.01): Baked {
  const first = moments[0] ?? [0];
  if (moments.every((moment) => isNear(moment, first, near))) return { a: 0, k: first.map(rounded) };
  return { a: 1, k: turns(moments, near).map((t, i, all) => ({ t, s: moments[t]!.map(rounded), ...(i < all.length - 1 && LINEAR) })) };
}

/** The same for a property that is one number. */
export function bakedNumber(moments: readonly number[], near = 0.01): Baked {
  const found = baked(
    moments.map((moment) => [moment]),
    near
  );
  return found.a === 0 ? { a: 0, k: (found.k as readonly number[])[0]! } : found;
}

const isNear = (a: readonly number[], b: readonly number[], near: number): boolean => a.every((value, i) => Math.abs(value - b[i]!) <= near);

/** The moments between which all others lie on a straight line. */
export function turns(moments: readonly (readonly number[])[], near: number): number[] {
  const last = moments.length - 1;
  const found = [0];
  for (let from = 0; from < last;) {
    let to = from + 1;
    while (to < last && to - from < LONGEST && isStraight(moments, from, to + 1, near)) to++;
    found.push(to);
    from = to;
  }
  return found;
}

function isStraight(moments: readonly (readonly number[])[], from: number, to: number, near: number): boolean {
  const [a, b] = [moments[from]!, moments[to]!];
  for (let t = from + 1; t < to; t++) {
    const share = (t - from) / (to - from);
    if (!moments[t]!.every((value, i) => Math.abs(value - (a[i]! + (b[i]! - a[i]!) * share)) <= near)) return false;
  }
  return true;
}
