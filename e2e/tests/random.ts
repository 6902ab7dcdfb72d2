/** Numbers by chance that are the same at every run. */
export interface Chance {
  /** From 0 up to but not 1. */
  readonly next: () => number;
  /** A whole number from 0 up to but not `below`. */
  readonly whole: (below: number) => number;
  /** A number between two, to three decimals. */
  readonly from: (least: number, most: number) => number;
  readonly among: <T>(list: readonly T[]) => T;
}

export function generator(seed: number): Chance {
  let state = seed;
  const next = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
  const whole = (below: number) => Math.floor(next() * below);
  return {
    next,
    whole,
    from: (least, most) => Math.round((least + next() * (most - least)) * 1000) / 1000,
    among: (list) => list[whole(list.length)]!,
  };
}
