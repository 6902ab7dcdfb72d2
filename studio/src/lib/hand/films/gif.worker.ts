/// <reference lib="webworker" />
import { GifFilm } from '@zany/player/pictures';

/** A picture for the film, or its end. */
export type GifTask =
  | { readonly pixels: Uint8ClampedArray; readonly width: number; readonly height: number; readonly hundredths: number; readonly loops: boolean }
  | 'end';

/** So far, in pictures; at the end the file. */
export type GifAnswer = { readonly done: number } | { readonly file: Uint8Array };

const film = new GifFilm();
let done = 0;

onmessage = ({ data }: MessageEvent<GifTask>) => {
  if (data === 'end') {
    const file = film.end();
    return postMessage({ file } satisfies GifAnswer, [file.buffer]);
  }
  film.add(data.pixels, data.width, data.height, data.hundredths, data.loops);
  postMessage({ done: ++done } satisfies GifAnswer);
};
