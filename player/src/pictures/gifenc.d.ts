/** What is used of the package gifenc, which comes without types. */
declare module 'gifenc' {
  export type Palette = number[][];
  export function quantize(pixels: Uint8Array | Uint8ClampedArray, colours: number): Palette;
  export function applyPalette(pixels: Uint8Array | Uint8ClampedArray, palette: Palette): Uint8Array;
  export interface FrameOptions {
    readonly palette: Palette;
    /** In milliseconds. */
    readonly delay: number;
    /** -1 plays it once, 0 for ever. */
    readonly repeat: number;
  }
  export function GIFEncoder(): {
    writeFrame(indexed: Uint8Array, width: number, height: number, options: FrameOptions): void;
    finish(): void;
    bytes(): Uint8Array<ArrayBuffer>;
  };
}
