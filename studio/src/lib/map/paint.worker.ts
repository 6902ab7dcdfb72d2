/// <reference lib="webworker" />
import letters from '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2?url';
import { draw, type Drawn, type Pointed, type Seen } from './paint';

/** Draws the map where nothing else waits for it. */

export type PaintTask =
  | { readonly about: 'canvas'; readonly canvas: OffscreenCanvas }
  | ({ readonly about: 'seen' } & Seen)
  | ({ readonly about: 'map' } & Drawn)
  | ({ readonly about: 'pointed' } & Pointed)
  | { readonly about: 'picture'; readonly frame: string; readonly picture: ImageBitmap }
  /** Pictures of all other frames are let go. */
  | { readonly about: 'frames'; readonly frames: readonly string[] };

let context: OffscreenCanvasRenderingContext2D | null = null;
let seen: Seen | null = null;
let map: Drawn | null = null;
let pointed: Pointed = { lit: [], drawn: null, hovered: null, target: null };
const pictures = new Map<string, ImageBitmap>();
let turn = 0;

const worker = self as unknown as DedicatedWorkerGlobalScope & { readonly fonts: FontFaceSet };

function paint(): void {
  turn = 0;
  if (!context || !seen || !map || !isLettered) return;
  const { canvas } = context;
  const [wide, high] = [Math.round(seen.width * seen.sharpness), Math.round(seen.height * seen.sharpness)];
  if (canvas.width !== wide || canvas.height !== high) [canvas.width, canvas.height] = [wide, high];
  draw(context, seen, map, pointed, (frame) => pictures.get(frame) ?? null);
}

const soon = () => (turn ||= requestAnimationFrame(paint));

const font = new FontFace('Atkinson Hyperlegible Next', `url(${letters})`, { weight: '200 800' });
worker.fonts.add(font);
/** Words are drawn once their font is there, or cannot be had. */
let isLettered = false;
const begin = () => {
  isLettered = true;
  soon();
};
void font.load().then(begin, begin);

worker.onmessage = ({ data }: MessageEvent<PaintTask>) => {
  if (data.about === 'canvas') context = data.canvas.getContext('2d');
  else if (data.about === 'seen') seen = data;
  else if (data.about === 'map') map = data;
  else if (data.about === 'pointed') pointed = data;
  else if (data.about === 'picture') {
    pictures.get(data.frame)?.close();
    pictures.set(data.frame, data.picture);
  } else {
    const kept = new Set(data.frames);
    for (const [frame, picture] of pictures)
      if (!kept.has(frame)) {
        picture.close();
        pictures.delete(frame);
      }
  }
  soon();
};
