import type { Picture } from './making';

/** Films as WebM, encoded by the browser. */

/** Whether this browser encodes films at all: it does so only for addresses that are safe. */
export const canFilm = (): boolean => 'VideoEncoder' in globalThis;

/** Of those that WebM takes, the first that the browser encodes. */
const CODECS = ['vp9', 'vp8', 'av1'] as const;

/** So often, in seconds, a picture is whole and does not build on others: a film can be entered there. */
const WHOLE_EVERY = 1;

export interface FilmFile {
  add(picture: Picture): Promise<void>;
  end(): Promise<Uint8Array>;
  stop(): Promise<void>;
}

/** Begins a film of pictures of one size, so many a second. Its encoder is fetched only here. */
export async function beginWebm(width: number, height: number, perSecond: number): Promise<FilmFile> {
  const { BufferTarget, getFirstEncodableVideoCodec, Output, QUALITY_VERY_HIGH, VideoSample, VideoSampleSource, WebMOutputFormat } =
    await import('mediabunny');
  const codec = await getFirstEncodableVideoCodec([...CODECS], { width, height });
  if (!codec) throw new Error(`this browser cannot encode a film of ${width} × ${height} pixels. Choose another size, or GIF.`);
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new VideoSampleSource({ codec, bitrate: QUALITY_VERY_HIGH, keyFrameInterval: WHOLE_EVERY, latencyMode: 'quality' });
  output.addVideoTrack(source, { frameRate: perSecond });
  await output.start();
  let count = 0;
  return {
    async add(picture) {
      const sample = new VideoSample(picture, { timestamp: count / perSecond, duration: 1 / perSecond });
      count++;
      await source.add(sample);
      sample.close();
    },
    async end() {
      await output.finalize();
      return new Uint8Array(target.buffer!);
    },
    stop: () => output.cancel(),
  };
}
