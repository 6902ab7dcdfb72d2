/// <reference lib="webworker" />
import { applyPalette, GIFEncoder, quantize } from 'gifenc';

/** A picture for the film, or its end. */
export type GifTask =
  | { readonly pixels: Uint8ClampedArray; readonly width: number; readonly height: number; readonly hundredths: number; readonly loops: boolean }
  | 'end';

/** So far, in pictures; at the end the file. */
export type GifAnswer = { readonly done: number } | { readonly file: Uint8Array };

const film = GIFEncoder();
let done = 0;

/** Puts one picture after the other into a GIF, each with the 256 colours that suit it best. */
onmessage = ({ data }: MessageEvent<GifTask>) => {
  if (data === 'end') {
    film.finish();
    const file = film.bytes();
    return postMessage({ file } satisfies GifAnswer, [file.buffer]);
  }
  const { pixels, width, height, hundredths, loops } = data;
  const palette = quantize(pixels, 256);
  // Once is what is played where nothing is said; 0 is for ever.
  film.writeFrame(applyPalette(pixels, palette), width, height, { palette, delay: hundredths * 10, repeat: loops ? 0 : -1 });
  postMessage({ done: ++done } satisfies GifAnswer);
};
