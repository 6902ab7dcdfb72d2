/** The outline of a sound: the loudest of each of so many stretches, from 0 to 1. */

export interface PeaksWanted {
  readonly id: number;
  readonly samples: Float32Array;
  readonly count: number;
}

export function peaksOf(samples: Float32Array, count: number): Float32Array {
  const peaks = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const end = Math.floor(((i + 1) * samples.length) / count);
    let most = 0;
    for (let at = Math.floor((i * samples.length) / count); at < end; at++) most = Math.max(most, Math.abs(samples[at]!));
    peaks[i] = Math.min(1, most);
  }
  return peaks;
}

addEventListener('message', ({ data: { id, samples, count } }: MessageEvent<PeaksWanted>) => {
  const peaks = peaksOf(samples, count);
  (postMessage as (message: unknown, transfer: Transferable[]) => void)({ id, peaks }, [peaks.buffer]);
});
