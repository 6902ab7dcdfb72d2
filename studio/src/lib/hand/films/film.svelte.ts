import { zipSync } from 'fflate';
import { hundredths, painted, pngOf, type Shot } from './making';
import type { GifAnswer, GifTask } from './gif.worker';

export interface FilmWish {
  readonly shots: readonly Shot[];
  readonly assetUrl: (asset: string) => string;
  readonly scale: number;
}

/** Pictures or a film being made, with how far it is. */
export class Making {
  done = $state(0);
  all = $state(0);
  isBusy = $state(false);
  private readonly stopping = new AbortController();

  stop(): void {
    this.stopping.abort();
  }

  /** Pictures as a zip of PNG files; null where it was stopped. */
  async pictures({ shots, assetUrl, scale }: FilmWish): Promise<Uint8Array | null> {
    return this.during(shots.length, async () => {
      const files: Record<string, [Uint8Array, { level: 0 }]> = {};
      for await (const { name, picture } of painted(shots, assetUrl, scale, this.stopping.signal)) {
        files[`${name}.png`] = [await pngOf(picture), { level: 0 }];
        this.done++;
      }
      return zipSync(files);
    });
  }

  /** The same as one film. */
  async gif({ shots, assetUrl, scale }: FilmWish, perSecond: number, loops: boolean): Promise<Uint8Array | null> {
    return this.during(shots.length, async () => {
      const worker = new Worker(new URL('./gif.worker.ts', import.meta.url), { type: 'module' });
      try {
        const answered: { next: (answer: GifAnswer) => void; fail: (error: Error) => void } = { next: () => undefined, fail: () => undefined };
        worker.onmessage = ({ data }: MessageEvent<GifAnswer>) => answered.next(data);
        worker.onerror = ({ message }) => answered.fail(new Error(message));
        const ask = (task: GifTask) =>
          new Promise<GifAnswer>((resolve, reject) => {
            [answered.next, answered.fail] = [resolve, reject];
            worker.postMessage(task, task === 'end' ? [] : [task.pixels.buffer]);
          });
        const times = hundredths(shots.length, perSecond);
        for await (const { picture } of painted(shots, assetUrl, scale, this.stopping.signal)) {
          const { data: pixels, width, height } = picture.getContext('2d')!.getImageData(0, 0, picture.width, picture.height);
          await ask({ pixels, width, height, hundredths: times[this.done]!, loops });
          this.done++;
        }
        if (this.stopping.signal.aborted) return null;
        const end = await ask('end');
        return 'file' in end ? end.file : null;
      } finally {
        worker.terminate();
      }
    });
  }

  private async during(all: number, make: () => Promise<Uint8Array | null>): Promise<Uint8Array | null> {
    [this.all, this.done, this.isBusy] = [all, 0, true];
    try {
      const file = await make();
      return this.stopping.signal.aborted ? null : file;
    } finally {
      this.isBusy = false;
    }
  }
}
