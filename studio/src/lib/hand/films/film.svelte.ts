import { hundredths, toWalkThrough, type FrameShot, type Leaf, type PrintedFrame, type Program, type Shot } from '@zany/core';
import { pdfOf, SvgMaker, type Page } from '@zany/player/pictures';
import { strToU8, zipSync } from 'fflate';
import { inText } from '../../shared/in-text';
import { breath, onWhite, painted, pngOf } from './making';
import { sourcesHere } from './svg';
import { beginWebm, type FilmFile } from './webm';
import type { GifAnswer, GifTask } from './gif.worker';

export interface FilmWish<S extends Shot = Shot> {
  readonly shots: readonly S[];
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
      for await (const { shot, picture } of painted(shots, assetUrl, scale, this.stopping.signal)) {
        files[`${shot.name}.png`] = [await pngOf(picture), { level: 0 }];
        this.done++;
      }
      return zipSync(files);
    });
  }

  /** One PDF, with links where a click leads on. */
  async pdf(wish: FilmWish<Leaf>, title: string): Promise<Uint8Array | null> {
    return this.during(wish.shots.length, () => pdfOf(title, this.pages(wish)));
  }

  private async *pages({ shots, assetUrl, scale }: FilmWish<Leaf>): AsyncGenerator<Page> {
    for await (const { shot, picture } of painted(shots, assetUrl, scale, this.stopping.signal)) {
      const { title, frame, screen, leads } = shot;
      yield { title, frame, width: screen.width, height: screen.height, png: await pngOf(picture), leads };
      this.done++;
    }
  }

  /** Frames with their areas numbered and what is done there, as a page to print; `when` is said in it. */
  async walkThrough({ shots, assetUrl, scale }: FilmWish<FrameShot>, program: Program, when: string): Promise<Uint8Array | null> {
    return this.during(shots.length, async () => {
      const frames: PrintedFrame[] = [];
      for await (const { shot, picture } of painted(shots, assetUrl, scale, this.stopping.signal)) {
        const { title, frame, state } = shot;
        frames.push({ title, frame, state, picture: await inText(await picture.convertToBlob({ type: 'image/png' })) });
        this.done++;
      }
      return strToU8(toWalkThrough(program, frames, when));
    });
  }

  /** A zip of SVG files that lead to each other. */
  async svg({ shots, assetUrl }: FilmWish<Leaf>): Promise<Uint8Array | null> {
    const maker = new SvgMaker(sourcesHere(assetUrl), shots);
    return this.during(shots.length, async () => {
      const files: Record<string, Uint8Array> = {};
      for (const leaf of shots) {
        await breath();
        if (this.stopping.signal.aborted) break;
        files[`${leaf.name}.svg`] = strToU8(await maker.file(leaf));
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
          const { data: pixels, width, height } = onWhite(picture).getContext('2d')!.getImageData(0, 0, picture.width, picture.height);
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

  /** The same as a film that is played in browsers. */
  async webm({ shots, assetUrl, scale }: FilmWish, perSecond: number): Promise<Uint8Array | null> {
    return this.during(shots.length, async () => {
      let film: FilmFile | null = null;
      for await (const { picture } of painted(shots, assetUrl, scale, this.stopping.signal)) {
        film ??= await beginWebm(picture.width, picture.height, perSecond);
        await film.add(onWhite(picture));
        this.done++;
      }
      if (!this.stopping.signal.aborted) return film && film.end();
      await film?.stop();
      return null;
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
