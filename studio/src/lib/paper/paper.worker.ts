import { cutOut } from './cut';
import { findCuts } from './find';
import type { Pixels } from './pixels';
import type { Quad } from './quad';

/** Reads photographs of paper and cuts frames out of them, away from the page. */

export type PaperAsked =
  | { readonly id: number; readonly do: 'read'; readonly photo: string; readonly picture: ImageBitmap }
  | { readonly id: number; readonly do: 'cut'; readonly photo: string; readonly quad: Quad; readonly width: number; readonly strength: number };

export type PaperAnswer = { readonly id: number } & ({ readonly cuts: readonly Quad[] } | { readonly picture: Blob } | { readonly problem: string });

const photos = new Map<string, Pixels>();

const pixelsOf = (picture: ImageBitmap): Pixels => {
  const { width, height } = picture;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  // What is clear in a picture lies on white.
  context.fillStyle = '#fff';
  context.fillRect(0, 0, width, height);
  context.drawImage(picture, 0, 0);
  picture.close();
  return context.getImageData(0, 0, width, height);
};

async function pictureOf({ width, height, data }: Pixels): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')!.putImageData(new ImageData(data, width, height), 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}

async function answer(asked: PaperAsked): Promise<PaperAnswer> {
  if (asked.do === 'read') {
    const photo = pixelsOf(asked.picture);
    photos.set(asked.photo, photo);
    return { id: asked.id, cuts: findCuts(photo) };
  }
  return { id: asked.id, picture: await pictureOf(cutOut(photos.get(asked.photo)!, asked.quad, asked.width, asked.strength)) };
}

addEventListener('message', ({ data }: MessageEvent<PaperAsked>) => {
  void answer(data)
    .catch((error: unknown): PaperAnswer => ({ id: data.id, problem: String((error as Error).message ?? error) }))
    .then((said) => postMessage(said));
});
