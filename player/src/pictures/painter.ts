import { MOST_PIXELS, scaleFor, type AssetBytes, type Piece, type Screen, type Shot } from '@zany/core';
import { createCanvas, GlobalFonts, loadImage, Path2D, type Canvas, type Image, type SKRSContext2D } from '@napi-rs/canvas';
import { paintMoment, paintScreen, type PaintOptions } from '../paint-screen.ts';
import { middleOf, onWhite } from './canvas.ts';
import { markPress, PRESS_RADIUS } from './press-mark.ts';
import { faceRule, type DrawingSources } from './svg.ts';
import { WishFault } from './wish.ts';

/** Painting where there is no browser: by Skia, which paints in Chromium too, with the faces that exported pages carry. */

export type { Canvas };

/** Faces by family, each a woff2 file in base64. */
export type Faces = Readonly<Record<string, string>>;

type BrowserContext = OffscreenCanvasRenderingContext2D;

/**
 * The context of a canvas as those of browsers are: it takes fonts of every weight. By itself it takes whole hundreds, and reads others as
 * a size.
 */
function contextOf(canvas: Canvas): BrowserContext {
  const context = canvas.getContext('2d');
  if (!Object.hasOwn(context, 'font')) Object.defineProperty(context, 'font', { get: () => own.get!.call(context) as string, set: setFont });
  return context as unknown as BrowserContext;
}

const own = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(createCanvas(1, 1).getContext('2d')), 'font')!;

function setFont(this: SKRSContext2D, font: string): void {
  const weight = /^\d+(?= )/.exec(font)?.[0];
  const hundreds = Math.min(9, Math.max(1, Math.round(Number(weight) / 100)));
  own.set!.call(this, weight === undefined ? font : `${hundreds}00${font.slice(weight.length)}`);
  this.fontVariationSettings = weight === undefined ? 'normal' : `"wght" ${weight}`;
}

const registered = new Set<string>();

function register(faces: Faces): void {
  for (const [family, file] of Object.entries(faces)) {
    if (registered.has(family)) continue;
    registered.add(family);
    GlobalFonts.register(Buffer.from(file, 'base64'), family);
  }
}

function outline(data: string, byX: number, byY: number): Path2D {
  const path = new Path2D();
  path.addPath(new Path2D(data), { a: byX, b: 0, c: 0, d: byY, e: 0, f: 0 });
  return path;
}

/** Paints pictures of a piece; what was read for one is there for the next. */
export class Painter {
  private readonly images = new Map<string, Image | null>();

  constructor(
    private readonly piece: Piece,
    private readonly assets: AssetBytes,
    private readonly faces: Faces
  ) {
    register(faces);
  }

  /** Names of files that were to be seen and cannot be painted here: films, and pictures that are not there or cannot be read. */
  get unseen(): readonly string[] {
    return [...this.images].flatMap(([asset, image]) => (image ? [] : (this.piece.assets.get(asset)?.name ?? asset))).sort();
  }

  /** A picture, so many pixels to the CSS px. */
  async paint({ name, screen, press, size }: Shot, scale: number): Promise<Canvas> {
    if (scaleFor(screen, scale) < scale)
      throw new WishFault(`${name} would have more than ${MOST_PIXELS / 1e6} million pixels. Choose a smaller size.`);
    const lacking = new Set<string>();
    const painted = (): Canvas => {
      const canvas = createCanvas(Math.max(1, Math.round(screen.width * scale)), Math.max(1, Math.round(screen.height * scale)));
      const options = { scale, picture: this.pictureFor(lacking), outline, another } as unknown as PaintOptions;
      const context = contextOf(canvas);
      if ('scenes' in screen) paintMoment(context, screen, options);
      else paintScreen(context, screen as Screen, options);
      if (!press) return canvas;
      context.setTransform(scale, 0, 0, scale, 0, 0);
      markPress(context, press, PRESS_RADIUS);
      return canvas;
    };
    const first = painted();
    if (lacking.size === 0) return within(first, size, scale);
    await Promise.all([...lacking].map((asset) => this.read(asset)));
    return within(painted(), size, scale);
  }

  private pictureFor(lacking: Set<string>) {
    return (asset: string): Image | null => {
      const image = this.images.get(asset);
      if (image === undefined) lacking.add(asset);
      return image ?? null;
    };
  }

  private async read(asset: string): Promise<void> {
    const isFilm = this.piece.assets.get(asset)?.mediaType.startsWith('video/');
    const bytes = isFilm ? undefined : this.assets.get(asset);
    this.images.set(asset, bytes ? await loadImage(Buffer.from(bytes)).catch(() => null) : null);
  }

  /** Where drawings have pictures and faces from. */
  get sources(): DrawingSources {
    return {
      measuring: contextOf(createCanvas(1, 1)),
      picture: async (asset) => {
        if (!this.images.has(asset)) await this.read(asset);
        const image = this.images.get(asset);
        return image ? { width: image.width, height: image.height, href: this.inText(asset) } : null;
      },
      ready: async () => undefined,
      faces: async (fonts) => {
        const used = Object.entries(this.faces).filter(([family]) => [...fonts].some((font) => font.includes(family)));
        return used.map(([family, file]) => faceRule(family, '100 900', `data:font/woff2;base64,${file}`)).join('');
      },
    };
  }

  private inText(asset: string): string {
    return `data:${this.piece.assets.get(asset)!.mediaType};base64,${Buffer.from(this.assets.get(asset)!).toString('base64')}`;
  }
}

function within(picture: Canvas, size: Shot['size'], scale: number): Canvas {
  const place = size && middleOf(picture, size, scale);
  if (!place) return picture;
  const around = createCanvas(place.width, place.height);
  around.getContext('2d').drawImage(picture, place.x, place.y);
  return around;
}

/** One more canvas, for what is painted by itself first. */
function another(width: number, height: number): Canvas {
  const canvas = createCanvas(width, height);
  contextOf(canvas);
  return canvas;
}

export const pngOf = (picture: Canvas): Promise<Uint8Array> => picture.encode('png');

/** RGBA, row by row, with white behind it. */
export function pixelsOf(picture: Canvas): Uint8ClampedArray {
  const context = contextOf(picture);
  onWhite(context);
  return context.getImageData(0, 0, picture.width, picture.height).data;
}
