import type { Lead, Screen } from '@zany/core';
import { forgetLines, paintScreen, type PaintOptions } from '@zany/player';
import { pictureOnce } from '$lib/shared/thumb-paint';
import { inText } from '../../shared/in-text';
import { SvgCanvas, SvgOutline, type SvgPicture } from './svg-canvas';

/** Screens as SVG files that need nothing else: pictures and faces are in them. */

export interface Drawing {
  readonly title: string;
  readonly screen: Screen;
  readonly leads: readonly Lead[];
}

type Kind = 'picture' | 'video';

/** What the files of one hand-over have in common: what was fetched for one is there for the next. */
export class SvgMaker {
  private readonly measuring = new OffscreenCanvas(1, 1).getContext('2d')!;
  private readonly pictures = new Map<string, SvgPicture | null>();
  private readonly faces = new Map<string, string>();

  constructor(
    private readonly assetUrl: (asset: string) => string,
    /** The file of a frame; null where it is not among them. */
    private readonly fileOf: (frame: string) => string | null
  ) {}

  async file({ title, screen, leads }: Drawing): Promise<string> {
    const lacking = new Map<string, Kind>();
    const { fonts } = this.paint(screen, (asset, kind) => {
      lacking.set(asset, kind);
      return null;
    });
    await Promise.all([...lacking].map(([asset, kind]) => this.fetch(asset, kind)));
    await Promise.all([...fonts].map((font) => document.fonts.load(font).catch(() => [])));
    forgetLines();
    const { canvas } = this.paint(screen, (asset) => this.pictures.get(asset) ?? null);
    for (const { name, area, to } of leads) {
      const href = 'frame' in to ? this.fileOf(to.frame) : to.address;
      if (href !== null) canvas.link(name, href, area);
    }
    return canvas.file(title, await this.facesFor(fonts));
  }

  private paint(
    screen: Screen,
    picture: (asset: string, kind: Kind) => SvgPicture | null
  ): { readonly canvas: SvgCanvas; readonly fonts: ReadonlySet<string> } {
    const canvas = new SvgCanvas(screen.width, screen.height, this.measuring);
    const outline = (data: string, byX: number, byY: number) => new SvgOutline(data, byX, byY);
    const options = { scale: 1, picture, outline } as unknown as PaintOptions;
    return { canvas, fonts: paintScreen(canvas as unknown as OffscreenCanvasRenderingContext2D, screen, options) };
  }

  private async fetch(asset: string, kind: Kind): Promise<void> {
    if (this.pictures.has(asset)) return;
    const url = this.assetUrl(asset);
    const shown = await pictureOnce(url, kind);
    const href = shown && (kind === 'video' ? await stillOf(shown) : await dataOf(url));
    this.pictures.set(asset, shown && href !== null ? { width: shown.width, height: shown.height, href } : null);
  }

  /** The faces of some fonts, as rules with their files in them. */
  private async facesFor(fonts: ReadonlySet<string>): Promise<string> {
    const rules = [...document.styleSheets].flatMap((sheet) => [...sheet.cssRules]).filter((rule) => rule instanceof CSSFontFaceRule);
    const css: string[] = [];
    for (const { style, parentStyleSheet } of rules) {
      const family = style.getPropertyValue('font-family').replace(/^["']|["']$/g, '');
      const written = /url\("?([^")]+)"?\)/.exec(style.getPropertyValue('src'))?.[1];
      if (!written || ![...fonts].some((font) => font.includes(family))) continue;
      const url = new URL(written, parentStyleSheet?.href ?? document.baseURI).href;
      if (!this.faces.has(url)) this.faces.set(url, (await dataOf(url)) ?? '');
      const data = this.faces.get(url)!;
      if (data) css.push(`@font-face{font-family:'${family}';font-weight:${style.getPropertyValue('font-weight')};src:url(${data}) format('woff2')}`);
    }
    return [...new Set(css)].join('');
  }
}

/** A file as an address that holds it; null where it cannot be had. */
async function dataOf(url: string): Promise<string | null> {
  const response = await fetch(url).catch(() => null);
  return response?.ok ? inText(await response.blob()) : null;
}

async function stillOf(picture: CanvasImageSource & { readonly width: number; readonly height: number }): Promise<string> {
  const canvas = new OffscreenCanvas(picture.width, picture.height);
  canvas.getContext('2d')!.drawImage(picture, 0, 0);
  return inText(await canvas.convertToBlob({ type: 'image/png' }));
}
