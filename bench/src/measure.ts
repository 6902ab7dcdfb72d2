/** Times one piece of work many times and gives the middle and the 95th of a hundred, in milliseconds. */
export interface Figures {
  readonly median: number;
  readonly p95: number;
}

export function measure(runs: number, work: (run: number) => unknown): Figures {
  for (let i = 0; i < Math.min(runs, 20); i++) work(i);
  const times = Array.from({ length: runs }, (_, i) => {
    const began = performance.now();
    work(i);
    return performance.now() - began;
  });
  return figuresOf(times);
}

/** Times two pieces of work in turn, so that what else the machine does touches both alike; the ratio is of each pair. */
export function compare(runs: number, ours: () => unknown, theirs: () => unknown): { ours: Figures; theirs: Figures; ratio: number } {
  const a: number[] = [];
  const b: number[] = [];
  const time = (work: () => unknown) => {
    const began = performance.now();
    work();
    return performance.now() - began;
  };
  ours();
  theirs();
  for (let i = 0; i < runs; i++) {
    a.push(time(ours));
    b.push(time(theirs));
  }
  return { ours: figuresOf(a), theirs: figuresOf(b), ratio: at(a.map((ms, i) => ms / b[i]!).sort(rising), 0.5) };
}

const rising = (a: number, b: number) => a - b;

export const figuresOf = (times: readonly number[]): Figures => {
  const sorted = [...times].sort(rising);
  return { median: at(sorted, 0.5), p95: at(sorted, 0.95) };
};

const at = (sorted: readonly number[], share: number) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!;
