import { forgetLines, paintMoment, paintScreen } from '@zany/player';
import type { Picture as Moment, Screen } from '@zany/core';
import { patiently } from './fetch-again';
import { inText } from './in-text';

/** Paints small pictures of screens, a few at a time, so that many of them hold up nothing. */

/** How long painting may take out of a frame, ms. */
const SHARE = 6;

/** The most pixels one picture may have. */
const MOST_PIXELS = 4_000_000;

const queue = new Map<object, () => void>();
let turn = 0;

function paintSome(): void {
  const begun = performance.now();
  for (const [image, paint] of queue) {
    queue.delete(image);
    paint();
    if (performance.now() - begun > SHARE) break;
  }
  turn = queue.size ? requestAnimationFrame(paintSome) : 0;
}

/** Paints soon; what waited for the same one before is left out. */
function soon(one: object, paint: () => void): void {
  queue.set(one, paint);
  turn ||= requestAnimationFrame(paintSome);
}

type Listener = () => void;

type Loaded = CanvasImageSource & { readonly width: number; readonly height: number };

/** Pictures by address, fetched once; those that wait for one are told when it is there. Null is what could not be read. */
const pictures = new Map<string, { picture: Loaded | null; readonly waiting: Set<Listener> | null }>();

function pictureAt(url: string, kind: 'picture' | 'video', wait: Listener): Loaded | null {
  const known = pictures.get(url);
  known?.waiting?.add(wait);
  if (known) return known.picture;
  const waiting = new Set([wait]);
  pictures.set(url, { picture: null, waiting });
  void load(url, kind).then(
    (picture) => {
      pictures.set(url, { picture, waiting: null });
      for (const tell of waiting) tell();
    },
    () => pictures.set(url, { picture: null, waiting: null })
  );
  return null;
}

/** A picture if it is there already; else it is fetched for the next time. */
export const pictureNow = (url: string): Loaded | null => pictureAt(url, 'picture', () => undefined);

const load = (url: string, kind: 'picture' | 'video'): Promise<Loaded> => patiently(url, kind === 'video' ? beginningOf : loaded);

/** A picture, or the beginning of a film, once it is there; null for what cannot be read. */
export const pictureOnce = (url: string, kind: 'picture' | 'video'): Promise<Loaded | null> => load(url, kind).catch(() => null);

async function loaded(url: string): Promise<Loaded> {
  const image = new Image();
  image.src = url;
  await image.decode();
  return image;
}

/** Films on their way: nothing else holds them, and what nothing holds may be thrown away before it has come. */
const coming = new Set<HTMLVideoElement>();

/** The longest the first picture of a film may take, ms. */
const LONGEST = 30_000;

/** The first picture of a film. */
function beginningOf(url: string): Promise<Loaded> {
  const video = document.createElement('video');
  coming.add(video);
  video.muted = true;
  video.preload = 'auto';
  return new Promise<Loaded>((resolve, reject) => {
    const fail = () => reject(new Error('This film cannot be shown here.'));
    const timer = setTimeout(fail, LONGEST);
    video.onerror = fail;
    video.onloadeddata = () => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [video.videoWidth, video.videoHeight];
      canvas.getContext('2d')!.drawImage(video, 0, 0);
      clearTimeout(timer);
      video.removeAttribute('src');
      resolve(canvas);
    };
    video.src = url;
  }).finally(() => coming.delete(video));
}

const fetching = new Set<string>();

/** Fetches fonts that texts were painted without; whoever painted so is told. `lacks` hears of each of them. */
function fetchFonts(fonts: Iterable<string>, tell: Listener, lacks: Listener): void {
  for (const font of fonts) {
    if (document.fonts.check(font)) continue;
    lacks();
    if (fetching.has(font)) continue;
    fetching.add(font);
    void document.fonts
      .load(font)
      .catch(() => [])
      .then(() => {
        fetching.delete(font);
        forgetLines();
        tell();
      });
  }
}

