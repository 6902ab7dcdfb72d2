/** What is used of the package omggif, which comes without types. */
declare module 'omggif' {
  export class GifReader {
    constructor(bytes: Uint8Array);
    readonly width: number;
    readonly height: number;
    numFrames(): number;
    /** 0 is for ever; null where it is played once. */
    loopCount(): number | null;
    /** The delay in hundredths of a second. */
    frameInfo(frame: number): { readonly delay: number };
    decodeAndBlitFrameRGBA(frame: number, pixels: Uint8Array): void;
  }
}
