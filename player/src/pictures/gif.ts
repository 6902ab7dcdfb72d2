// oxlint-disable-next-line typescript/triple-slash-reference -- whoever imports this knows by it of what the package is
/// <reference path="./gifenc.d.ts" />
import { applyPalette, GIFEncoder, quantize } from 'gifenc';

/** A film as GIF (89a): one picture after the other, each with the 256 colours that suit it best. */
export class GifFilm {
  private readonly film = GIFEncoder();

  /** @param pixels RGBA, row by row; `hundredths` of a second that it stands. */
  add(pixels: Uint8ClampedArray | Uint8Array, width: number, height: number, hundredths: number, loops: boolean): void {
    const palette = quantize(pixels, 256);
    // Once is what is played where nothing is said; 0 is for ever.
    this.film.writeFrame(applyPalette(pixels, palette), width, height, { palette, delay: hundredths * 10, repeat: loops ? 0 : -1 });
  }

  end(): Uint8Array {
    this.film.finish();
    return this.film.bytes();
  }
}