export interface ThumbPaint {
  /** A settled screen, or one at a moment at which much may be under way. */
  readonly screen: Screen | Moment;
  readonly assetUrl: (asset: string) => string;
  /** Pixels of the picture for one CSS pixel of the screen. */
  readonly scale: number;
  /** It is painted smaller rather than with more pixels than this. */
  readonly mostPixels?: number;
}

export type Picture = OffscreenCanvas;

/** A canvas with a screen on it; whoever waits is told when pictures and fonts that it lacks have come. `lacks` hears of each of them. */
function painted(
  { screen, assetUrl, scale: wanted, mostPixels = MOST_PIXELS }: ThumbPaint,
  again: Listener,
  lacks: Listener = () => undefined
): Picture | null {
  const scale = Math.min(wanted, Math.sqrt(mostPixels / (screen.width * screen.height)));
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(screen.width * scale)), Math.max(1, Math.round(screen.height * scale)));
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) return null;
  const pictureOf = (asset: string, kind: 'picture' | 'video') => {
    const url = assetUrl(asset);
    const picture = pictureAt(url, kind, again);
    if (picture === null && pictures.get(url)!.waiting !== null) lacks();
    return picture;
  };
  const options = { scale, picture: pictureOf };
  fetchFonts('scenes' in screen ? paintMoment(context, screen, options) : paintScreen(context, screen, options), again, lacks);
  return canvas;
}

/** So long what a picture lacks is waited for each time, ms, and so often. */
const PATIENCE = { ms: 4000, times: 4 } as const;

/** A screen with all its pictures and fonts, as far as they can be had. */
export async function paintWhole(wanted: ThumbPaint): Promise<Picture | null> {
  let picture: Picture | null = null;
  for (let i = 0; i < PATIENCE.times; i++) {
    let isWhole = true;
    const come = new Promise<void>((resolve) => {
      picture = painted(wanted, resolve, () => (isWhole = false));
    });
    if (isWhole) break;
    await Promise.race([come, new Promise((resolve) => setTimeout(resolve, PATIENCE.ms))]);
  }
  return picture;
}

/** Paints a screen for another canvas soon, and again when what it lacked has come; gives a function that calls it off. */
export function paintPicture(wanted: () => ThumbPaint | null, done: (picture: Picture) => void): () => void {
  const one = {};
  let isOff = false;
  const again = () => {
    if (!isOff) soon(one, paint);
  };
  const paint = () => {
    const asked = wanted();
    const picture = asked && painted(asked, again);
    if (picture) done(picture);
  };
  soon(one, paint);
  return () => {
    isOff = true;
    queue.delete(one);
  };
}

/**
 * Shows a picture of a screen, and another one when its pictures and fonts have come. It is an image rather than a canvas, as the
 * browser makes each canvas a layer of its own, which every later change of the page would have to count with.
 */
export function paintThumb(image: HTMLImageElement, wanted: ThumbPaint): void {
  const again = () => image.isConnected && soon(image, paint);
  const paint = () => {
    const canvas = painted(wanted, again);
    if (!canvas) return;
    const turn = (turns.get(image) ?? 0) + 1;
    turns.set(image, turn);
    void canvas
      .convertToBlob({ type: 'image/webp', quality: 0.92 })
      // An address that only names it has to be registered with the browser, which keeps the page waiting.
      .then(inText)
      .then((address) => turns.get(image) === turn && (image.src = address));
  };
  soon(image, paint);
}

/** How often each image was painted: what is ready after a later one is not shown any more. */
const turns = new WeakMap<HTMLImageElement, number>();

/** Lets go of what an image shows, or was to show. */
export function forgetThumb(image: HTMLImageElement): void {
  queue.delete(image);
  turns.delete(image);
}

const seers = new WeakMap<Element, (seen: boolean) => void>();
let observer: IntersectionObserver | null = null;

/** Says when an element comes near the view, and when it leaves it; gives a function that ends it. */
export function watchSeen(node: Element, tell: (seen: boolean) => void): () => void {
  observer ??= new IntersectionObserver((entries) => entries.forEach((entry) => seers.get(entry.target)?.(entry.isIntersecting)), {
    rootMargin: '200px',
  });
  const watching = observer;
  seers.set(node, tell);
  watching.observe(node);
  return () => watching.unobserve(node);
}
